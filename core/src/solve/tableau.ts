import { invertInPlace } from "../kernels/index.ts";

/** Which nodes a branch joins; node numbers from 0. */
export interface Topology {
  readonly nodeCount: number;
  readonly reference: number;
  readonly from: Int32Array;
  readonly to: Int32Array;
}

/** One linear equation p·v − q·i = s per branch; arrays of length branches. */
export interface Equations {
  readonly p: Float64Array;
  readonly q: Float64Array;
  readonly s: Float64Array;
}

export type Unsolvable = {
  readonly kind: "unsolvable";
  readonly why: "source loop" | "not finite";
  /** Branch at which it shows, or −1. */
  readonly branch: number;
};

/**
 * A factorised network. With unit sources at the branches as columns, `amps` and `volts` hold what each causes:
 * amps[j·B + k] = ∂i_j/∂s_k, volts[n·B + k] = ∂v_n/∂s_k, and for a unit current pushed into node m:
 * ampsIn[j·N + m] = ∂i_j/∂J_m, voltsIn[n·N + m] = ∂v_n/∂J_m. The reference and each island's pin stay at 0 V.
 */
export interface Factorised {
  readonly kind: "factorised";
  readonly topology: Topology;
  readonly equations: Equations;
  /** Island number of each node; islands are what opens leave connected. */
  readonly island: Int32Array;
  readonly amps: Float64Array;
  readonly volts: Float64Array;
  readonly ampsIn: Float64Array;
  readonly voltsIn: Float64Array;
}

/**
 * Builds and inverts the sparse tableau of a network (Hachtel, Brayton, Gustavson 1971, IEEE Trans. Circuit Theory
 * 18(1)): Kirchhoff's current law at every node but one an island, and each branch's own equation.
 */
export function factorise(topology: Topology, equations: Equations): Factorised | Unsolvable {
  const { nodeCount: N, from, to } = topology;
  const { p, q } = equations;
  const B = from.length;
  const n = N + B;
  const island = islandsOf(topology, p);
  const pinned = pins(island, topology.reference);
  const a = new Float64Array(n * n);
  const scale = new Float64Array(B);
  for (let node = 0; node < N; node += 1) if (pinned[node]) a[node * n + node] = 1;
  for (let k = 0; k < B; k += 1) {
    const row = (N + k) * n;
    scale[k] = 1 / Math.max(Math.abs(p[k]), Math.abs(q[k]), 1e-300);
    if (!pinned[from[k]]) a[from[k] * n + N + k] += 1;
    if (!pinned[to[k]]) a[to[k] * n + N + k] -= 1;
    a[row + from[k]] += p[k] * scale[k];
    a[row + to[k]] -= p[k] * scale[k];
    a[row + N + k] = -q[k] * scale[k];
  }
  const failed = invertInPlace(a, n);
  if (failed >= 0)
    return { kind: "unsolvable", why: "source loop", branch: failed >= N ? failed - N : branchAt(topology, failed) };
  const amps = new Float64Array(B * B);
  const volts = new Float64Array(N * B);
  const ampsIn = new Float64Array(B * N);
  const voltsIn = new Float64Array(N * N);
  for (let row = 0; row < n; row += 1) {
    const isNode = row < N;
    for (let node = 0; node < N; node += 1) {
      const value = pinned[node] ? 0 : a[row * n + node];
      if (isNode) voltsIn[row * N + node] = value;
      else ampsIn[(row - N) * N + node] = value;
    }
    for (let k = 0; k < B; k += 1) {
      const value = a[row * n + N + k] * scale[k];
      if (isNode) volts[row * B + k] = value;
      else amps[(row - N) * B + k] = value;
    }
  }
  return { kind: "factorised", topology, equations, island, amps, volts, ampsIn, voltsIn };
}

function branchAt(topology: Topology, node: number): number {
  return topology.from.findIndex((from, k) => from === node || topology.to[k] === node);
}

/** Numbers the connected islands; a branch with p = 0 (open, or a current source) does not connect. */
export function islandsOf(topology: Topology, p: Float64Array): Int32Array {
  const parent = Int32Array.from({ length: topology.nodeCount }, (_, i) => i);
  const root = (node: number): number => {
    let at = node;
    while (parent[at] !== at) {
      parent[at] = parent[parent[at]];
      at = parent[at];
    }
    return at;
  };
  for (let k = 0; k < topology.from.length; k += 1) {
    if (p[k] !== 0) parent[root(topology.from[k])] = root(topology.to[k]);
  }
  return Int32Array.from({ length: topology.nodeCount }, (_, i) => root(i));
}

/** One node of each island stays at 0 V: the reference where the island holds it, else its first node. */
function pins(island: Int32Array, reference: number): Uint8Array {
  const pinned = new Uint8Array(island.length);
  const done = new Set<number>([island[reference]]);
  pinned[reference] = 1;
  island.forEach((number, node) => {
    if (done.has(number)) return;
    done.add(number);
    pinned[node] = 1;
  });
  return pinned;
}
