import { informationOf } from "./information.ts";
import type { Plan } from "./plan.ts";

/** A job counts as settled when one group of suspects holds this much. */
const SETTLED = 0.95;
const MOST_READINGS = 8;
/** Continuations simulated, and measurements tried at each step of one. */
const CONTINUATIONS = 24;
const TRIED = 6;
/** Below this nothing is worth measuring any more. */
const WORTHWHILE = 0.02;

/** Uniform and standard normal numbers, such as a seeded generator gives. */
export interface Draws {
  next(): number;
  normal(): number;
}

/**
 * How many more readings should settle it: continuations are simulated in which the truth is drawn from the suspects,
 * the best suggestion is measured and the odds move, until one group holds 95 %. Readings to come are taken as
 * independent given a suspect.
 * @returns the number that was enough in eight of ten continuations; null where measuring alone does not settle it
 */
export function readingsToSettle({ outlooks, groupOf, suggestions, candidates }: Plan, draws: Draws): number | null {
  const tried = suggestions
    .filter((s) => s.measurement.kind !== "swap")
    .slice(0, TRIED)
    .map((s) => ({ candidate: candidates.indexOf(s.measurement), minutes: s.measurement.minutes }));
  const counts: number[] = [];
  for (let run = 0; run < CONTINUATIONS; run += 1) {
    const truth =
      outlooks[
        pick(
          outlooks.map((o) => o.probability),
          draws,
        )
      ];
    let weights = outlooks.map((o) => o.probability);
    let count = 0;
    while (largestGroup(weights) < SETTLED && count < MOST_READINGS) {
      const best = tried
        .map(({ candidate, minutes }) => ({
          candidate,
          minutes,
          bits: informationOf(outlooks, groupOf, candidate, weights),
        }))
        .reduce((a, b) => (b.bits / b.minutes > a.bits / a.minutes ? b : a), {
          candidate: -1,
          minutes: 1,
          bits: WORTHWHILE,
        });
      if (best.candidate < 0) {
        count = Number.POSITIVE_INFINITY;
        break;
      }
      const shown = truth.mean[best.candidate] + truth.deviation[best.candidate] * draws.normal();
      weights = updated(weights, best.candidate, shown);
      count += 1;
    }
    counts.push(largestGroup(weights) < SETTLED ? Number.POSITIVE_INFINITY : count);
  }
  counts.sort((a, b) => a - b);
  const enough = counts[Math.floor(CONTINUATIONS * 0.8)];
  return Number.isFinite(enough) ? enough : null;

  function largestGroup(w: readonly number[]): number {
    const sums = new Map<number, number>();
    outlooks.forEach((o, k) => {
      const g = groupOf[o.hypothesis];
      sums.set(g, (sums.get(g) ?? 0) + w[k]);
    });
    return Math.max(...sums.values());
  }

  function updated(w: readonly number[], candidate: number, shown: number): number[] {
    const logs = outlooks.map((o, k) => {
      const s = o.deviation[candidate];
      return Math.log(Math.max(w[k], 1e-300)) - 0.5 * ((shown - o.mean[candidate]) / s) ** 2 - Math.log(s);
    });
    const top = Math.max(...logs);
    const masses = logs.map((l) => Math.exp(l - top));
    const sum = masses.reduce((s, m) => s + m, 0);
    return masses.map((m) => m / sum);
  }
}

function pick(weights: readonly number[], draws: Draws): number {
  let left = draws.next() * weights.reduce((s, w) => s + w, 0);
  for (let k = 0; k < weights.length; k += 1) {
    left -= weights[k];
    if (left < 0) return k;
  }
  return 0;
}
