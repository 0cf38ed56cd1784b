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
  readonly why: "source loop" | "not finite" | "no rest";
  /** Branch at which it shows, or −1. */
  readonly branch: number;
};

/** The inverse of a network's equations, of order nodes and branches of hardly any resistance. */
export interface Inverse {
  readonly kind: "inverse";
  readonly topology: Topology;
  readonly equations: Equations;
  /** Island number of each node; islands are what opens leave connected. */
  readonly island: Int32Array;
  /** Nodes that stay at 0 V: the reference, and one of each other island. */
  readonly pinned: Uint8Array;
  /** Row of each branch whose current is an unknown; −1 for the others. */
  readonly place: Int32Array;
  readonly order: number;
  readonly a: Float64Array;
}

/**
 * What every source does in a network. With unit sources at the branches as columns, `amps` and `volts` hold what each
 * causes: amps[j·B + k] = ∂i_j/∂s_k, volts[n·B + k] = ∂v_n/∂s_k, and for a unit current pushed into node m
 * voltsIn[n·N + m] = ∂v_n/∂J_m. The reference and each island's pin stay at 0 V.
 */
export interface Factorised {
  readonly island: Int32Array;
  readonly equations: Equations;
  readonly amps: Float64Array;
  readonly volts: Float64Array;
  readonly voltsIn: Float64Array;
}

/** Branches of less than this share of the largest resistance keep their current as an unknown: it is not a small difference. */
const STIFF = 1e-3;

/**
 * Modified nodal analysis (Ho, Ruehli, Brennan 1975, IEEE Trans. Circuits and Systems 22(6)): Kirchhoff's current law at
 * every node but one an island, currents by each branch's own equation; those of branches of hardly any resistance stay
 * unknowns, with their equation beside.
 */
export function invertNetwork(topology: Topology, equations: Equations): Inverse | Unsolvable {
  const { nodeCount: N, from, to } = topology;
  const { p, q } = equations;
  const B = from.length;
  const island = islandsOf(topology, p);
  const pinned = pins(island, topology.reference);
  const stiff = stiffOf(equations);
  const n = N + stiff.length;
  const a = new Float64Array(n * n);
  const place = new Int32Array(B).fill(-1);
  for (let node = 0; node < N; node += 1) if (pinned[node]) a[node * n + node] = 1;
  const meet = (row: number, column: number, value: number) => {
    if (!pinned[row]) a[row * n + column] += value;
  };
  stiff.forEach((k, s) => {
    place[k] = N + s;
    meet(from[k], N + s, 1);
    meet(to[k], N + s, -1);
    a[(N + s) * n + from[k]] += p[k];
    a[(N + s) * n + to[k]] -= p[k];
    a[(N + s) * n + N + s] = -q[k];
  });
  for (let k = 0; k < B; k += 1) {
    if (place[k] >= 0 || p[k] === 0) continue;
    const conductance = p[k] / q[k];
    meet(from[k], from[k], conductance);
    meet(from[k], to[k], -conductance);
    meet(to[k], from[k], -conductance);
    meet(to[k], to[k], conductance);
  }
  const failed = invertInPlace(a, n);
  if (failed < 0) return { kind: "inverse", topology, equations, island, pinned, place, order: n, a };
  const branch = failed >= N ? stiff[failed - N] : branchAt(topology, failed);
  return { kind: "unsolvable", why: "source loop", branch };
}

/** Volts of every node and amperes of every branch with the sources as they are. */
export function stateOf(inverse: Inverse): { volts: Float64Array; amps: Float64Array } {
  const { topology, equations, pinned, place, order: n, a } = inverse;
  const { nodeCount: N, from, to } = topology;
  const { p, q, s } = equations;
  const B = from.length;
  const right = new Float64Array(n);
  for (let k = 0; k < B; k += 1) {
    if (s[k] === 0) continue;
    if (place[k] >= 0) right[place[k]] += s[k];
    else {
      if (!pinned[from[k]]) right[from[k]] += s[k] / q[k];
      if (!pinned[to[k]]) right[to[k]] -= s[k] / q[k];
    }
  }
  const unknowns = new Float64Array(n);
  for (let column = 0; column < n; column += 1) {
    if (right[column] === 0) continue;
    for (let row = 0; row < n; row += 1) unknowns[row] += a[row * n + column] * right[column];
  }
  const volts = Float64Array.from({ length: N }, (_, node) => (pinned[node] ? 0 : unknowns[node]));
  const amps = Float64Array.from({ length: B }, (_, k) =>
    place[k] >= 0 ? unknowns[place[k]] : (p[k] * (volts[from[k]] - volts[to[k]]) - s[k]) / q[k],
  );
  return { volts, amps };
}

/** What every source does, from the inverse. */
export function effectsOf(inverse: Inverse): Factorised {
  const { topology, equations, island, pinned, place, order: n, a } = inverse;
  const { nodeCount: N, from, to } = topology;
  const { p, q } = equations;
  const B = from.length;
  const voltsIn = new Float64Array(N * N);
  const volts = new Float64Array(N * B);
  const amps = new Float64Array(B * B);
  const unit = (at: number, node: number) => (pinned[node] ? 0 : a[at + node]);
  // A source in series with a branch stands in an unknown current's equation, or pushes a current into both of its ends.
  const spread = (at: number, out: Float64Array, start: number) => {
    for (let k = 0; k < B; k += 1)
      out[start + k] = place[k] >= 0 ? a[at + place[k]] : (unit(at, from[k]) - unit(at, to[k])) / q[k];
  };
  for (let node = 0; node < N; node += 1) {
    if (pinned[node]) continue;
    for (let other = 0; other < N; other += 1) voltsIn[node * N + other] = unit(node * n, other);
    spread(node * n, volts, node * B);
  }
  for (let j = 0; j < B; j += 1) {
    if (place[j] >= 0) {
      spread(place[j] * n, amps, j * B);
      continue;
    }
    const [f, t] = [from[j] * B, to[j] * B];
    const share = p[j] / q[j];
    for (let k = 0; k < B; k += 1) amps[j * B + k] = share * (volts[f + k] - volts[t + k]);
    amps[j * B + j] -= 1 / q[j];
  }
  return { equations, island, amps, volts, voltsIn };
}

function stiffOf({ p, q }: Equations): number[] {
  let largest = 0;
  for (let k = 0; k < q.length; k += 1) if (p[k] !== 0) largest = Math.max(largest, Math.abs(q[k]));
  return [...q.keys()].filter((k) => p[k] !== 0 && Math.abs(q[k]) <= STIFF * largest);
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
