import type { Configuration } from "./configuration.ts";
import { type Fact, factsOf, withFacts } from "./facts.ts";

/** What parts and nodes are called now. */
export interface Names {
  readonly part: (name: string) => string;
  readonly node: (name: string) => string;
}

/** A fact with other names for the parts and nodes that it speaks of. */
function renamedFact(fact: Fact, { part, node }: Names): Fact {
  const ends = <T extends { readonly from?: unknown; readonly to?: unknown }>(one: T): T => ({
    ...one,
    from: node(String(one.from)),
    ...(one.to === undefined ? {} : { to: node(String(one.to)) }),
  });
  switch (fact.is) {
    case "added":
      return { ...fact, added: ends(fact.added) };
    case "meter": {
      const { meter } = fact;
      return { ...fact, meter: "through" in meter ? { ...meter, through: part(String(meter.through)) } : ends(meter) };
    }
    case "cleared":
      return { ...fact, nodes: fact.nodes.map(node) as [never, never] };
    case "inHand": {
      const { inHand } = fact;
      return { ...fact, inHand: { ...inHand, through: part(inHand.through), at: node(inHand.at) as never } };
    }
    case "leads":
      return fact;
    default:
      return { ...fact, part: part(fact.part) };
  }
}

/** A configuration in other names. */
export function renamed(configuration: Configuration, names: Names): Configuration {
  return withFacts(
    configuration,
    factsOf(configuration).map((fact) => renamedFact(fact, names)),
  );
}

/** Parts and nodes that a configuration speaks of, each as often as it does. */
export function placesOf(configuration: Configuration): { readonly parts: string[]; readonly nodes: string[] } {
  const [parts, nodes]: string[][] = [[], []];
  const noted = (list: string[]) => (name: string) => {
    list.push(name);
    return name;
  };
  for (const fact of factsOf(configuration)) renamedFact(fact, { part: noted(parts), node: noted(nodes) });
  return { parts, nodes };
}

/** The parts whose state is not as drawn, each once. */
export function partsNotAsDrawn(configuration: Configuration): string[] {
  return [...new Set(factsOf(configuration).flatMap((fact) => ("part" in fact ? [fact.part] : [])))];
}
