import { isSameState } from "../configuration/index.ts";
import { isDismantling, type Measurement, type Offer, type Plan, SETTLED } from "../plan/index.ts";
import {
  evidenceOf,
  evidenceOfReadings,
  faultsOf,
  hasStep,
  isHealthy,
  type RepairShare,
  type RepairStep,
  SPOKEN_FOR,
  type SuspectFault,
  verdictsOf,
  type Weighed,
  type Weighing,
} from "../rank/index.ts";
import { isSamePlace, type Reading } from "../record/index.ts";

/** A suspect that nothing read speaks against, and what would show it. */
export interface Unseen {
  readonly faults: readonly SuspectFault[];
  readonly probability: number;
  readonly show: Measurement | null;
}

/** Parts that are, or may be, no more than the wrong way round. */
export type Turned = Readonly<Record<string, "surely" | "perhaps">>;

/**
 * Where a job stands. Settled: one repair holds 95 %, and the readings have earned it: what the priors alone believe
 * settles nothing; nor does one of two faults while readings may tell the other. Healthy: nothing read speaks for a fault,
 * and nothing that can be measured without dismantling would tell more. Stuck: nothing that can be measured so tells the
 * suspects apart.
 */
export type Verdict =
  | {
      readonly kind: "settled";
      readonly repair: readonly RepairStep[];
      /** Probability that something else is wrong as well, and what that may be. */
      readonly besides: number;
      readonly others: readonly (readonly RepairStep[])[];
      readonly turned: Turned;
    }
  | { readonly kind: "healthy"; readonly unseen: readonly Unseen[] }
  /**
   * `quiet`: nothing read speaks for a fault so far. `again`: but for a reading that was probably mis-taken, by its place.
   * `sure`: what is to be changed whatever else is, where something else most probably is and readings may tell what.
   */
  | {
      readonly kind: "open";
      readonly quiet?: true;
      readonly again?: number;
      readonly sure?: readonly RepairStep[];
      readonly others?: readonly (readonly RepairStep[])[];
    }
  | { readonly kind: "stuck"; readonly dismantle: Measurement | null };

/** A repair is earned where the readings go so many times better with it than with nothing wrong; as a logarithm. */
const EARNED = Math.log(20);
/**
 * … and so many times better than with nothing wrong and every reading well taken. A healthy circuit comes to k times by
 * chance in less than one of k jobs, however often one looks (Ville's inequality for likelihood ratios): tolerances far
 * out are no fault. What a slip would explain is far beyond it, and is held to the first.
 */
const BEYOND_CHANCE = Math.log(3000);
/** Something else is wrong besides more probably than not: a repair that is sure is half of it. */
const HALF_OF_IT = 0.5;
/** Below this many bits a measurement tells next to nothing. */
export const TELLING = 0.1;
/** Of a repair that is believed and not earned, as few bits may earn it. */
const EARNING = 0.01;
/** A healthy circuit with this chance of a mis-taken reading has that reading taken again first. */
const DOUBTFUL = 0.5;
/** Suspects named as unseen hold at least this much. */
const NAMED = 0.01;

/** @param readings that were weighed, in their order */
export function verdictOf(weighing: Weighing, plan: Plan, readings: readonly Reading[]): Verdict {
  const { prepared, hypotheses } = weighing;
  const { shares } = plan.repairs;
  const easy = plan.offers.filter((o) => !isDismantling(o.measurement));
  const isTold = easy.some((o) => o.informationBits >= TELLING);
  const healthy = hypotheses.find((h) => isHealthy(h.hypothesis));
  const slipped = healthy ? slipsIn(weighing, healthy) : 0;
  const earned = earnedOf(shares, slipped);
  if (earned) {
    const { repair, besides, others } = settledOn(earned, shares);
    // What nothing speaks for is no half of it.
    return 1 - earned.alone / earned.probability > HALF_OF_IT && isTold
      ? { kind: "open", sure: repair, others }
      : { kind: "settled", repair, besides, others, turned: turnedIn(weighing, repair) };
  }
  if (prepared.numericCount + prepared.toldCount === 0) return { kind: "open" };
  if (healthy && speaksForNoFault(weighing, healthy)) {
    const again = doubtfulOf(weighing, healthy, readings);
    if (again !== null) return { kind: "open", quiet: true, again };
    const holds = shares.some((s) => s.repair.length === 0 && s.probability >= SETTLED);
    return holds || !isTold ? { kind: "healthy", unseen: unseenIn(weighing, plan) } : { kind: "open", quiet: true };
  }
  // What the priors alone believe leaves little to be told in bits; what would earn it is read all the same.
  const isBelieved = shares.some((s) => s.repair.length > 0 && s.probability >= SETTLED);
  if (isTold || (isBelieved && easy.some((o) => o.informationBits >= EARNING))) return { kind: "open" };
  const hard = plan.offers.filter((o) => isDismantling(o.measurement) && o.informationBits >= TELLING);
  return { kind: "stuck", dismantle: hard[0]?.measurement ?? null };
}

/**
 * Place of the reading that was most probably mis-taken, if nothing is wrong; null where hardly any was. One that was
 * taken again, and well, has no say any more.
 */
function doubtfulOf({ prepared }: Weighing, healthy: Weighed, readings: readonly Reading[]): number | null {
  const { nodes, reference } = prepared.network;
  const all = verdictsOf(prepared, [healthy]);
  const isAgain = (one: Reading, other: Reading) => {
    if (!isSameState(one.state, other.state)) return false;
    if (one.quantity === "observation")
      return other.quantity === "observation" && one.part === other.part && one.alone === other.alone;
    return other.quantity !== "observation" && isSamePlace(one, other, nodes[reference]);
  };
  const left = all.filter(({ index }) =>
    all.every((o) => o.index === index || o.blunderProbability > 0.5 || !isAgain(readings[index], readings[o.index])),
  );
  if (left.length === 0) return null;
  const well = left.reduce((product, { blunderProbability }) => product * (1 - blunderProbability), 1);
  if (1 - well < DOUBTFUL) return null;
  return left.reduce((a, b) => (b.blunderProbability > a.blunderProbability ? b : a)).index;
}

/** How much of the evidence for nothing wrong is owed to readings mis-taken: −log of the chance that none was. */
function slipsIn({ prepared }: Weighing, healthy: Weighed): number {
  return verdictsOf(prepared, [healthy]).reduce((s, v) => s - Math.log(Math.max(1e-300, 1 - v.blunderProbability)), 0);
}

/** The repair that holds enough and that the readings speak for; of one part and of that with another the larger. */
function earnedOf(shares: readonly RepairShare[], slipped: number): RepairShare | null {
  const isEarned = ({ evidence }: RepairShare) => evidence >= EARNED && evidence + slipped >= BEYOND_CHANCE;
  const earned = shares.filter((s) => s.repair.length > 0 && s.probability >= SETTLED && isEarned(s));
  return earned.reduce<RepairShare | null>((a, b) => (a && a.repair.length >= b.repair.length ? a : b), null);
}

function settledOn(
  { repair, besides }: RepairShare,
  shares: readonly RepairShare[],
): Omit<Extract<Verdict, { kind: "settled" }>, "kind" | "turned"> {
  const others = shares
    .filter(
      (s) => s.repair.length > repair.length && s.alone >= NAMED && repair.every((step) => hasStep(s.repair, step)),
    )
    .map((s) => s.repair.filter((step) => !hasStep(repair, step)));
  return { repair, besides, others };
}

/** Shares of what is wrong with a part from which on it is surely, or perhaps, no more than the wrong way round. */
const SURELY = 0.8;
const PERHAPS = 0.1;

function turnedIn({ prepared, hypotheses }: Weighing, repair: readonly RepairStep[]): Turned {
  const { branches } = prepared.network;
  const found: Record<string, "surely" | "perhaps"> = {};
  for (const step of repair) {
    if (!("part" in step)) continue;
    let [all, turned] = [0, 0];
    for (const { hypothesis, probability } of hypotheses)
      for (const { branch, mode } of hypothesis.sites)
        if (branch >= 0 && branches[branch].part.designator === step.part) {
          all += probability;
          if (mode === "reversed") turned += probability;
        }
    if (turned >= PERHAPS * all && all > 0) found[step.part] = turned >= SURELY * all ? "surely" : "perhaps";
  }
  return found;
}

/** No suspect that counts explains what was read much better than nothing wrong does. */
function speaksForNoFault({ prepared, hypotheses }: Weighing, healthy: Weighed): boolean {
  const limit = evidenceOf(healthy) + Math.log(SPOKEN_FOR);
  return hypotheses.every((h) => h.probability < NAMED || h.isConsequence || evidenceOfReadings(prepared, h) <= limit);
}

function unseenIn({ prepared, hypotheses }: Weighing, plan: Plan): Unseen[] {
  return hypotheses
    .map((h, number) => ({ h, number }))
    .filter(({ h }) => h.hypothesis.sites.length > 0 && !h.hypothesis.meter && h.probability >= NAMED)
    .map(({ h, number }) => ({
      faults: faultsOf(prepared, h),
      probability: h.probability,
      show: showingOf(number, h, hypotheses, plan, prepared.prior.nameOf(h.hypothesis.sites[0])),
    }));
}

/** What parts a suspect best from nothing wrong, by how far their readings lie apart; a swap where no reading does. */
function showingOf(
  number: number,
  { hypothesis }: Weighed,
  hypotheses: readonly Weighed[],
  { outlooks, offers }: Plan,
  part: string,
): Measurement | null {
  const healthy = hypotheses.findIndex((h) => isHealthy(h.hypothesis));
  const own = outlooks.filter((o) => o.hypothesis === number);
  const good = outlooks.filter((o) => o.hypothesis === healthy);
  const apart = ({ outcome }: Offer) => {
    if (outcome.kind !== "reading" || own.length === 0 || good.length === 0) return 0;
    const { at } = outcome;
    return Math.abs(own[0].mean[at] - good[0].mean[at]) / Math.hypot(own[0].deviation[at], good[0].deviation[at]);
  };
  const best = offers.reduce((a, b) => (apart(b) > apart(a) ? b : a), offers[0]);
  if (best && apart(best) > 2) return best.measurement;
  if (hypothesis.sites.length !== 1) return null;
  return offers.find((o) => o.measurement.kind === "swap" && o.measurement.part === part)?.measurement ?? null;
}
