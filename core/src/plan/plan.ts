import { limitOf } from "../measure/index.ts";
import { faultsOf, type Prediction, type RankInput, type SuspectFault, type Weighing } from "../rank/index.ts";
import { type Configuration, takenSo } from "../record/index.ts";
import { type Measurement, type Minutes, measurementsOn } from "./candidates.ts";
import { groupsOf } from "./groups.ts";
import { entropyOf, informationOf, informationOfAnswer } from "./information.ts";
import { type Outlook, outlooksOn } from "./outlook.ts";
import { SCHOOLS, type School } from "./schools.ts";

/** A measurement worth taking. */
export interface Suggestion {
  readonly measurement: Measurement;
  /** Expected drop of the entropy over groups of suspects. */
  readonly informationBits: number;
  /** What each leading suspect foretells there; none for a swap. */
  readonly predictions: readonly { readonly faults: readonly SuspectFault[]; readonly prediction: Prediction }[];
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
  /** Entropy over the groups now, in bits. */
  readonly entropyBits: number;
  /** What `readingsToSettle` works on. */
  readonly outlooks: readonly Outlook[];
  readonly groupOf: Int32Array;
  readonly candidates: readonly Measurement[];
}

export interface PlanOptions {
  readonly school?: School;
  readonly minutes?: Minutes;
  /** How the circuit stands, where that differs from the drawing: what is on offer is measured so. */
  readonly standing?: Configuration;
  /** Suggestions listed. */
  readonly count?: number;
}

const LEADING = 4;

/**
 * What to measure next: for everything on offer the expected drop of the entropy over groups of suspects, in the order
 * of a school.
 * @returns null where the circuit cannot be solved
 */
export function planMeasurements(input: RankInput, weighing: Weighing, options: PlanOptions = {}): Plan | null {
  const { hypotheses, prepared: weighed } = weighing;
  const { standing = {} } = options;
  const measurements = measurementsOn(weighed.network, options.minutes).map((m) =>
    m.kind === "swap" ? m : { ...m, reading: takenSo(m.reading, standing) },
  );
  const readings = measurements.flatMap((m) => (m.kind === "swap" ? [] : [m.reading]));
  const found = outlooksOn(input, hypotheses, readings);
  if (!found) return null;
  const { outlooks } = found;
  const { meter, priors } = weighed;
  const undismantled = measurements.flatMap((m, k) => (m.kind === "swap" || m.kind === "lift" ? [] : [k]));
  const errors = (k: number, value: number) => limitOf({ ...readings[k], value }, meter) / 2;
  const groupOf = groupsOf(outlooks, hypotheses.length, undismantled, errors);
  const ownersOf = (o: Outlook) => hypotheses[o.hypothesis].hypothesis.sites.map((s) => weighed.prior.nameOf(s));
  const leading = hypotheses.slice(0, LEADING);
  const predictionsAt = (k: number) =>
    leading.flatMap((h, number) => {
      const own = outlooks.filter((o) => o.hypothesis === number);
      return own.length > 0 ? [{ faults: faultsOf(weighed, h), prediction: blend(own, k) }] : [];
    });
  const suggestions = measurements.map((measurement, k): Suggestion => {
    if (measurement.kind === "swap") {
      const cured = (o: Outlook) => ownersOf(o).length > 0 && ownersOf(o).every((name) => name === measurement.part);
      return { measurement, informationBits: informationOfAnswer(outlooks, cured), predictions: [] };
    }
    const informationBits = (1 - priors.blunder) * informationOf(outlooks, groupOf, k);
    return { measurement, informationBits, predictions: predictionsAt(k) };
  });
  const ordered = SCHOOLS[options.school ?? "information"].order(suggestions, weighed.network);
  const splitters = measurements.flatMap((m, k) => (m.kind === "lift" ? [k] : []));
  return {
    suggestions: ordered.slice(0, options.count ?? 12),
    groups: listGroups(weighing, outlooks, groupOf, splitters, measurements),
    entropyBits: entropyOf(outlooks, groupOf),
    outlooks,
    groupOf,
    candidates: measurements,
  };
}

/** Mean and two standard deviations of a hypothesis' outlooks at one candidate. */
function blend(outlooks: readonly Outlook[], k: number): Prediction {
  const total = outlooks.reduce((s, o) => s + o.probability, 0);
  const mean = outlooks.reduce((s, o) => s + o.probability * o.mean[k], 0) / total;
  const square = outlooks.reduce((s, o) => s + o.probability * (o.deviation[k] ** 2 + o.mean[k] ** 2), 0) / total;
  return { value: mean, plusMinus: 2 * Math.sqrt(Math.max(0, square - mean * mean)) };
}

function listGroups(
  { hypotheses, prepared }: Weighing,
  outlooks: readonly Outlook[],
  groupOf: Int32Array,
  splitters: readonly number[],
  measurements: readonly Measurement[],
): SuspectGroup[] {
  const members = new Map<number, number[]>();
  for (const number of new Set(outlooks.map((o) => o.hypothesis)))
    members.set(groupOf[number], [...(members.get(groupOf[number]) ?? []), number]);
  return [...members.values()]
    .map((numbers): SuspectGroup => {
      const own = outlooks.filter((o) => numbers.includes(o.hypothesis));
      const sum = own.reduce((s, o) => s + o.probability, 0);
      const weights = own.map((o) => o.probability / sum);
      // Within the group every member counts for itself.
      const apart = Int32Array.from(groupOf, (_, i) => i);
      const best = splitters
        .map((k) => ({ k, bits: informationOf(own, apart, k, weights) }))
        .reduce((a, b) => (b.bits > a.bits ? b : a), { k: -1, bits: 0.01 });
      return {
        members: numbers.map((n) => faultsOf(prepared, hypotheses[n])),
        probability: numbers.reduce((s, n) => s + hypotheses[n].probability, 0),
        split: numbers.length > 1 && best.k >= 0 ? measurements[best.k] : null,
      };
    })
    .sort((a, b) => b.probability - a.probability);
}
