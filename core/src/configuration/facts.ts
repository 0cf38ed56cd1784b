import type { NodeName } from "../circuit/index.ts";
import { Configuration } from "./configuration.ts";
import { pairKey } from "./pair.ts";

type Each<K extends "added" | "meters"> = NonNullable<Configuration[K]>[number];

/** One thing that is not as drawn. */
export type Fact =
  | { readonly is: "swapped" | "lifted" | "out" | "off"; readonly part: string }
  | { readonly is: "lever"; readonly part: string; readonly position: "open" | "closed" }
  | { readonly is: "value"; readonly part: string; readonly value: number }
  | { readonly is: "added"; readonly added: Each<"added"> }
  | { readonly is: "meter"; readonly meter: Each<"meters"> }
  | { readonly is: "cleared"; readonly nodes: readonly [NodeName, NodeName] }
  | { readonly is: "leads"; readonly ohms: number }
  | { readonly is: "inHand"; readonly inHand: NonNullable<Configuration["inHand"]> };

const LISTS = ["swapped", "lifted", "out", "off"] as const;

/** All that is not as drawn, one by one: whoever goes through a configuration goes through these. */
export function factsOf(configuration: Configuration): Fact[] {
  const { switches = {}, values = {}, added = [], meters = [], cleared = [], leads, inHand } = configuration;
  return [
    ...LISTS.flatMap((is) => (configuration[is] ?? []).map((part): Fact => ({ is, part }))),
    ...Object.entries(switches).map(([part, position]): Fact => ({ is: "lever", part, position })),
    ...Object.entries(values).map(([part, value]): Fact => ({ is: "value", part, value })),
    ...added.map((one): Fact => ({ is: "added", added: one })),
    ...meters.map((meter): Fact => ({ is: "meter", meter })),
    ...cleared.map((nodes): Fact => ({ is: "cleared", nodes })),
    ...(leads === undefined ? [] : [{ is: "leads", ohms: leads } as const]),
    ...(inHand === undefined ? [] : [{ is: "inHand", inHand } as const]),
  ];
}

/** The configuration of which just these things hold; what else `before` says, of which nothing is known here, is kept. */
export function withFacts(before: Configuration, facts: readonly Fact[]): Configuration {
  const now: { -readonly [K in keyof Configuration]: Configuration[K] } = Object.fromEntries(
    Object.entries(before).filter(([key]) => !Object.hasOwn(Configuration.shape, key)),
  );
  for (const fact of facts) {
    switch (fact.is) {
      case "swapped":
      case "lifted":
      case "out":
      case "off":
        now[fact.is] = [...(now[fact.is] ?? []), fact.part];
        break;
      case "lever":
        now.switches = { ...now.switches, [fact.part]: fact.position };
        break;
      case "value":
        now.values = { ...now.values, [fact.part]: fact.value };
        break;
      case "added":
        now.added = [...(now.added ?? []), fact.added];
        break;
      case "meter":
        now.meters = [...(now.meters ?? []), fact.meter];
        break;
      case "cleared":
        now.cleared = [...(now.cleared ?? []), [...fact.nodes]];
        break;
      case "leads":
        now.leads = fact.ohms;
        break;
      case "inHand":
        now.inHand = fact.inHand;
        break;
      default:
        fact satisfies never;
    }
  }
  return now;
}

/** What of a configuration holds that is asked for. */
export function only(configuration: Configuration, keep: (fact: Fact) => boolean): Configuration {
  return withFacts(configuration, factsOf(configuration).filter(keep));
}

/** What a fact is about: of two about the same the later one holds. Two nodes are the same whichever is named first. */
export function slotOf(fact: Fact): string {
  switch (fact.is) {
    case "added":
      return `added ${pairKey(fact.added.from, fact.added.to)}`;
    case "meter":
      return `meter ${placeOf(fact.meter)}`;
    case "cleared":
      return `cleared ${pairKey(...fact.nodes)}`;
    case "leads":
    case "inHand":
      return fact.is;
    default:
      return `${fact.is} ${fact.part}`;
  }
}

/** Where a meter is: in the branch of a part, or across two nodes. */
function placeOf(meter: Each<"meters">): string {
  return "through" in meter ? String(meter.through) : pairKey(String(meter.from), meter.to as string | undefined);
}

/** Everything that changes what is measured, sorted: two that print alike solve alike. A part that is gone is gone. */
export function keyOf(configuration: Configuration): string {
  const said = factsOf(configuration).flatMap((fact) => {
    switch (fact.is) {
      case "lifted":
      case "out":
        return `gone ${fact.part}`;
      case "lever":
        return `${slotOf(fact)} ${fact.position}`;
      case "value":
        return `${slotOf(fact)} ${fact.value}`;
      case "added":
        return `${slotOf(fact)} ${fact.added.ohms}`;
      case "meter":
        return `${slotOf(fact)} ${fact.meter.ohms}`;
      case "leads":
      case "inHand":
        return [];
      default:
        return slotOf(fact);
    }
  });
  return [...new Set(said)].sort().join("|");
}

/** Whether the circuit stood the same; none said is as drawn. */
export function isSameState(one: Configuration = {}, other: Configuration = {}): boolean {
  return keyOf(one) === keyOf(other);
}
