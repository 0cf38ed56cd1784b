import { buildNetwork, type Circuit, type Network, UnknownValueError } from "../circuit/index.ts";
import { listed } from "../reduce/index.ts";

/** What meets at a node: ends of parts by name, a supply's with its sign. */
type Meeting = ReadonlySet<string>;

/** Ends that meet, node by node; nodes have no names here. */
function meetingsOf({ branches }: Network): Meeting[] {
  const at = new Map<number, Set<string>>();
  const put = (node: number, end: string) => at.set(node, (at.get(node) ?? new Set()).add(end));
  for (const { name, kind, from, to } of branches) {
    // Only a supply has a side; of others either end is as good.
    put(from, kind === "supply" ? `${name}+` : name);
    put(to, kind === "supply" ? `${name}−` : name);
  }
  return [...at.values()];
}

const keyOf = (meeting: Meeting) => [...meeting].sort().join(" ");

/**
 * Whether two circuits join the same parts in the same way, whatever their nodes are called: each node is known by the
 * ends that meet there, as every part has a name of its own.
 * @returns null where they do; else in words the first place where the second differs from the first
 */
export function firstDifference(due: Circuit, own: Circuit): string | null {
  const names = (c: Circuit) => new Set(c.parts.map((p) => p.designator));
  const missing = [...names(due)].filter((n) => !names(own).has(n));
  if (missing.length > 0) return `${missing.join(", ")} ${missing.length === 1 ? "is" : "are"} missing`;
  const extra = [...names(own)].filter((n) => !names(due).has(n));
  if (extra.length > 0) return `${extra.join(", ")} ${extra.length === 1 ? "is" : "are"} not in the drawing`;
  const [a, b] = [due, own].map(networkOf);
  const held = new Set(meetingsOf(b).map(keyOf));
  const lacking = meetingsOf(a).filter((m) => !held.has(keyOf(m)));
  const [first] = lacking.sort((m, n) => m.size - n.size);
  return first ? `in the drawing ${listed([...first].sort())} meet at one point, and nothing else does` : null;
}

const ONE_OHM = { resistance: { by: "ohms", ohms: 1 } } as const;

/** Values do not matter here: what is open on paper is taken as any. */
function networkOf(circuit: Circuit): Network {
  try {
    return buildNetwork(circuit);
  } catch (error) {
    if (!(error instanceof UnknownValueError)) throw error;
    const known = circuit.parts.map((p) =>
      p.designator !== error.designator ? p : p.kind === "supply" ? { ...p, volts: 1 } : { ...p, ...ONE_OHM },
    );
    return networkOf({ ...circuit, parts: known as Circuit["parts"] });
  }
}
