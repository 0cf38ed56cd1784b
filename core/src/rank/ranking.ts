import {
  faultsOf,
  leadsForgotten,
  type MeterSuspect,
  medianFaults,
  meterOf,
  type Prediction,
  predictionsOf,
  type ReadingVerdict,
  type SuspectFault,
  someMistakenOf,
  verdictsOf,
} from "./answer/describe.ts";
import { type RepairShare, repairsOf } from "./answer/repairs.ts";
import { type Detail, type Hypothesis, type Integrated, isHealthy } from "./evidence/integrator.ts";
import type { Resolution } from "./evidence/resolution.ts";
import { unknownsOf } from "./hypotheses/cells.ts";
import { consequencesOf } from "./hypotheses/consequences.ts";
import { PairsByPromise } from "./hypotheses/promise.ts";
import type { Estimate } from "./hypotheses/unknowns.ts";
import { Pool } from "./pool.ts";
import { Stress } from "./prediction/stress.ts";
import { type Prepared, prepare, type RankInput, type RankProblem } from "./prepare.ts";

export interface Suspect {
  readonly faults: readonly SuspectFault[];
  readonly probability: number;
  /** Present where the meter reads false as well, or alone: its function, and by what factor, with the middle 80 %. */
  readonly meter?: MeterSuspect;
  /** Present where the second fault follows from the first: it blew, or burnt. */
  readonly consequence?: true;
  /** One for each numeric reading, in the order given; none for a suspect that hardly counts. */
  readonly predictions: readonly Prediction[];
  /** Parts that this suspect would run beyond their rating, worst first. */
  readonly overloads: readonly PartOverload[];
  /** Number of the repair that it asks for, among the ranking's repairs. */
  readonly repair: number;
}

export interface PartOverload {
  readonly part: string;
  readonly of: "current" | "power";
  /** Amperes or watts, and the rating. */
  readonly value: number;
  readonly rating: number;
}

export interface Ranking {
  readonly kind: "ranking";
  /** Most probable first: of the first `unbroken` none is left out, of those behind only two faults at once are. */
  readonly suspects: readonly Suspect[];
  readonly unbroken: number;
  /** How many are left out, and what they hold together. */
  readonly unlisted: { readonly count: number; readonly probability: number };
  /** Probability by repair, most probable first. */
  readonly repairs: readonly RepairShare[];
  /** Share of “nothing wrong” in which some reading is mis-taken. */
  readonly healthyButMistaken: number;
  readonly readings: readonly ReadingVerdict[];
  /** Probability that the leads' ohms are in every ohms reading: a slip of the whole job. */
  readonly leadsForgotten: number;
  /** Predictions of the healthy circuit for each numeric reading. */
  readonly healthy: readonly Prediction[];
  /** Values that the circuit leaves open, as the readings give them if nothing is wrong. */
  readonly unknowns: readonly Estimate[];
  /** Share of the hypotheses looked at; 1 when all were. */
  readonly progress: number;
  /** What those not looked at could carry at most of all probability, give or take e⁻¹⁰. */
  readonly left: number;
}

/** A hypothesis that was weighed, with what only those that matter have. */
export interface Weighed extends Integrated {
  readonly probability: number;
  readonly detail: Detail | null;
  readonly isConsequence: boolean;
}

/** Suspects below this share of the mass are listed without predictions. */
const PREDICTED = 1e-3;
/** Suspects below this share get a rough value. */
const MENTIONED = 1e-6;
/** Pairs weighed between two chances to stop. */
const CHUNK = 32;
/** Single faults between two looks. */
const FEW = 16;

export interface RankOptions {
  /** False leaves two faults out. */
  readonly pairs?: boolean;
  readonly resolution?: Resolution;
}

/** Ranks what is most probably wrong, given readings. What cannot be computed is a value that says where and why. */
export function rankFaults(input: RankInput, options?: RankOptions): Ranking | RankProblem {
  const weighing = weighToEnd(input, options);
  return weighing.kind === "problem" ? weighing : rankingOf(weighing);
}

/** Weighs everything without a stop. */
export function weighToEnd(input: RankInput, options?: RankOptions): Weighing | RankProblem {
  const weighing = weighFaults(input, options);
  for (;;) {
    const step = weighing.next();
    if (step.done) return step.value;
  }
}

/**
 * All hypotheses so far, as a ranking: costs some milliseconds, so it is made only when somebody looks.
 * @param most suspects listed of two faults at once and those likelier; single faults always are
 */
export function rankingOf(
  { prepared, hypotheses, progress, left }: Weighing,
  most = Number.POSITIVE_INFINITY,
): Ranking {
  const stress = new Stress(prepared.set, prepared.pairs);
  const overloadsOf = (h: Weighed) =>
    stress.overloads(medianFaults(h)).map(({ branch, ...load }) => ({
      part: prepared.network.branches[branch].name,
      ...load,
    }));
  const healthy = hypotheses.find((h) => isHealthy(h.hypothesis));
  const repairs = repairsOf(prepared, hypotheses);
  const suspects: Suspect[] = [];
  const unlisted = { count: 0, probability: 0 };
  hypotheses.forEach((h, number) => {
    if (number >= most && h.hypothesis.sites.length > 1) {
      unlisted.count += 1;
      unlisted.probability += h.probability;
      return;
    }
    suspects.push({
      repair: repairs.ofHypothesis[number],
      faults: faultsOf(prepared, h, h.probability > MENTIONED),
      probability: h.probability,
      ...(h.hypothesis.meter ? { meter: meterOf(h) } : {}),
      ...(h.isConsequence ? { consequence: true as const } : {}),
      predictions: h.probability < PREDICTED ? [] : predictionsOf(prepared, h),
      overloads: h.probability < PREDICTED ? [] : overloadsOf(h),
    });
  });
  return {
    kind: "ranking",
    suspects,
    unbroken: Math.min(most, hypotheses.length),
    unlisted,
    repairs: repairs.shares,
    healthyButMistaken: healthy ? someMistakenOf(healthy) : 0,
    readings: verdictsOf(prepared, hypotheses),
    leadsForgotten: leadsForgotten(hypotheses),
    healthy: healthy ? predictionsOf(prepared, healthy) : [],
    unknowns: prepared.settled?.estimates ?? [],
    progress,
    left,
  };
}

export interface Weighing {
  readonly kind: "weighing";
  readonly prepared: Prepared;
  /** Most probable first. */
  readonly hypotheses: readonly Weighed[];
  readonly progress: number;
  /** What the hypotheses not looked at could carry at most of all probability. */
  readonly left: number;
}

/** Work done so far: while single faults are weighed their share; then `settle` makes probabilities of what there is. */
export type Progress =
  | { readonly kind: "singles"; readonly share: number }
  | { readonly kind: "pairs"; readonly progress: number; readonly left: number; readonly settle: () => Weighing };

/**
 * Weighs every hypothesis: nothing wrong and single faults first, then two faults in the order of promise. Yields every
 * few of either, so that a caller can show what there is, or stop.
 *
 * No pair is left out: each is integrated on its coarse cells, and only the refinement of cells depends on what they
 * promise. Cells are left coarse where even a mass e^slack larger would stay below e⁻⁹ of everything found so far. Where
 * an upper bound of a hypothesis' mass stays below its part of e⁻¹⁰ of that, the bound stands for the mass: all of them
 * together cannot carry 1e-4.
 */
export function* weighFaults(
  input: RankInput,
  { pairs = true, resolution }: RankOptions = {},
): Generator<Progress, Weighing | RankProblem> {
  const prepared = prepare(input, [], resolution);
  if (prepared.kind === "problem") return prepared;
  const { prior, integrator } = prepared;
  const pool = new Pool(prepared);
  const few = [prior.healthy, ...inOrder(prior.singles), ...prior.falseMeters];
  for (const [n, hypothesis] of few.entries()) {
    pool.take(integrator.integrate(hypothesis, pool.total, few.length), hypothesis);
    if (n % FEW === FEW - 1) yield { kind: "singles", share: n / few.length };
  }
  if (!pairs) return pool.settle(1, 0);
  yield { kind: "pairs", progress: 0, left: 1, settle: () => pool.settle(0, 1) };
  const consequences = consequencesOf(prepared);
  for (const consequence of consequences)
    pool.take(integrator.integrate(consequence, pool.total, consequences.length), consequence);
  yield { kind: "pairs", progress: 0, left: 1, settle: () => pool.settle(0, 1) };
  const { withMeters } = prior;
  for (const [n, hypothesis] of withMeters.entries()) {
    pool.take(integrator.integrate(hypothesis, pool.total, withMeters.length), hypothesis);
    if (n % CHUNK === CHUNK - 1) yield { kind: "pairs", progress: 0, left: 1, settle: () => pool.settle(0, 1) };
  }
  if (!prior.hasPairs) return pool.settle(1, 0);
  const covered = new Set(consequences.map((c) => pairKey(c.cause, c.victim)));
  const order = new PairsByPromise(prepared, (i, k) => covered.has(pairKey(i, k)));
  for (let n = 0; n < order.length; n += 1) {
    const hypothesis = prior.pair(...order.at(n));
    if (hypothesis) pool.take(integrator.integrate(hypothesis, pool.total, order.length), hypothesis);
    if (n % CHUNK === CHUNK - 1) {
      const progress = n / order.length;
      const logLeft = pool.logHealthy + order.logLeftFrom(n + 1);
      const left = Math.max(LEAST_LEFT, 1 / (1 + Math.exp(pool.total - logLeft)));
      yield { kind: "pairs", progress, left, settle: () => pool.settle(progress, left) };
    }
  }
  return pool.settle(1, 0);
}

/** Promises know little of islands that only two opens together make: less than this is not said to be left before the end. */
const LEAST_LEFT = 5e-4;

function pairKey(i: number, k: number): number {
  return Math.min(i, k) * 65536 + Math.max(i, k);
}

/** Hypotheses without unknown values first: they are quick, and set the scale for the others. */
function inOrder(hypotheses: readonly Hypothesis[]): Hypothesis[] {
  return [...hypotheses].sort((a, b) => unknownsOf(a.sites) - unknownsOf(b.sites));
}
