import { faultsOf, type Weighing } from "../rank/index.ts";
import type { Measurement } from "./candidates.ts";
import { classesOf, worthOf } from "./information.ts";
import type { Outlook } from "./outlook.ts";
import type { Offer, SuspectGroup } from "./plan.ts";

/** The groups with their members by name, and what of all on offer splits each best, dismantling included. */
export function listGroups(
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
      const classes = classesOf(own.map((o) => o.hypothesis));
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
