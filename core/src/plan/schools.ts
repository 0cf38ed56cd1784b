import type { Network } from "../circuit/index.ts";
import type { Suggestion } from "./plan.ts";

/** Ways of going about it that practitioners prefer; each puts the same suggestions in its own order. */
export type School = "information" | "halfSplit" | "fromSupply" | "swapOne";

type Order = (suggestions: readonly Suggestion[], network: Network) => Suggestion[];

/** Below this many bits a measurement is no better than any other. */
const TELLING = 0.01;
/** The end is near where some measurement settles the job with this probability. */
const NEAR = 0.3;

/** One row a school. */
export const SCHOOLS: Readonly<Record<School, { readonly name: string; readonly order: Order }>> = {
  information: { name: "best information per minute", order: byMinutes },
  halfSplit: {
    name: "half-split along the trail",
    // The voltage whose two answers are nearest to even odds: what the leading suspects say parts them in halves.
    order: (list, network) => {
      const places = placesAlong(network);
      const live = list.filter((s) => s.informationBits > TELLING && s.measurement.kind === "voltage");
      const spots = live.map((s) => placeOf(s, places));
      const middle = (Math.min(...spots) + Math.max(...spots)) / 2;
      return sortedBy(list, (s) =>
        live.includes(s) ? Math.abs(placeOf(s, places) - middle) : 1e6 - s.informationBits,
      );
    },
  },
  fromSupply: {
    name: "from the supply outward",
    order: (list, network) => {
      const places = placesAlong(network);
      return sortedBy(list, (s) =>
        s.measurement.kind === "voltage" && s.informationBits > TELLING ? placeOf(s, places) : 1e6 - s.informationBits,
      );
    },
  },
  swapOne: {
    name: "swap one at a time",
    order: (list) => sortedBy(list, (s) => (s.measurement.kind === "swap" ? 0 : 1e6) - s.informationBits),
  },
};

/**
 * Most information per minute; near the end the fewest expected minutes until the job is settled, t + (1 − S)·min t'/S',
 * with S the probability that a measurement settles it: a cheap reading that cannot, before a dear one that is needed
 * anyway, is a loss.
 */
function byMinutes(list: readonly Suggestion[]): Suggestion[] {
  const rate = (s: Suggestion) => s.informationBits / s.measurement.minutes;
  const isNear = list.some((s) => s.settles > NEAR);
  if (!isNear) return sortedBy(list, (s) => -rate(s));
  const least = Math.min(
    ...list.map((s) => (s.settles > 0 ? s.measurement.minutes / s.settles : Number.POSITIVE_INFINITY)),
  );
  const expected = (s: Suggestion) => s.measurement.minutes + (1 - s.settles) * least;
  // What tells nothing comes last, whatever it costs.
  // … and what is as good to the second keeps its place: nodes against the reference before pairs.
  return sortedBy(list, (s) => (s.informationBits > TELLING ? Math.round(60 * expected(s)) : 1e6 - rate(s)));
}

function sortedBy(list: readonly Suggestion[], key: (s: Suggestion) => number): Suggestion[] {
  return [...list].sort((a, b) => key(a) - key(b));
}

/** Steps from the first supply's plus to each node, along parts. */
function placesAlong(network: Network): Map<string, number> {
  const supply = network.branches.find((b) => b.kind === "supply") ?? network.branches[0];
  const steps = new Map<number, number>([[supply.from, 0]]);
  const queue = [supply.from];
  for (let at = queue.shift(); at !== undefined; at = queue.shift()) {
    for (const branch of network.branches) {
      if (branch === supply || (branch.from !== at && branch.to !== at)) continue;
      const other = branch.from === at ? branch.to : branch.from;
      if (steps.has(other)) continue;
      steps.set(other, (steps.get(at) ?? 0) + 1);
      queue.push(other);
    }
  }
  return new Map([...steps].map(([node, n]) => [network.nodes[node], n]));
}

function placeOf({ measurement }: Suggestion, places: ReadonlyMap<string, number>): number {
  if (!("reading" in measurement) || measurement.reading.quantity !== "voltage" || measurement.kind !== "voltage")
    return 1e6;
  const { from, to } = measurement.reading;
  return (places.get(from) ?? 0) + (to === undefined ? 0 : 0.5);
}
