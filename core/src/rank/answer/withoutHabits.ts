import { keyOfSite, type Site } from "../../faults/index.ts";
import type { Prior } from "../hypotheses/prior.ts";
import type { Weighing } from "../ranking.ts";
import { type RepairShare, repairsOf } from "./repairs.ts";

/** What habits made of a ranking. */
export interface HabitShift {
  /** What leads with them, and what it would have without them. */
  readonly lead: RepairShare;
  readonly without: number;
  /** What would lead without them. */
  readonly leadWithout: RepairShare;
}

/** Habits made a difference where what leads changes, or its probability by more than this. */
const DIFFERENCE = 0.1;

/**
 * Holds a ranking against what it would be without the habits that closed jobs taught: the same evidence, each hypothesis
 * by its prior from the tables.
 * @returns null where there are no habits, or they make no difference
 */
export function withoutHabits({ prepared, hypotheses }: Weighing): HabitShift | null {
  const plain = prepared.priorWithoutHabits?.();
  if (!plain || hypotheses.length === 0) return null;
  const { prior } = prepared;
  const numbers = new Map(plain.singles.map(({ sites: [site] }, i) => [keyOfSite(site), i]));
  const own = new Map(prior.singles.map(({ sites: [site] }, i) => [site, i]));
  const shift = (sites: readonly Site[], isConsequence: boolean): number => {
    const [a, b] = sites.map((s) => numbers.get(keyOfSite(s)) ?? -1);
    const [x, y] = sites.map((s) => own.get(s) ?? -1);
    if (sites.length === 0) return plain.healthy.logPrior - prior.healthy.logPrior;
    // What follows from a fault follows whatever the habits are.
    if (sites.length === 1 || isConsequence) return singleOf(plain, a) - singleOf(prior, x);
    return a < 0 || b < 0 ? Number.NEGATIVE_INFINITY : plain.logPairOf(a, b) - prior.logPairOf(x, y);
  };
  const masses = hypotheses.map((h) => h.probability * Math.exp(shift(h.hypothesis.sites, h.isConsequence)));
  const total = masses.reduce((sum, m) => sum + m, 0);
  const { shares, ofHypothesis } = repairsOf(prepared, hypotheses);
  const without = new Float64Array(shares.length);
  masses.forEach((mass, h) => {
    without[ofHypothesis[h]] += mass / total;
  });
  const best = without.indexOf(without.reduce((most, p) => Math.max(most, p), 0));
  if (best === 0 && Math.abs(shares[0].alone - without[0]) < DIFFERENCE) return null;
  return { lead: shares[0], without: without[0], leadWithout: { ...shares[best], probability: without[best] } };
}

const singleOf = (prior: Prior, i: number) => prior.singles[i]?.logPrior ?? Number.NEGATIVE_INFINITY;
