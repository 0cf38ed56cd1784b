import { type Circuit, designatorOf, furtherLeads } from "@hound/core/circuit";
import { placesOf } from "@hound/core/configuration";
import type { Recognised } from "@hound/core/notation";
import { MOST_READINGS, type Reading } from "@hound/core/record";
import type { DeskReading } from "../desk/ops.ts";

/** What of a file is taken over, and into what. */
export type Mode = "new" | "both" | "circuit" | "readings";

export interface Plan {
  readonly mode: Mode;
  /** Readings that come, and those of the file that fit nothing. */
  readonly add: readonly Reading[];
  readonly aside: readonly Reading[];
  /** Readings of this job that go, and how many stay. */
  readonly leaves: readonly DeskReading[];
  readonly stays: number;
  readonly trail: string | null;
}

/** The ways to take over what was found, the likeliest first. */
export function modesFor(found: Recognised, hasCircuit: boolean, readings: readonly DeskReading[]): readonly Mode[] {
  const isEmpty = !hasCircuit && readings.length === 0;
  const hasReadings = found.readings.length > 0;
  if (found.trail === null) return hasReadings ? ["readings"] : [];
  if (found.format === "values") return ["circuit"];
  if (!hasReadings) return isEmpty || readings.length === 0 ? ["circuit", "new"] : ["circuit", "both", "new"];
  if (isEmpty) return ["both", "circuit", "new"];
  return found.format === "case" ? ["new", "both", "circuit", "readings"] : ["both", "circuit", "readings", "new"];
}

/** What each way would do: readings that fit no node or part of the circuit are never mixed in. */
export function planFor(
  mode: Mode,
  found: Recognised,
  coming: Circuit | null,
  now: Circuit | null,
  readings: readonly DeskReading[],
): Plan {
  const after = mode === "readings" ? now : coming;
  const taken = mode === "circuit" ? [] : found.readings;
  const fitting = taken.filter((r) => mode === "new" || strangersIn(r, after).length === 0);
  const leaves =
    mode === "both" || mode === "new"
      ? readings
      : mode === "circuit"
        ? readings.filter(({ reading }) => strangersIn(reading, after).length > 0)
        : [];
  return {
    mode,
    add: fitting,
    aside: taken.filter((r) => !fitting.includes(r)),
    leaves: mode === "new" ? [] : leaves,
    stays: mode === "new" ? readings.length : readings.length - leaves.length,
    trail: mode === "readings" ? null : found.trail,
  };
}

/** Why a plan cannot be carried out; null where it can. */
export function troubleWithPlan({ mode, add, stays }: Plan): string | null {
  const readings = add.length + (mode === "new" ? 0 : stays);
  if (readings <= MOST_READINGS) return null;
  return `A job holds at most ${MOST_READINGS} readings; there would be ${readings}. Take fewer, or several jobs.`;
}

/** Nodes and parts that a reading speaks of, its state too, and a circuit does not have. */
export function strangersIn(reading: Reading, circuit: Circuit | null): string[] {
  const nodes = new Set<string>(
    circuit?.parts.flatMap((p) => [p.from, p.to, ...furtherLeads(p).map(({ node }) => node)]) ?? [],
  );
  if (circuit) nodes.add(circuit.reference);
  const parts = new Set<string>(circuit?.parts.map((p) => p.designator) ?? []);
  const spoken = { nodes: [] as string[], parts: [] as string[] };
  if (reading.quantity === "current") spoken.parts.push(reading.through);
  else if (reading.quantity === "observation") spoken.parts.push(reading.part);
  else if (reading.quantity === "resistance" && reading.lifted !== undefined) spoken.parts.push(reading.lifted);
  else spoken.nodes.push(...[reading.from, reading.to].filter((n) => n !== undefined));
  const state = placesOf(reading.state ?? {});
  spoken.parts.push(...state.parts);
  spoken.nodes.push(...state.nodes);
  const missing = [
    ...spoken.nodes.filter((n) => !nodes.has(n)),
    ...spoken.parts.filter((p) => !parts.has(designatorOf(p))),
  ];
  return [...new Set(missing)];
}
