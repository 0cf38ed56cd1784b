import type { Network, NodeName, Part } from "../circuit/index.ts";
import type { NumericReading } from "../record/index.ts";

/** Something one can do at the bench to learn more. */
export type Measurement =
  | {
      readonly kind: "voltage" | "current" | "ohms" | "lift";
      readonly reading: NumericReading;
      readonly minutes: number;
    }
  | { readonly kind: "swap"; readonly part: string; readonly minutes: number };

/** Minutes each takes, with what has to be done before and after it. */
export interface Minutes {
  readonly voltage: number;
  readonly current: number;
  readonly ohms: number;
  readonly lift: number;
  readonly swap: number;
}

/** Power off and discharge for ohms; break and restore the circuit for current; unsolder for a lifted lead. */
export const MINUTES: Minutes = { voltage: 0.5, ohms: 2, current: 4, lift: 5, swap: 6 };

/** Kinds of part that are no use to lift or swap for a reading of their own. */
const FIXED: ReadonlySet<Part["kind"]> = new Set(["wire", "joint"]);

/**
 * All measurements on offer: each node against the reference, across and through each part, ohms across each part, a
 * lead lifted, a part swapped. What was read already stays on offer: taken again it can clear up a slip. Swaps, which
 * give no reading, come last.
 */
export function measurementsOn(network: Network, minutes: Minutes = MINUTES): Measurement[] {
  const named = (node: number) => network.nodes[node];
  const isHidden = (node: NodeName) => node.includes(".");
  const reference = network.nodes[network.reference];
  const found: Measurement[] = [];
  const seen = new Set<string>();
  const add = (measurement: Measurement) => {
    const key = measurement.kind === "swap" ? `swap ${measurement.part}` : JSON.stringify(measurement.reading);
    if (!seen.has(key)) found.push(measurement);
    seen.add(key);
  };
  for (const from of network.nodes) {
    if (from === reference || isHidden(from)) continue;
    add({ kind: "voltage", reading: { quantity: "voltage", from, value: 0 }, minutes: minutes.voltage });
  }
  for (const { name, from: a, to: b, kind } of network.branches) {
    const [from, to] = [named(a), named(b)];
    const open = isHidden(from) || isHidden(to);
    if (!open && to !== reference && from !== reference)
      add({ kind: "voltage", reading: { quantity: "voltage", from, to, value: 0 }, minutes: minutes.voltage });
    add({ kind: "current", reading: { quantity: "current", through: name, value: 0 }, minutes: minutes.current });
    if (!open && kind !== "supply")
      add({ kind: "ohms", reading: { quantity: "resistance", from, to, value: 0 }, minutes: minutes.ohms });
    if (kind !== "supply" && !FIXED.has(kind))
      add({ kind: "lift", reading: { quantity: "resistance", lifted: name, value: 0 }, minutes: minutes.lift });
  }
  for (const { part } of network.branches)
    if (!FIXED.has(part.kind)) add({ kind: "swap", part: part.designator, minutes: minutes.swap });
  return found;
}
