import type { Law, Network, NodeName } from "../circuit/index.ts";
import type { Unsolvable } from "./modifiedNodal.ts";
import { type OperatingPoint, operatingPoint, topologyOf } from "./operatingPoint.ts";

export type Solution =
  | {
      readonly kind: "solved";
      readonly network: Network;
      /** Volts of each node against the reference; NaN where the node floats. */
      readonly volts: Float64Array;
      /** Amperes of each branch from `from` to `to`. */
      readonly amps: Float64Array;
      /** Watts each branch takes in; negative where it delivers. */
      readonly watts: Float64Array;
      readonly point: OperatingPoint;
      /** Nodes with no way to the reference. */
      readonly floating: readonly NodeName[];
    }
  | { readonly kind: "unsolvable"; readonly at: string; readonly why: string };

const WHY: Readonly<Record<Unsolvable["why"], string>> = {
  "source loop": "supplies without internal resistance are joined directly; give one of them ri=",
  "not finite": "a value is too large or too small to compute with",
  "no rest": "its current limit, or what bends, comes to no rest with the rest of the circuit",
};

/** Solves a network, by default with the laws it was built with. A network that cannot be solved says where and why. */
export function solveNetwork(network: Network, laws: readonly Law[] = network.branches.map((b) => b.law)): Solution {
  const point = operatingPoint(topologyOf(network), laws);
  if (point.kind === "unsolvable") {
    const branch = network.branches[point.branch];
    const at = branch ? branch.name : "the circuit";
    return { kind: "unsolvable", at, why: WHY[point.why] };
  }
  const { island } = point.base;
  const volts = point.volts.map((v, node) => (island[node] === island[network.reference] ? v : Number.NaN));
  const watts = Float64Array.from(
    network.branches,
    (b, k) => (point.volts[b.from] - point.volts[b.to]) * point.amps[k],
  );
  const floating = network.nodes.filter((_, node) => Number.isNaN(volts[node]));
  return { kind: "solved", network, volts, amps: point.amps, watts, point, floating };
}
