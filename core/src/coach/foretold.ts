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

/**
 * What the suspects foretell at each point, in the order given.
 * @returns null where the circuit cannot be solved with a meter there
 */
export function foretellAt(
  input: RankInput,
  hypotheses: readonly Weighed[],
  points: readonly NumericReading[],
): Foretold[] | null {
  const outlooks = outlooksOn(input, hypotheses, points, [], MOST, ENOUGH);
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

/** The largest value, by size, that a suspect of some weight foretells. */
export function highestOf({ weights, mean, deviation }: Foretold, least = 0.005): number {
  let highest = 0;
  for (let k = 0; k < weights.length; k += 1)
    if (weights[k] >= least && Number.isFinite(mean[k])) highest = Math.max(highest, Math.abs(mean[k]) + deviation[k]);
  return highest;
}
