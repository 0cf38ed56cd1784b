import { designatorOf, type NodeName } from "../circuit/index.ts";
import { blend, type Measurement, type Offer, type Plan, worthOf, worthOfAnswers } from "../plan/index.ts";
import { hasStep, type RepairShare, type RepairStep } from "../rank/index.ts";
import { isDiodeTest, type Reading, type Seen } from "../record/index.ts";

/** What a step may come out as, how likely that is, and what it would mean: the repairs that lead then. */
export interface Outcome {
  readonly of:
    | { readonly kind: "seen"; readonly seen: Seen }
    | { readonly kind: "cured" | "notCured" }
    /** A reading as the leading suspect has it, or as the others have it; its middle and limit. */
    | {
        readonly kind: "reads";
        readonly value: number;
        readonly plusMinus: number;
        readonly side: "suspect" | "others";
      };
  readonly probability: number;
  readonly leads: readonly RepairShare[];
}

export interface ProcedureStep {
  readonly measurement: Measurement;
  readonly informationBits: number;
  readonly outcomes: readonly Outcome[];
  readonly isDone: boolean;
}

/** What was done already that shows a repair to be the right one. */
export interface GivenProof {
  readonly step: RepairStep;
  /** Of the readings of the job, the one that was taken with it, first. */
  readonly index: number;
  readonly how: "swapped" | "lifted" | "cleared";
}

/** How a repair is proved: what was done already that shows it, and for each of its parts without that one step. */
export interface RepairProof {
  readonly repair: readonly RepairStep[];
  readonly given: readonly GivenProof[];
  /** None where it is proved, or nothing on offer would. */
  readonly steps: readonly ProcedureStep[];
}

const LEADING = 2;
/** Bits that a proof has to give at least, of one; and what a minute is worth of them. */
const PROVES = 0.3;
const A_MINUTE = 0.01;
/** Ways the circuit may be that take part in a proof, with the repair and without. */
const A_SIDE = 24;

/** How a repair of the plan, by its number, is proved. */
export function proofOf(plan: Plan, readings: readonly Reading[], number: number): RepairProof {
  const { repair } = plan.repairs.shares[number];
  const given = repair.flatMap((step) => givenFor(step, readings));
  const missing = repair.filter((step) => !given.some((g) => g.step === step));
  const steps = missing.flatMap((step) => {
    const own = plan.repairs.shares.findIndex((s) => s.repair.length === 1 && hasStep(s.repair, step));
    return (own < 0 ? null : stepFor(plan, readings, own)) ?? ownProofOf(plan, readings, step, number) ?? [];
  });
  const kept = new Map(steps.map((s) => [JSON.stringify(s.measurement), s]));
  return { repair, given, steps: [...kept.values()] };
}

/** The repair that leads, by its number. */
export function leadingRepair(plan: Plan): number {
  return plan.repairs.shares.findIndex((s) => s.repair.length > 0);
}

function givenFor(step: RepairStep, readings: readonly Reading[]): GivenProof[] {
  const found = readings.flatMap((reading, index): GivenProof[] => {
    const { state } = reading;
    if ("nodes" in step)
      return state?.cleared?.some((pair) => step.nodes.every((n) => pair.includes(n as NodeName)))
        ? [{ step, index, how: "cleared" }]
        : [];
    if (state?.swapped?.includes(step.part)) return [{ step, index, how: "swapped" }];
    const alone = "lifted" in reading && typeof reading.lifted === "string" ? designatorOf(reading.lifted) : null;
    const isLifted = alone === step.part;
    return isLifted ? [{ step, index, how: "lifted" }] : [];
  });
  return found.slice(0, 1);
}

/** Ways the circuit may be in which a repair is needed, whatever else is. */
function needing(plan: Plan, number: number): boolean[] {
  const { shares, ofHypothesis } = plan.repairs;
  const { repair } = shares[number];
  return plan.outlooks.map((o) => {
    const needed = shares[ofHypothesis[o.hypothesis]].repair;
    return repair.every((step) => hasStep(needed, step));
  });
}

/**
 * The one measurement that best tells a repair from all others, dismantling included: as if it were as likely as all of
 * them together, since what is nearly certain is still to be proved.
 */
function stepFor(plan: Plan, readings: readonly Reading[], number: number): ProcedureStep | null {
  const isNeeded = needing(plan, number);
  const ways = [...heaviest(plan, isNeeded, true), ...heaviest(plan, isNeeded, false)];
  const own = ways.reduce((s, k) => s + (isNeeded[k] ? plan.outlooks[k].probability : 0), 0);
  const all = ways.reduce((s, k) => s + plan.outlooks[k].probability, 0);
  if (own === 0 || own > all - 1e-9) return null;
  const classes = ways.map((k) => Number(isNeeded[k]));
  const weights = ways.map((k) => (0.5 * plan.outlooks[k].probability) / (isNeeded[k] ? own : all - own));
  const bitsOf = ({ outcome }: Offer) => {
    if (outcome.kind === "answers")
      return worthOfAnswers(
        classes,
        weights,
        outcome.of.map((chance) => ways.map((k) => chance[k])),
      ).bits;
    const mean = ways.map((k) => plan.outlooks[k].mean[outcome.at]);
    return worthOf({ classes, weights, mean, deviation: ways.map((k) => plan.outlooks[k].deviation[outcome.at]) }).bits;
  };
  const ranked = plan.offers.map((offer) => {
    const bits = bitsOf(offer);
    // Of two that prove about the same, the quicker one.
    return { offer, bits, worth: bits - A_MINUTE * offer.measurement.minutes };
  });
  const best = ranked.sort((a, b) => b.worth - a.worth)[0];
  return best && best.bits > PROVES ? stepOf(plan, best.offer, readings, number) : null;
}

/** The likeliest ways on one side. */
function heaviest({ outlooks }: Plan, isNeeded: readonly boolean[], side: boolean): number[] {
  return [...outlooks.keys()]
    .filter((k) => isNeeded[k] === side)
    .sort((a, b) => outlooks[b].probability - outlooks[a].probability)
    .slice(0, A_SIDE);
}

/** Where no other repair is left to tell it from: the part by itself. */
function ownProofOf(plan: Plan, readings: readonly Reading[], step: RepairStep, number: number): ProcedureStep | null {
  if (!("part" in step)) return null;
  const isOf = ({ measurement: m }: Offer) =>
    m.kind === "lift" && m.reading.quantity !== "current"
      ? m.reading.lifted === step.part
      : m.kind === "swap" && m.part === step.part;
  const own = plan.offers.filter(isOf);
  // An ohms range sees as little of a good junction as of an open one.
  const tests = own.filter(({ measurement: m }) => "reading" in m && isDiodeTest(m.reading));
  const ways = own.filter((o) => tests.length === 0 || o.measurement.kind !== "lift" || tests.includes(o));
  const best = ways.sort((a, b) => a.measurement.minutes - b.measurement.minutes)[0];
  return best ? stepOf(plan, best, readings, number) : null;
}

/** A step with what its outcomes mean. @param number of the repair that it is about */
export function stepOf(plan: Plan, offer: Offer, readings: readonly Reading[], number: number): ProcedureStep {
  const { measurement, informationBits, outcome } = offer;
  const outcomes =
    outcome.kind === "answers" ? answersOf(plan, outcome.of, outcome.seen) : readsOf(plan, outcome.at, number);
  return { measurement, informationBits, outcomes, isDone: isDone(measurement, readings) };
}

function answersOf(plan: Plan, of: readonly (readonly number[])[], seen: readonly Seen[]): Outcome[] {
  const named = (i: number): Outcome["of"] =>
    seen.length > 0 ? { kind: "seen", seen: seen[i] } : { kind: i === 0 ? "cured" : "notCured" };
  return of.map((chance, i) => after(plan, named(i), (k) => chance[k])).filter((o) => o.probability > 0.005);
}

/** What would be read if the repair is the one, and if not. */
function readsOf(plan: Plan, at: number, number: number): Outcome[] {
  const isNeeded = needing(plan, number);
  return (["suspect", "others"] as const).flatMap((side): Outcome[] => {
    const own = [...plan.outlooks.keys()].filter((k) => isNeeded[k] === (side === "suspect"));
    const total = own.reduce((s, k) => s + plan.outlooks[k].probability, 0);
    if (total <= 0.001) return [];
    const { value, plusMinus } = blend(
      own.map((k) => {
        const { probability: weight, mean, deviation } = plan.outlooks[k];
        return { weight, mean: mean[at], deviation: deviation[at] };
      }),
    );
    // What reads like the middle of this side: the density of each way the circuit may be, there.
    const like = (k: number) => {
      const { deviation, mean: m } = plan.outlooks[k];
      return Math.exp(-0.5 * ((value - m[at]) / deviation[at]) ** 2);
    };
    return [{ ...after(plan, { kind: "reads", value, plusMinus, side }, like), probability: total }];
  });
}

/** The repairs that lead after an outcome of so much chance under each way the circuit may be. */
function after(plan: Plan, of: Outcome["of"], chance: (k: number) => number): Outcome {
  const mass = new Map<number, number>();
  let total = 0;
  plan.outlooks.forEach((o, k) => {
    const own = o.probability * chance(k);
    const repair = plan.repairs.ofHypothesis[o.hypothesis];
    mass.set(repair, (mass.get(repair) ?? 0) + own);
    total += own;
  });
  const leads = [...mass]
    .sort((a, b) => b[1] - a[1])
    .slice(0, LEADING)
    .map(([repair, own]) => ({ ...plan.repairs.shares[repair], probability: total > 0 ? own / total : 0 }));
  return { of, probability: total, leads };
}

function isDone(measurement: Measurement, readings: readonly Reading[]): boolean {
  if (!("part" in measurement)) {
    const { value: _, state: __, ...place } = measurement.reading;
    return readings.some((r) =>
      Object.entries(place).every(([key, value]) => (r as Record<string, unknown>)[key] === value),
    );
  }
  const { kind, part } = measurement;
  if (kind === "swap") return readings.some((r) => r.state?.swapped?.includes(part));
  return readings.some(
    (r) => r.quantity === "observation" && r.part === part && Boolean(r.alone) === (kind === "alone"),
  );
}
