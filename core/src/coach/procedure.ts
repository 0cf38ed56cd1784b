import type { Kind, Network } from "../circuit/index.ts";
import { type Measurement, type Offer, type Plan, worthOf, worthOfAnswers } from "../plan/index.ts";
import type { RepairShare } from "../rank/index.ts";
import type { Reading, Seen } from "../record/index.ts";

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

const LEADING = 2;
/** What tells less than this is not worth a step. */
const TELLING = 0.01;
/** Bits that a proof has to give at least, of one; and what a minute is worth of them. */
const PROVES = 0.3;
const A_MINUTE = 0.01;
/** Kinds that are dead or alive to the eye, and those that lead to them. */
const DEAD: ReadonlySet<Kind> = new Set(["lamp", "coil", "load"]);
const WAYS_TO: readonly Kind[] = ["fuse", "switch", "connector", "wire", "joint"];

/** Parts for which there is a sequence. */
export function deadLoadsOf(network: Network): string[] {
  return network.branches.flatMap((b) => (DEAD.has(b.kind) ? [b.name] : []));
}

/**
 * The sequence for something that stays dark, silent or cold: look at it; the supply by itself; the part alone on a good
 * supply; then one thing changed at a time, the part, what leads to it, the supply. Each step with what its outcomes mean
 * by the ranking as it stands; what tells nothing any more is left out.
 */
export function deadLoad(network: Network, plan: Plan, readings: readonly Reading[], part: string): ProcedureStep[] {
  const supplies = network.branches.filter((b) => b.kind === "supply");
  const ends = supplies.map((b) => [network.nodes[b.from], network.nodes[b.to]]);
  const isAt = (offer: Offer) => {
    const { measurement: m } = offer;
    if (m.kind !== "voltage" || m.reading.quantity !== "voltage") return false;
    const { from, to = network.nodes[network.reference] } = m.reading;
    return ends.some(([plus, minus]) => from === plus && to === minus);
  };
  const of = (kind: Measurement["kind"], name: string) => (o: Offer) =>
    o.measurement.kind === kind && "part" in o.measurement && o.measurement.part === name;
  const ways = network.branches.filter((b) => WAYS_TO.includes(b.kind)).map((b) => b.part.designator);
  const wanted = [
    of("look", part),
    isAt,
    of("alone", part),
    of("swap", part),
    ...[...new Set(ways)].map((way) => of("swap", way)),
    ...supplies.map((b) => of("swap", b.part.designator)),
  ];
  return wanted
    .flatMap((is) => plan.offers.filter(is).slice(0, 1))
    .map((offer) => stepOf(plan, offer, readings))
    .filter((s) => s.informationBits > TELLING || s.isDone);
}

/**
 * The one measurement that best tells the leading repair from all others, dismantling included: as if it were as likely as
 * all of them together, since what is nearly certain is still to be proved.
 */
export function proofOf(plan: Plan, readings: readonly Reading[]): ProcedureStep | null {
  const first = leadingClass(plan);
  const classes = plan.classes.map((c) => Number(c === first));
  const own = plan.outlooks.reduce((s, o, k) => s + classes[k] * o.probability, 0);
  const weights = Float64Array.from(plan.outlooks, (o, k) => (0.5 * o.probability) / (classes[k] ? own : 1 - own));
  const bitsOf = ({ outcome }: Offer) => {
    if (outcome.kind === "answers") return worthOfAnswers(classes, weights, outcome.of).bits;
    const mean = plan.outlooks.map((o) => o.mean[outcome.at]);
    return worthOf({ classes, weights, mean, deviation: plan.outlooks.map((o) => o.deviation[outcome.at]) }).bits;
  };
  // Of two that prove about the same, the quicker one.
  const worth = (offer: Offer) => bitsOf(offer) - A_MINUTE * offer.measurement.minutes;
  if (own > 1 - 1e-9) return ownProofOf(plan, readings);
  const ranked = plan.offers.map((offer) => ({ offer, bits: bitsOf(offer), worth: worth(offer) }));
  const best = ranked.sort((a, b) => b.worth - a.worth)[0];
  return best && best.bits > PROVES ? stepOf(plan, best.offer, readings) : null;
}

/** Where no other repair is left to tell it from: the part by itself. */
function ownProofOf(plan: Plan, readings: readonly Reading[]): ProcedureStep | null {
  const [step] = plan.repairs.shares[plan.repairs.ofHypothesis[plan.outlooks[0].hypothesis]].repair;
  if (!step || !("part" in step)) return null;
  const isOf = ({ measurement: m }: Offer) =>
    m.kind === "lift" && m.reading.quantity === "resistance"
      ? m.reading.lifted === step.part
      : m.kind === "swap" && m.part === step.part;
  const best = plan.offers.filter(isOf).sort((a, b) => a.measurement.minutes - b.measurement.minutes)[0];
  return best ? stepOf(plan, best, readings) : null;
}

function leadingClass(plan: Plan): number {
  const mass = new Map<number, number>();
  plan.outlooks.forEach((o, k) => {
    mass.set(plan.classes[k], (mass.get(plan.classes[k]) ?? 0) + o.probability);
  });
  return [...mass].reduce((a, b) => (b[1] > a[1] ? b : a), [-1, -1])[0];
}

function stepOf(plan: Plan, offer: Offer, readings: readonly Reading[]): ProcedureStep {
  const { measurement, informationBits, outcome } = offer;
  const outcomes = outcome.kind === "answers" ? answersOf(plan, outcome.of, outcome.seen) : readsOf(plan, outcome.at);
  return { measurement, informationBits, outcomes, isDone: isDone(measurement, readings) };
}

function answersOf(plan: Plan, of: readonly (readonly number[])[], seen: readonly Seen[]): Outcome[] {
  const named = (i: number): Outcome["of"] =>
    seen.length > 0 ? { kind: "seen", seen: seen[i] } : { kind: i === 0 ? "cured" : "notCured" };
  return of.map((chance, i) => after(plan, named(i), (k) => chance[k])).filter((o) => o.probability > 0.005);
}

/** What would be read if the leading repair is the one, and if not. */
function readsOf(plan: Plan, at: number): Outcome[] {
  const first = leadingClass(plan);
  return (["suspect", "others"] as const).flatMap((side): Outcome[] => {
    const own = [...plan.outlooks.keys()].filter((k) => (plan.classes[k] === first) === (side === "suspect"));
    const total = own.reduce((s, k) => s + plan.outlooks[k].probability, 0);
    if (total <= 0.001) return [];
    const mean = own.reduce((s, k) => s + plan.outlooks[k].probability * plan.outlooks[k].mean[at], 0) / total;
    const square =
      own.reduce(
        (s, k) =>
          s + plan.outlooks[k].probability * (plan.outlooks[k].deviation[at] ** 2 + plan.outlooks[k].mean[at] ** 2),
        0,
      ) / total;
    const plusMinus = 2 * Math.sqrt(Math.max(0, square - mean * mean));
    // What reads like the middle of this side: the density of each way the circuit may be, there.
    const like = (k: number) => {
      const { deviation, mean: m } = plan.outlooks[k];
      return Math.exp(-0.5 * ((mean - m[at]) / deviation[at]) ** 2);
    };
    return [{ ...after(plan, { kind: "reads", value: mean, plusMinus, side }, like), probability: total }];
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
