import { type Network, rowOf } from "../circuit/index.ts";
import { leadingRepair, type ProcedureStep, stepOf } from "../judgement/index.ts";
import type { Measurement, Offer, Plan } from "../plan/index.ts";
import type { Reading } from "../record/index.ts";

/** What tells less than this is not worth a step. */
const TELLING = 0.01;

/** Parts for which there is a sequence. */
export function deadLoadsOf(network: Network): string[] {
  return network.branches.flatMap((b) => (rowOf(b.kind).role === "consumer" ? [b.name] : []));
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
  const ways = network.branches.filter((b) => rowOf(b.kind).role === "way").map((b) => b.part.designator);
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
    .map((offer) => stepOf(plan, offer, readings, leadingRepair(plan)))
    .filter((s) => s.informationBits > TELLING || s.isDone);
}
