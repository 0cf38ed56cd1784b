import { outlooksOn } from "../plan/index.ts";
import type { RankInput, Weighed } from "../rank/index.ts";
import type { NumericReading } from "../record/index.ts";

/** What all live suspects together foretell at a point: a mixture of Gaussians, the meter's error included. */
export interface Foretold {
  readonly weights: Float64Array;
  readonly mean: Float64Array;
  readonly deviation: Float64Array;
  /** Number of the hypothesis each comes from. */
  readonly hypothesis: Int32Array;
}

/** A slip shows against what is improbable too, so more of the suspects are asked than for a plan. */
const MOST = 600;
const ENOUGH = 0.9995;
/** Share of what is foretold that a range for digits has to hold. */
const USUAL = 0.8;
/** A current that only a rare short would bring about costs the meter its fuse: it counts until a reading rules it out. */
const ENOUGH_OF_CURRENT = 0.99999;

/**
 * What the suspects foretell at each point, in the order given.
 * @returns null where the circuit cannot be solved with a meter there
 */
export function foretellAt(
  input: RankInput,
  hypotheses: readonly Weighed[],
  points: readonly NumericReading[],
): Foretold[] | null {
  const isCurrent = points[0]?.quantity === "current";
  const outlooks = outlooksOn(input, hypotheses, points, [], MOST, isCurrent ? ENOUGH_OF_CURRENT : ENOUGH);
  if (!outlooks || outlooks.length === 0) return null;
  const weights = Float64Array.from(outlooks, (o) => o.probability);
  const hypothesis = Int32Array.from(outlooks, (o) => o.hypothesis);
  return points.map((_, k) => ({
    weights,
    hypothesis,
    mean: Float64Array.from(outlooks, (o) => o.mean[k]),
    deviation: Float64Array.from(outlooks, (o) => o.deviation[k]),
  }));
}

/** Density of a value under the mixture. */
export function densityAt({ weights, mean, deviation }: Foretold, x: number): number {
  let sum = 0;
  for (let k = 0; k < weights.length; k += 1) {
    const z = (x - mean[k]) / deviation[k];
    if (z * z < 80) sum += (weights[k] / deviation[k]) * Math.exp(-0.5 * z * z);
  }
  return sum / Math.sqrt(2 * Math.PI);
}

/** Weight of those that foretell a value within their limits. */
export function shareNear({ weights, mean, deviation }: Foretold, x: number): number {
  return weights.reduce((s, w, k) => s + (Math.abs(x - mean[k]) < 3 * deviation[k] ? w : 0), 0);
}

/** A size that four fifths of what is foretold stay below, what is over range left out; 0 where all of it is. */
export function usualSizeOf({ weights, mean, deviation }: Foretold, over: number): number {
  const sizes = [...weights.keys()]
    .map((k) => ({ weight: weights[k], size: Math.abs(mean[k]) + deviation[k] }))
    .filter(({ size }) => size < over)
    .sort((a, b) => a.size - b.size);
  let left = USUAL * sizes.reduce((s, { weight }) => s + weight, 0);
  for (const { weight, size } of sizes) {
    left -= weight;
    if (left <= 0) return size;
  }
  return 0;
}

/** The largest value, by size, that a suspect foretells. @param least weight of those that count, all ways of one together */
export function highestOf({ weights, mean, deviation, hypothesis }: Foretold, least: number): number {
  const weightOf = new Map<number, number>();
  for (let k = 0; k < weights.length; k += 1)
    weightOf.set(hypothesis[k], (weightOf.get(hypothesis[k]) ?? 0) + weights[k]);
  let highest = 0;
  for (let k = 0; k < weights.length; k += 1) {
    const size = Math.abs(mean[k]);
    if ((weightOf.get(hypothesis[k]) ?? 0) >= least && Number.isFinite(size))
      highest = Math.max(highest, size + deviation[k]);
  }
  return highest;
}
