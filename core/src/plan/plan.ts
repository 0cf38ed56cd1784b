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
import { isDismantling, looksAt, type Measurement, type Minutes, measurementsOn } from "./candidates.ts";
import { groupsOf } from "./groups.ts";
import { entropyOf, type Worth, worthOf, worthOfAnswers } from "./information.ts";
import { type Outlook, outlooksOn } from "./outlook.ts";
import { SCHOOLS, type School } from "./schools.ts";

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
/** How sure the answer of a swap is. */
const SWAP_TELLS = 0.99;

/**
 * What to measure next: for everything on offer the expected drop of the entropy over repairs, in the order of a school.
 * @returns null where the circuit cannot be solved
 */
export function planMeasurements(input: RankInput, weighing: Weighing, options: PlanOptions = {}): Plan | null {
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
  const outlooks = outlooksOn(input, hypotheses, readings, looks.flat, ways);
  if (!outlooks) return null;
  const classes = compact(outlooks.map((o) => repairs.ofHypothesis[o.hypothesis]));
  const weights = Float64Array.from(outlooks, (o) => o.probability);
  const leading = hypotheses
    .flatMap((h, number) => (h.hypothesis.meter ? [] : [{ h, number }]))
    .slice(0, LEADING)
    .map(({ h, number }) => ({
      faults: faultsOf(weighed, h),
      own: outlooks.filter((o) => o.hypothesis === number),
    }));
  const known = leading.filter(({ own }) => own.length > 0);
  const sure = 1 - weighed.priors.blunder;
  const offers = measurements.map((measurement): Offer => {
    if ("reading" in measurement) {
      const at = readings.indexOf(measurement.reading);
      const mean = outlooks.map((o) => o.mean[at]);
      const deviation = outlooks.map((o) => o.deviation[at]);
      const predictions = known.map(({ faults, own }) => ({ faults, prediction: blendAt(own, at) }));
      const worth = scaled(worthOf({ classes, weights, mean, deviation }), sure);
      return { measurement, ...worth, predictions, outcome: { kind: "reading", at } };
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
  });
  const school = SCHOOLS[options.school ?? "information"];
  const ordered = inTurn(school.order(offers, weighed.network) as Offer[], input.readings, standing);
  const undismantled = {
    readings: offers.flatMap(({ measurement, outcome }) =>
      outcome.kind === "reading" && !isDismantling(measurement) ? [outcome.at] : [],
    ),
    looks: measurements.flatMap((m) => (m.kind === "look" ? [looks.of(m)] : [])),
  };
  // Few ways do not tell what cannot be told apart.
  const isWhole = options.ways === undefined;
  const groupOf = isWhole ? groupsOf(outlooks, hypotheses.length, undismantled) : null;
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

/** A look may be taken again once: the eye may have been mistaken. */
const LOOKS_AT_MOST = 2;

/** What might be seen: every answer of every look on offer that was not told as often already. */
function looksFor(
  { readings }: RankInput,
  { prepared }: Weighing,
  measurements: readonly Measurement[],
  standing: Configuration,
): { readonly flat: readonly Observation[]; readonly of: (m: Measurement) => readonly number[] } {
  const flat: Observation[] = [];
  const places = new Map<Measurement, number[]>();
  for (const measurement of measurements) {
    if (measurement.kind !== "look" && measurement.kind !== "alone") continue;
    const { part } = measurement;
    const kind = prepared.network.branches.find((b) => b.part.designator === part)?.kind;
    const alone = measurement.kind === "alone" ? { alone: true } : {};
    const answers = ((kind && looksAt(kind)) ?? []).map((seen) =>
      takenSo({ quantity: "observation", part, seen, ...alone } as Observation, standing),
    );
    const told = readings.filter(
      (r) =>
        r.quantity === "observation" &&
        r.part === part &&
        Boolean(r.alone) === Boolean(answers[0]?.alone) &&
        isSameState(r.state, answers[0]?.state),
    );
    if (told.length < LOOKS_AT_MOST)
      places.set(
        measurement,
        answers.map((a) => flat.push(a) - 1),
      );
  }
  return { flat, of: (m) => places.get(m) ?? [] };
}

/** What is there already is not done again: a known-good part is in, a part was taken out. */
function isDone(measurement: Measurement, standing: Configuration): boolean {
  const gone = factsOf(standing).flatMap((f) =>
    f.is === "swapped" || f.is === "out" || f.is === "value" ? [f.part] : [],
  );
  if (measurement.kind === "swap" || measurement.kind === "alone") return gone.includes(measurement.part);
  if (measurement.kind !== "lift") return false;
  const { reading } = measurement;
  return reading.quantity === "resistance" && gone.includes((reading.lifted ?? "").split(".")[0]);
}

function scaled({ bits, settles }: Worth, factor: number) {
  return { informationBits: bits * factor, settles: settles * factor };
}

/** A known-good part in its place cures what asks for that part, and nothing else. */
function isCuredBy(repair: Repairs["shares"][number]["repair"], part: string): boolean {
  return repair.length === 1 && "part" in repair[0] && repair[0].part === part;
}

/** Numbers from 0 on, one for each different one. */
function compact(numbers: readonly number[]): Int32Array {
  const seen = new Map<number, number>();
  return Int32Array.from(numbers, (n) => {
    const known = seen.get(n) ?? seen.size;
    seen.set(n, known);
    return known;
  });
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

function listGroups(
  { hypotheses, prepared }: Weighing,
  outlooks: readonly Outlook[],
  groupOf: Int32Array,
  offers: readonly Offer[],
): SuspectGroup[] {
  const members = new Map<number, number[]>();
  for (const number of new Set(outlooks.map((o) => o.hypothesis)))
    members.set(groupOf[number], [...(members.get(groupOf[number]) ?? []), number]);
  const lifts = offers.filter((o) => o.measurement.kind === "lift");
  return [...members.values()]
    .map((numbers): SuspectGroup => {
      const own = outlooks.filter((o) => numbers.includes(o.hypothesis));
      const sum = own.reduce((s, o) => s + o.probability, 0);
      const weights = own.map((o) => o.probability / sum);
      // Within the group every member counts for itself.
      const classes = compact(own.map((o) => o.hypothesis));
      const bitsOf = ({ outcome }: Offer) =>
        outcome.kind === "reading"
          ? worthOf({
              classes,
              weights,
              mean: own.map((o) => o.mean[outcome.at]),
              deviation: own.map((o) => o.deviation[outcome.at]),
            }).bits
          : 0;
      const best = (numbers.length > 1 ? lifts : [])
        .map((offer) => ({ measurement: offer.measurement, bits: bitsOf(offer) }))
        .reduce<{ measurement: Measurement | null; bits: number }>((a, b) => (b.bits > a.bits ? b : a), {
          measurement: null,
          bits: 0.01,
        });
      return {
        members: numbers.map((n) => faultsOf(prepared, hypotheses[n])),
        probability: numbers.reduce((s, n) => s + hypotheses[n].probability, 0),
        split: best.measurement,
      };
    })
    .sort((a, b) => b.probability - a.probability);
}
