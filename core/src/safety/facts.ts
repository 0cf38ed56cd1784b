import { isTakenForGranted, type Network, rowOf } from "../circuit/index.ts";
import type { MeterData } from "../record/index.ts";
import { type Solution, solveNetwork } from "../solve/index.ts";

/** Circuits of more branches are judged as drawn, without each part open in turn. */
const LARGE = 60;

/** What of a job decides which cautions it needs; SI units. */
export interface SafetyFacts {
  /** Largest voltage between any two nodes, as drawn or with any one part open; RMS where it alternates. */
  readonly volts: number;
  readonly isAlternating: boolean;
  /** Supplies that come from the mains. */
  readonly mains: readonly string[];
  readonly isWet: boolean;
  /** Volts that every meter of the job, and its leads, are made for; the lowest. */
  readonly meterVolts: number;
  /** Of a mains job: a meter that says no overvoltage category. */
  readonly hasUncategorised: boolean;
  /** Supplies that nothing holds back, with the amperes they drive through a short. */
  readonly strong: readonly { readonly part: string; readonly amps: number }[];
  /** Parts with the watts they take as drawn, and what they are rated for; and those that are hot when they work. */
  readonly loads: readonly { readonly part: string; readonly watts: number; readonly rating: number }[];
  readonly hotByNature: readonly string[];
  readonly windings: readonly string[];
  /** Of every part, its amperes as drawn. */
  readonly amps: ReadonlyMap<string, number>;
}

/**
 * What is dangerous about a circuit, worked out from it. A network that cannot be solved is judged by the sum of its
 * supplies.
 */
export function safetyFacts(network: Network, meter: MeterData, isWet: boolean): SafetyFacts {
  const supplies = network.branches.flatMap((b) => (b.part.kind === "supply" ? [{ branch: b, part: b.part }] : []));
  const drawn = solveNetwork(network);
  const solved = drawn.kind === "solved" ? drawn : null;
  const meters = [meter, ...meter.others.values()];
  return {
    volts: solved ? highestVolts(network, solved) : supplies.reduce((s, { part }) => s + Math.abs(part.volts ?? 0), 0),
    isAlternating: supplies.some(({ part }) => part.safety !== undefined),
    mains: supplies.flatMap(({ part }) => (part.safety === "mains" ? [part.designator] : [])),
    isWet,
    meterVolts: Math.min(...meters.flatMap((m) => [m.category.volts, m.leads.volts])),
    hasUncategorised: meters.some((m) => m.category.class === undefined),
    // An internal resistance that nobody wrote is not known: neither the usual one nor none says what a short would draw.
    strong: supplies.flatMap(({ part }) => {
      if (part.internalOhms === 0 || isTakenForGranted(part)) return [];
      const amps = Math.min(Math.abs(part.volts ?? 0) / part.internalOhms, part.limit ?? Number.POSITIVE_INFINITY);
      return [{ part: part.designator, amps }];
    }),
    loads: network.branches.flatMap((b, k) =>
      solved && b.part.powerRating !== undefined && b.kind !== "supply"
        ? [{ part: b.name, watts: Math.abs(solved.watts[k]), rating: b.part.powerRating }]
        : [],
    ),
    hotByNature: network.branches.flatMap((b) => (rowOf(b.kind).danger === "hot" ? [b.name] : [])),
    windings: network.branches.flatMap((b) => (rowOf(b.kind).danger === "winding" ? [b.name] : [])),
    amps: new Map(network.branches.map((b, k) => [b.name, solved ? Math.abs(solved.amps[k]) : 0])),
  };
}

function highestVolts(network: Network, drawn: Extract<Solution, { kind: "solved" }>): number {
  const laws = network.branches.map((b) => b.law);
  let highest = spreadOf(drawn);
  if (network.branches.length > LARGE) return highest;
  network.branches.forEach((_, k) => {
    const open = solveNetwork(network, laws.with(k, { kind: "open" }));
    if (open.kind === "solved") highest = Math.max(highest, spreadOf(open));
  });
  return highest;
}

/** Between what is connected: the potential of an island by itself is anybody's guess. */
function spreadOf({ point }: Extract<Solution, { kind: "solved" }>): number {
  const { island } = point.base;
  const ends = new Map<number, { least: number; most: number }>();
  point.volts.forEach((v, n) => {
    const { least, most } = ends.get(island[n]) ?? { least: v, most: v };
    ends.set(island[n], { least: Math.min(least, v), most: Math.max(most, v) });
  });
  return Math.max(0, ...[...ends.values()].map(({ least, most }) => most - least));
}
