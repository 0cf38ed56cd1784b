import type { Law, Network } from "../circuit/index.ts";
import { type OperatingPoint, operatingPoint, type Topology, type Unsolvable } from "../solve/index.ts";

/** Two nodes between which something may be connected: a meter, or a bridge. */
export type NodePair = readonly [from: number, to: number];

/**
 * A solved network seen from its elements. Elements are its branches, then pairs of nodes. Each has a quantity q (a
 * branch's amperes, a pair's volts) and a source σ (volts in series with the branch; amperes pushed into a pair's
 * first node and out of its second). `x` holds what sources do to quantities: x[e·E + f] = ∂q_e/∂σ_f. It is
 * symmetric, by reciprocity.
 */
export interface Ports {
  readonly kind: "ports";
  readonly point: OperatingPoint;
  readonly laws: readonly Law[];
  /** Number of branches, then of all elements. */
  readonly branchCount: number;
  readonly elementCount: number;
  readonly q: Float64Array;
  readonly x: Float64Array;
  /** Pairs whose nodes lie in different islands: nothing relates their potentials. */
  readonly apart: Uint8Array;
}

/** Solves a network with given laws and lays it out as elements: branches, then `pairs`. */
export function buildPorts(
  network: Network,
  topology: Topology,
  laws: readonly Law[],
  pairs: readonly NodePair[],
): Ports | Unsolvable {
  const point = operatingPoint(topology, laws);
  if (point.kind === "unsolvable") return point;
  const { base, amps, volts } = point;
  const B = network.branches.length;
  const N = topology.nodeCount;
  const E = B + pairs.length;
  const q = new Float64Array(E);
  const x = new Float64Array(E * E);
  q.set(amps);
  // Where a branch's current is settled (an open, a supply at its limit) a voltage in series with it changes nothing.
  const isFixed = Uint8Array.from(base.equations.p, (p) => Number(p === 0));
  for (let j = 0; j < B; j += 1) {
    for (let k = 0; k < B; k += 1) x[j * E + k] = isFixed[j] || isFixed[k] ? 0 : base.amps[j * B + k];
  }
  const apart = new Uint8Array(pairs.length);
  pairs.forEach(([a, b], i) => {
    const e = B + i;
    apart[i] = base.island[a] === base.island[b] ? 0 : 1;
    q[e] = volts[a] - volts[b];
    for (let k = 0; k < B; k += 1) {
      const value = isFixed[k] ? 0 : base.volts[a * B + k] - base.volts[b * B + k];
      x[e * E + k] = value;
      x[k * E + e] = value;
    }
    const { voltsIn } = base;
    const [rowA, rowB, row] = [a * N, b * N, e * E + B];
    for (let j = 0; j <= i; j += 1) {
      const [c, d] = pairs[j];
      const value = voltsIn[rowA + c] - voltsIn[rowA + d] - voltsIn[rowB + c] + voltsIn[rowB + d];
      x[row + j] = value;
      x[(B + j) * E + e] = value;
    }
  });
  return { kind: "ports", point, laws, branchCount: B, elementCount: E, q, x, apart };
}
