import { type Prediction, prepare, type RankInput, type RankProblem } from "../rank/index.ts";
import type { NumericReading } from "../record/index.ts";
import { supposedAt, testPoints } from "./points.ts";
import type { Supposed } from "./supposed.ts";

/** What every single fault would do to every test point. */
export interface Signatures {
  readonly kind: "signatures";
  readonly points: readonly SignaturePoint[];
  /** Grouped: those that no test point tells apart follow each other; the likeliest group first, what shows nowhere last. */
  readonly rows: readonly Signature[];
}

export interface SignaturePoint {
  readonly reading: NumericReading;
  readonly healthy: Prediction;
  /** Bits that this point alone tells about which fault it is, by how often each happens. */
  readonly tells: number;
}

export interface Signature {
  readonly fault: Supposed;
  /** How often it happens, as a share of all single faults. */
  readonly share: number;
  /** What each point shows, and how far that is from healthy, in limits: beyond ±1 it shows. */
  readonly values: Float64Array;
  readonly deviations: Float64Array;
  /** Number of its group, from 0. */
  readonly group: number;
}

/** Values of faults that have one are taken at the middle of what happens. */
const MIDDLE = 0.5;
/** Deviations closer than this look the same. */
const ALIKE = 1;

/**
 * Faults × test points, each cell the deviation from healthy in limits (two standard deviations of tolerances and meter
 * together). One prediction a fault; O(faults × groups × points) to group them.
 */
export function signaturesOf(input: RankInput): Signatures | RankProblem {
  const bare = prepare({ ...input, readings: [] });
  if (bare.kind === "problem") return bare;
  const readings = testPoints(bare.network, input.standing);
  const prepared = prepare({ ...input, readings: [] }, readings);
  if (prepared.kind === "problem") return prepared;
  const { predictor } = prepared.integrator;
  const { set, prior } = prepared;
  const outcome = predictor.newOutcome();
  predictor.predict([], "variances", outcome);
  const healthy = readings.map((_, r) => ({
    value: outcome.y[r],
    plusMinus: 2 * Math.sqrt(predictor.varianceOf(outcome, r) + set.probes[r].error.own ** 2),
  }));
  const found = prior.singles.flatMap(({ sites }) => {
    const fault = supposedAt(prepared.network, set.bridges, sites[0], MIDDLE);
    if (!fault) return [];
    const value = "value" in fault ? (fault.value ?? 0) : 0;
    predictor.predict([{ site: sites[0], value }], "values", outcome);
    const values = outcome.y.slice(0, readings.length);
    const deviations = values.map((v, r) => (v - healthy[r].value) / healthy[r].plusMinus);
    return [{ fault, weight: sites[0].weight, values, deviations }];
  });
  const all = found.reduce((sum, f) => sum + f.weight, 0);
  const groups = grouped(found);
  return {
    kind: "signatures",
    points: readings.map((reading, r) => ({
      reading,
      healthy: healthy[r],
      tells: bitsOf(found.map((f) => ({ weight: f.weight / all, deviation: f.deviations[r] }))),
    })),
    rows: groups.flatMap((members, group) =>
      members.map(({ fault, weight, values, deviations }) => ({
        fault,
        share: weight / all,
        values,
        deviations,
        group,
      })),
    ),
  };
}

/** Those that look the same at every point, likeliest first; what shows nowhere comes last. */
function grouped<T extends { readonly weight: number; readonly deviations: Float64Array }>(rows: readonly T[]): T[][] {
  const groups: T[][] = [];
  const isAlike = (a: Float64Array, b: Float64Array) => {
    for (let r = 0; r < a.length; r += 1) if (!(Math.abs(a[r] - b[r]) < ALIKE)) return false;
    return true;
  };
  for (const row of [...rows].sort((a, b) => b.weight - a.weight)) {
    const own = groups.find(([first]) => isAlike(first.deviations, row.deviations));
    if (own) own.push(row);
    else groups.push([row]);
  }
  const weight = (group: readonly T[]) => group.reduce((sum, r) => sum + r.weight, 0);
  const shows = ([{ deviations }]: readonly T[]) => deviations.some((d) => !(Math.abs(d) < ALIKE));
  return groups.sort((a, b) => Number(shows(b)) - Number(shows(a)) || weight(b) - weight(a));
}

/** Entropy of the classes into which a point's deviations fall: sorted, a class ends where the next lies a limit off. */
function bitsOf(rows: readonly { readonly weight: number; readonly deviation: number }[]): number {
  const sorted = [...rows].sort((a, b) => a.deviation - b.deviation);
  let bits = 0;
  let mass = 0;
  sorted.forEach(({ weight, deviation }, i) => {
    mass += weight;
    const next = sorted[i + 1];
    if (next && next.deviation - deviation < ALIKE) return;
    if (mass > 0) bits -= mass * Math.log2(mass);
    mass = 0;
  });
  return bits;
}
