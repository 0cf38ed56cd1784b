import { designatorOf } from "../circuit/index.ts";
import { type Configuration, factsOf, isSameState } from "../configuration/index.ts";
import {
  faultsOf,
  type Observation,
  type Prediction,
  type RankInput,
  type Repairs,
  repairsOf,
  type SuspectFault,
  type Weighing,
} from "../rank/index.ts";
import { type Reading, type Seen, takenSo } from "../record/index.ts";
import { blend } from "./blend.ts";
import { isDismantling, type Measurement, type Minutes, measurementsOn } from "./candidates.ts";
import { groupSteps } from "./groups.ts";
import { classesOf, entropyOf, type Worth, worthOf, worthOfAnswers } from "./information.ts";
import { listGroups } from "./listGroups.ts";
import { looksFor } from "./looks.ts";
import { type Outlook, outlookSteps } from "./outlook.ts";
import { SCHOOLS, type School } from "./schools.ts";
import { atOnce, type Steps } from "./steps.ts";

/** A measurement worth taking. */
export interface Suggestion {
  readonly measurement: Measurement;
  /** Expected drop of the entropy over repairs. */
  readonly informationBits: number;
  /** Probability that the job is settled by it. */
  readonly settles: number;
  /** What each leading suspect foretells there; none for a swap or a look. */
  readonly predictions: readonly { readonly faults: readonly SuspectFault[]; readonly prediction: Prediction }[];
  /** What each leading suspect would show to the eye, of a look or a part tried alone. */
  readonly looks?: readonly { readonly faults: readonly SuspectFault[]; readonly seen: Seen }[];
}

/** Suspects that no measurement without dismantling tells apart, most probable first, and how to split them. */
export interface SuspectGroup {
  readonly members: readonly (readonly SuspectFault[])[];
  readonly probability: number;
  /** The measurement that splits the group best, dismantling included; null for a single suspect. */
  readonly split: Measurement | null;
}

export interface Plan {
  readonly suggestions: readonly Suggestion[];
  readonly groups: readonly SuspectGroup[];
  readonly repairs: Repairs;
  /** Entropy over the repairs now, in bits. */
  readonly entropyBits: number;
  /** What `readingsToSettle` works on: the ways the circuit may be, the repair each asks for, what is on offer. */
  readonly outlooks: readonly Outlook[];
  readonly classes: Int32Array;
  readonly offers: readonly Offer[];
}

/** One measurement with what it is worth, and where its outcomes stand in the outlooks. */
export interface Offer extends Suggestion {
  readonly outcome:
    | { readonly kind: "reading"; readonly at: number }
    /** Chances of each answer in every outlook; what is seen, of a look. A swap is answered by cured, or not. */
    | {
        readonly kind: "answers";
        readonly of: readonly (readonly number[])[];
        readonly seen: readonly Seen[];
      };
}

export interface PlanOptions {
  readonly school?: School;
  readonly minutes?: Minutes;
  /** How the circuit stands, where that differs from the drawing: what is on offer is measured so. */
  readonly standing?: Configuration;
  /** Suggestions listed. */
  readonly count?: number;
  /** Ways the circuit may be that take part at most: fewer are quicker, and coarser; no groups are told then. */
  readonly ways?: number;
}

const LEADING = 4;
/** What tells less than this, in bits, is not worth a hand while anything tells more. */
const LEAST_BITS = 0.05;
/** In circuits of more branches only the parts of the leading repairs are measured besides the nodes, and fewer outlooks told. */
const LARGE = 150;
const LEADING_REPAIRS = 24;
const FEW_OUTLOOKS = 96;
/** Ways by which everything on offer is weighed at first; by all of them only the best so many, and half as many besides. */
const SCREENING = 96;
const LOOKED_AT = 40;
/** How sure the answer of a swap is. */
const SWAP_TELLS = 0.99;

/**
 * What to measure next: for everything on offer the expected drop of the entropy over repairs, in the order of a school.
 * @returns null where the circuit cannot be solved
 */
export function* planSteps(input: RankInput, weighing: Weighing, options: PlanOptions = {}): Steps<Plan | null> {
  const { hypotheses, prepared: weighed } = weighing;
  const standing = options.standing ?? input.standing ?? {};
  const repairs = repairsOf(weighed, hypotheses);
  const isLarge = weighed.network.branches.length > LARGE;
  const only = isLarge ? leadingParts(repairs) : null;
  const measurements = measurementsOn(weighed.network, options.minutes, only, input.readings)
    .filter((m) => !isDone(m, standing))
    .map((m) => ("reading" in m ? { ...m, reading: takenSo(m.reading, standing) } : m));
  const readings = measurements.flatMap((m) => ("reading" in m ? [m.reading] : []));
  const looks = looksFor(input, weighing, measurements, standing);
  const ways = options.ways ?? (isLarge ? FEW_OUTLOOKS : undefined);
  const outlooks = yield* outlookSteps(input, hypotheses, readings, looks.flat, ways);
  if (!outlooks) return null;
  const classes = classesOf(outlooks.map((o) => repairs.ofHypothesis[o.hypothesis]));
  const weights = Float64Array.from(outlooks, (o) => o.probability);
  // Besides the suspects that lead, the likeliest of each repair that leads: these are what is shown.
  const repairsThatLead = new Set(
    repairs.shares
      .map((share, repair) => ({ ...share, repair }))
      .sort((a, b) => b.alone - a.alone)
      .slice(0, LEADING)
      .map(({ repair }) => repairs.ofHypothesis.indexOf(repair)),
  );
  const leading = hypotheses
    .flatMap((h, number) => (h.hypothesis.meter ? [] : [{ h, number }]))
    .filter(({ number }, place) => place < LEADING || repairsThatLead.has(number))
    .map(({ h, number }) => ({
      faults: faultsOf(weighed, h),
      own: outlooks.filter((o) => o.hypothesis === number),
    }));
  const known = leading.filter(({ own }) => own.length > 0);
  const sure = 1 - weighed.priors.blunder;
  const placeOf = new Map(readings.map((reading, at) => [reading, at]));
  /** Worth of a reading by the heaviest so many ways. */
  const worthAt = (at: number, few: number) => {
    const some = outlooks.length > few ? outlooks.slice(0, few) : outlooks;
    const total = some.reduce((sum, o) => sum + o.probability, 0);
    return worthOf({
      classes: classes.subarray(0, some.length),
      weights: some.map((o) => o.probability / total),
      mean: some.map((o) => o.mean[at]),
      deviation: some.map((o) => o.deviation[at]),
    });
  };
  const screen = (measurement: Measurement): Offer => {
    if ("reading" in measurement) {
      const at = placeOf.get(measurement.reading) ?? 0;
      const worth = scaled(worthAt(at, SCREENING), sure);
      return { measurement, ...worth, predictions: [], outcome: { kind: "reading", at } };
    }
    if (measurement.kind === "swap") {
      const yes = outlooks.map((o) =>
        isCuredBy(repairs.shares[repairs.ofHypothesis[o.hypothesis]].repair, measurement.part)
          ? SWAP_TELLS
          : 1 - SWAP_TELLS,
      );
      const of = [yes, yes.map((p) => 1 - p)];
      const worth = scaled(worthOfAnswers(classes, weights, of), 1);
      return { measurement, ...worth, predictions: [], outcome: { kind: "answers", of, seen: [] } };
    }
    const places = looks.of(measurement);
    const of = places.map((place) => outlooks.map((o) => o.looks[place]));
    const worth = scaled(worthOfAnswers(classes, weights, of), 1);
    const seen = known.map(({ faults, own }) => ({ faults, seen: likeliest(own, places, looks.flat) }));
    return {
      measurement,
      ...worth,
      predictions: [],
      looks: seen,
      outcome: { kind: "answers", of, seen: places.map((p) => looks.flat[p].seen) },
    };
  };
  const screened: Offer[] = [];
  for (const measurement of measurements) {
    screened.push(screen(measurement));
    yield;
  }
  const best = bestOf(screened);
  const looked = (offer: Offer): Offer => {
    const { outcome } = offer;
    if (outcome.kind !== "reading") return offer;
    const predictions = known.map(({ faults, own }) => ({ faults, prediction: blendAt(own, outcome.at) }));
    const isWhole = best.has(offer) && outlooks.length > SCREENING;
    const worth = isWhole ? scaled(worthAt(outcome.at, outlooks.length), sure) : {};
    return { ...offer, ...worth, predictions };
  };
  const offers: Offer[] = [];
  for (const offer of screened) {
    offers.push(looked(offer));
    yield;
  }
  const school = SCHOOLS[options.school ?? "information"];
  const ordered = inTurn(school.order(offers, weighed.network) as Offer[], input.readings, standing);
  // What tells most tells most of them apart, too: asked first, it is asked alone.
  const tellingFirst = [...offers].sort((a, b) => b.informationBits - a.informationBits);
  const undismantled = {
    readings: tellingFirst.flatMap(({ measurement, outcome }) =>
      outcome.kind === "reading" && !isDismantling(measurement) ? [outcome.at] : [],
    ),
    looks: measurements.flatMap((m) => (m.kind === "look" ? [looks.of(m)] : [])),
  };
  // Few ways do not tell what cannot be told apart.
  const isWhole = options.ways === undefined;
  const groupOf = isWhole ? yield* groupSteps(outlooks, hypotheses.length, undismantled) : null;
  return {
    suggestions: offered(ordered)
      .slice(0, options.count ?? 12)
      .map(({ outcome: _, ...suggestion }) => suggestion),
    groups: groupOf ? listGroups(weighing, outlooks, groupOf, offers) : [],
    repairs,
    entropyBits: entropyOf(classes, weights),
    outlooks,
    classes,
    offers: ordered,
  };
}

/** The same at once. */
export function planMeasurements(...given: Parameters<typeof planSteps>): Plan | null {
  return atOnce(planSteps(...given));
}

/** What may be proposed: the best by what they tell a minute, and by what they tell. */
function bestOf(offers: readonly Offer[]): ReadonlySet<Offer> {
  const rate = (o: Offer) => o.informationBits / o.measurement.minutes;
  const byRate = [...offers].sort((a, b) => rate(b) - rate(a));
  const byBits = [...offers].sort((a, b) => b.informationBits - a.informationBits);
  return new Set([...byRate.slice(0, LOOKED_AT), ...byBits.slice(0, LOOKED_AT / 2)]);
}

/**
 * What was just changed is read with first: a swap by itself tells nothing. Otherwise what tells next to nothing comes
 * after what tells something.
 */
function inTurn(ordered: readonly Offer[], readings: readonly Reading[], standing: Configuration): Offer[] {
  const isUnread = isChanged(standing) && !readings.some((r) => isSameState(r.state, standing));
  const isRead = ({ measurement: m }: Offer) => !isUnread || !isDismantling(m);
  const turn = (offer: Offer) => (isRead(offer) ? 0 : 2) + (offer.informationBits >= LEAST_BITS ? 0 : 1);
  return [...ordered].sort((a, b) => turn(a) - turn(b));
}

/** True where something was done that is meant to tell: swapped, lifted, moved, taken out, cleared, given another value. */
function isChanged(standing: Configuration): boolean {
  return factsOf(standing).some(({ is }) => is !== "leads" && is !== "inHand" && is !== "meter");
}

/** What is listed: nothing that tells next to nothing while another tells something, and nothing that tells nothing at all. */
function offered(ordered: readonly Offer[]): readonly Offer[] {
  const telling = ordered.filter((o) => o.informationBits >= LEAST_BITS);
  return telling.length > 0 ? telling : ordered.filter((o) => o.informationBits > 0);
}

function leadingParts({ shares }: Repairs): Set<string> {
  const leading = [...shares].sort((a, b) => b.probability - a.probability).slice(0, LEADING_REPAIRS);
  return new Set(leading.flatMap(({ repair }) => repair.flatMap((step) => ("part" in step ? [step.part] : []))));
}

/** What is there already is not done again: a known-good part is in, a part was taken out. */
function isDone(measurement: Measurement, standing: Configuration): boolean {
  const gone = factsOf(standing).flatMap((f) =>
    f.is === "swapped" || f.is === "out" || f.is === "value" ? [f.part] : [],
  );
  if (measurement.kind === "swap" || measurement.kind === "alone") return gone.includes(measurement.part);
  if (measurement.kind !== "lift") return false;
  const { reading } = measurement;
  return reading.quantity !== "current" && gone.includes(designatorOf(reading.lifted ?? ""));
}

function scaled({ bits, settles }: Worth, factor: number) {
  return { informationBits: bits * factor, settles: settles * factor };
}

/** A known-good part in its place cures what asks for that part, and nothing else. */
function isCuredBy(repair: Repairs["shares"][number]["repair"], part: string): boolean {
  return repair.length === 1 && "part" in repair[0] && repair[0].part === part;
}

function likeliest(own: readonly Outlook[], places: readonly number[], looks: readonly Observation[]): Seen {
  const chance = (place: number) => own.reduce((s, o) => s + o.probability * o.looks[place], 0);
  const best = places.reduce((a, b) => (chance(b) > chance(a) ? b : a), places[0]);
  return looks[best]?.seen ?? "intact";
}

/** What a hypothesis' outlooks foretell at one candidate. */
function blendAt(outlooks: readonly Outlook[], k: number): Prediction {
  return blend(outlooks.map((o) => ({ weight: o.probability, mean: o.mean[k], deviation: o.deviation[k] })));
}
