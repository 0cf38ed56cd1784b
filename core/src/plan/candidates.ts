import { type Kind, type Network, type NodeName, rowOf } from "../circuit/index.ts";
import {
  isDiodeTest,
  isSamePlace,
  isUnpowered,
  type NumericReading,
  type Reading,
  type Seen,
} from "../record/index.ts";

/** Something one can do at the bench to learn more. */
export type Measurement =
  | {
      readonly kind: "voltage" | "current" | "ohms" | "lift";
      readonly reading: NumericReading;
      readonly minutes: number;
    }
  /** A known-good part in its place; a look at it; the part held directly to the supply. */
  | { readonly kind: "swap" | "look" | "alone"; readonly part: string; readonly minutes: number };

/** Minutes each takes, with what has to be done before and after it. */
export interface Minutes {
  readonly look: number;
  readonly voltage: number;
  readonly current: number;
  readonly ohms: number;
  readonly lift: number;
  readonly swap: number;
  readonly alone: number;
}

/** Power off and discharge for ohms; break and restore the circuit for current; unsolder for a lifted lead or a part tried alone. */
export const MINUTES: Minutes = { look: 0.25, voltage: 0.5, ohms: 2, current: 4, lift: 5, swap: 6, alone: 6 };

/** What a look at a part may find, one of them: by its kind; null of what shows nothing. */
export const looksAt = (kind: Kind): readonly Seen[] | null => rowOf(kind).looks ?? null;

/** True of what changes or undoes the circuit. */
export function isDismantling({ kind }: Measurement): boolean {
  return kind === "lift" || kind === "swap" || kind === "alone";
}

/**
 * All measurements on offer: a look at what shows something, each node against the reference, across and through each
 * part, ohms across each part and the diode test of a junction, a lead lifted, a part tried alone, a part swapped. What was read already stays on offer,
 * wherever it was: taken again it can clear up a slip. Without a supply there is nothing to read but ohms. Looks and swaps, which give no
 * reading, come last.
 * @param only of these parts; voltages against the reference are on offer at every node all the same
 * @param taken what was read already
 */
export function measurementsOn(
  network: Network,
  minutes: Minutes = MINUTES,
  only: ReadonlySet<string> | null = null,
  taken: readonly Reading[] = [],
): Measurement[] {
  const named = (node: number) => network.nodes[node];
  const isHidden = (node: NodeName) => node.includes(".");
  const reference = network.nodes[network.reference];
  const hasSupply = network.branches.some((b) => b.kind === "supply");
  const found: Measurement[] = [];
  const seen = new Set<string>();
  const add = (measurement: Measurement) => {
    const { minutes: _, ...what } = measurement;
    const key = JSON.stringify("reading" in what ? what.reading : what);
    if (!seen.has(key)) found.push(measurement);
    seen.add(key);
  };
  for (const from of network.nodes) {
    if (!hasSupply || from === reference || isHidden(from)) continue;
    add({ kind: "voltage", reading: { quantity: "voltage", from, value: 0 }, minutes: minutes.voltage });
  }
  const branches = network.branches.filter((b) => !b.isAdded && (!only || only.has(b.part.designator)));
  for (const { name, from: a, to: b, kind } of branches) {
    const [from, to] = [named(a), named(b)];
    const open = isHidden(from) || isHidden(to);
    if (hasSupply && !open && to !== reference && from !== reference)
      add({ kind: "voltage", reading: { quantity: "voltage", from, to, value: 0 }, minutes: minutes.voltage });
    if (hasSupply)
      add({ kind: "current", reading: { quantity: "current", through: name, value: 0 }, minutes: minutes.current });
    if (!open && kind !== "supply")
      add({ kind: "ohms", reading: { quantity: "resistance", from, to, value: 0 }, minutes: minutes.ohms });
    if (kind !== "supply" && !rowOf(kind).isFixed)
      add({ kind: "lift", reading: { quantity: "resistance", lifted: name, value: 0 }, minutes: minutes.lift });
    if (!rowOf(kind).isPolar || open) continue;
    const test = { quantity: "voltage", test: "diode", from, to, value: 0 } as const;
    add({ kind: "ohms", reading: test, minutes: minutes.ohms });
    add({ kind: "lift", reading: { ...test, lifted: name }, minutes: minutes.lift });
  }
  for (const reading of taken) {
    if (reading.quantity === "observation" || reading.by !== undefined) continue;
    if (!isUnpowered(reading) && !hasSupply) continue;
    if (found.some((m) => "reading" in m && isSamePlace(m.reading, reading, reference))) continue;
    add(again(reading, minutes));
  }
  for (const { part, kind } of branches) {
    if (looksAt(kind)) add({ kind: "look", part: part.designator, minutes: minutes.look });
    if (hasSupply && rowOf(kind).role === "consumer")
      add({ kind: "alone", part: part.designator, minutes: minutes.alone });
    if (!rowOf(kind).isFixed) add({ kind: "swap", part: part.designator, minutes: minutes.swap });
  }
  return found;
}

/** The same points once more. */
function again(reading: NumericReading, minutes: Minutes): Measurement {
  switch (reading.quantity) {
    case "voltage": {
      const { from, to, lifted } = reading;
      if (!isDiodeTest(reading))
        return { kind: "voltage", reading: { quantity: "voltage", from, to, value: 0 }, minutes: minutes.voltage };
      const test = { quantity: "voltage", test: "diode", from, to, value: 0 } as const;
      return lifted === undefined
        ? { kind: "ohms", reading: test, minutes: minutes.ohms }
        : { kind: "lift", reading: { ...test, lifted }, minutes: minutes.lift };
    }
    case "current": {
      const { through } = reading;
      return { kind: "current", reading: { quantity: "current", through, value: 0 }, minutes: minutes.current };
    }
    case "resistance": {
      const { from, to, lifted } = reading;
      const point = { quantity: "resistance", from, to, lifted, value: 0 } as const;
      return lifted === undefined
        ? { kind: "ohms", reading: point, minutes: minutes.ohms }
        : { kind: "lift", reading: point, minutes: minutes.lift };
    }
    default:
      return reading satisfies never;
  }
}
