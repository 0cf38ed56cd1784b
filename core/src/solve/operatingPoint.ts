import { bends, follow, type Law, type Network, ohmsOf, voltsOf } from "../circuit/index.ts";
import {
  type Equations,
  effectsOf,
  type Factorised,
  invertNetwork,
  stateOf,
  type Topology,
  type Unsolvable,
} from "./modifiedNodal.ts";

/** The steady state of a network. Volts are per node against the reference, amperes per branch from `from` to `to`. */
export interface OperatingPoint {
  readonly kind: "solved";
  readonly base: Factorised;
  readonly volts: Float64Array;
  readonly amps: Float64Array;
  /** Static ohms of each branch at this point (filaments as hot as they are). */
  readonly ohms: Float64Array;
  /** Branches held at their current limit. */
  readonly limited: Uint8Array;
}

export function topologyOf(network: Network): Topology {
  return {
    nodeCount: network.nodes.length,
    reference: network.reference,
    from: Int32Array.from(network.branches, (b) => b.from),
    to: Int32Array.from(network.branches, (b) => b.to),
  };
}

/** Rounds in which everything moves at once; after them one limit at a time, while what bends rests. */
const TOGETHER = 20;
const MOST_ROUNDS = 2000;
/** Share by which what bends may still move at rest. */
const REST = 1e-11;
/** Volts, and share of the limit, by which a limit may be missed and still hold: rounding, of a supply that is right at it. */
const HOLDS = 1e-9;
/** Siemens across supplies at their limits while others are sought: two of them in series leave no node hanging. */
const LEAK = 1e-12;

/**
 * Solves a network with given laws: linear ones at once, what bends by fixed point, current limits by taking over where
 * they are passed. Where limits chase each other the first that does not hold is turned alone, which ends (Murty 1974, Linear Algebra and Its Applications 9).
 * A state that still moves in the end is none: the branch that moves is named.
 */
export function operatingPoint(topology: Topology, laws: readonly Law[]): OperatingPoint | Unsolvable {
  const B = laws.length;
  const ohms = Float64Array.from(laws, ohmsOf);
  const limited = new Uint8Array(B);
  const bending = laws.flatMap((law, k) => (bends(law) ? [k] : []));
  const nonlinear = bending.length > 0 || laws.some((law) => law.kind === "supply" && law.limit !== undefined);
  let moving = -1;
  for (let round = 0; round < MOST_ROUNDS; round += 1) {
    const leak = limited.reduce((n, is) => n + is, 0) > 1 ? LEAK : 0;
    const found = solveWith(topology, equationsOf(laws, ohms, limited, leak));
    if (found.kind === "unsolvable") return found;
    const isTogether = round < TOGETHER;
    moving = nonlinear ? adjust(laws, topology, found.state, { bending, ohms, limited, isTogether }) : -1;
    if (moving >= 0) continue;
    const last = leak === 0 ? found : solveWith(topology, equationsOf(laws, ohms, limited));
    if (last.kind === "unsolvable") return last;
    return { kind: "solved", base: effectsOf(last.inverse), ...last.state, ohms, limited };
  }
  return { kind: "unsolvable", why: "no rest", branch: moving };
}

function solveWith(topology: Topology, equations: Equations) {
  const inverse = invertNetwork(topology, equations);
  if (inverse.kind === "unsolvable") return inverse;
  const state = stateOf(inverse);
  if (!allFinite(state.amps)) return { kind: "unsolvable", why: "not finite", branch: -1 } as const;
  return { kind: "found", inverse, state } as const;
}

/**
 * p·v − q·i = s of every law at the given static resistances.
 * @param leak siemens across supplies at their limit
 */
export function equationsOf(laws: readonly Law[], ohms: Float64Array, limited: Uint8Array, leak = 0): Equations {
  const p = new Float64Array(laws.length).fill(1);
  const q = Float64Array.from(ohms);
  const s = new Float64Array(laws.length);
  laws.forEach((law, k) => {
    if (law.kind === "open") {
      p[k] = 0;
      q[k] = 1;
      return;
    }
    s[k] = voltsOf(law);
    if (law.kind === "supply" && limited[k]) {
      p[k] = leak;
      q[k] = 1;
      s[k] = (law.limit as number) * Math.sign(law.volts || 1);
    }
  });
  return { p, q, s };
}

function allFinite(values: Float64Array): boolean {
  return values.every(Number.isFinite);
}

interface Moving {
  /** Numbers of the branches that bend. */
  readonly bending: readonly number[];
  readonly ohms: Float64Array;
  readonly limited: Uint8Array;
  /** All limits that do not hold are turned, not only the first, and that while what bends still moves. */
  readonly isTogether: boolean;
}

/**
 * Moves what bends, and limits, towards the state just found.
 * @returns a branch that moved; −1 when none did any more
 */
function adjust(
  laws: readonly Law[],
  { from, to }: Topology,
  state: { volts: Float64Array; amps: Float64Array },
  { bending, ohms, limited, isTogether }: Moving,
): number {
  const across = (k: number) => state.volts[from[k]] - state.volts[to[k]];
  let moved = follow(bending, (k) => laws[k], across, ohms, REST);
  if (moved >= 0 && !isTogether) return moved;
  for (const [k, law] of laws.entries()) {
    if (law.kind !== "supply" || law.limit === undefined) continue;
    const sign = Math.sign(law.volts || 1);
    const volts = across(k) * sign;
    // At its limit it has no more volts than without one, and may be driven below none.
    const most = Math.abs(law.volts) - law.ohms * law.limit;
    const isHeld = limited[k] === 1 ? volts <= most + HOLDS : -state.amps[k] * sign <= law.limit * (1 + HOLDS);
    if (isHeld) continue;
    limited[k] = 1 - limited[k];
    moved = k;
    if (!isTogether) break;
  }
  return moved;
}
