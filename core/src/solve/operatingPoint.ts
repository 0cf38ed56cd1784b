import { Bending, bends, type Law, type Line, type Network, ohmsOf, voltsOf } from "../circuit/index.ts";
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
  /** Static ohms of each branch at this point (filaments as hot as they are, junctions as they conduct). */
  readonly ohms: Float64Array;
  /** Ohms and volts of the straight line that stands for each branch in `base`: it goes through this point. */
  readonly lines: Lines;
  /** Of all that bends: where on its law it is. */
  readonly states: ReadonlyMap<number, number>;
  /** A contact that finds no rest, for its coil is switched off by what it switches: taken as let go. −1 where none does. */
  readonly buzzing: number;
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

/** Ohms and volts of a line for each branch: v = volts + ohms·i. */
export interface Lines {
  readonly ohms: Float64Array;
  readonly volts: Float64Array;
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
/** Ohms of a line in `base`, at most: of what blocks; beside them a change to some ohms still has its digits. */
const MOST_OHMS = 1e5;
/** Amperes below which static ohms are those of the line: nothing flows. */
const NOTHING = 1e-15;

/**
 * Solves a network with given laws: linear ones at once, what bends by lines through its working point, current limits
 * by taking over where they are passed. Where limits chase each other the first that does not hold is turned alone, which
 * ends (Murty 1974, Linear Algebra and Its Applications 9). Contacts follow their coils last, from where nothing is pulled
 * in. A state that still moves in the end is none: the branch that moves is named.
 */
export function operatingPoint(topology: Topology, laws: readonly Law[]): OperatingPoint | Unsolvable {
  const B = laws.length;
  const lines: Lines = { ohms: Float64Array.from(laws, ohmsOf), volts: Float64Array.from(laws, voltsOf) };
  const limited = new Uint8Array(B);
  const which = laws.flatMap((law, k) => (bends(law) ? [k] : []));
  const bending = new Bending(
    which,
    which.map((k) => laws[k]),
  );
  const setLines = (lineOf: (i: number) => Line) =>
    which.forEach((k, i) => {
      const line = lineOf(i);
      lines.ohms[k] = line.ohms;
      lines.volts[k] = line.volts;
    });
  const nonlinear = which.length > 0 || laws.some((law) => law.kind === "supply" && law.limit !== undefined);
  let moving = -1;
  for (let round = 0; round < MOST_ROUNDS; round += 1) {
    setLines((i) => bending.line(i));
    const leak = limited.reduce((n, is) => n + is, 0) > 1 ? LEAK : 0;
    const found = solveWith(topology, equationsOf(laws, lines, limited, leak));
    if (found.kind === "unsolvable") return found;
    const isTogether = round < TOGETHER;
    moving = nonlinear ? adjust(laws, topology, found.state, { bending, limited, isTogether }) : -1;
    if (moving >= 0) continue;
    const { volts, amps } = found.state;
    const ohms = Float64Array.from(lines.ohms);
    const across = (k: number) => volts[topology.from[k]] - volts[topology.to[k]];
    for (const k of which) if (Math.abs(amps[k]) > NOTHING) ohms[k] = Math.abs(across(k) / amps[k]);
    setLines((i) => {
      const line = bending.line(i);
      if (line.ohms <= MOST_OHMS) return line;
      return { ohms: MOST_OHMS, volts: across(which[i]) - MOST_OHMS * amps[which[i]] };
    });
    const last = solveWith(topology, equationsOf(laws, lines, limited));
    if (last.kind === "unsolvable") return last;
    const states = new Map(which.map((k, i) => [k, bending.states[i]]));
    const { buzzing } = bending;
    return { kind: "solved", base: effectsOf(last.inverse), ...last.state, ohms, lines, states, limited, buzzing };
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
 * p·v − q·i = s of every law, each with its line.
 * @param leak siemens across supplies at their limit
 */
function equationsOf(laws: readonly Law[], { ohms, volts }: Lines, limited: Uint8Array, leak = 0): Equations {
  const p = new Float64Array(laws.length).fill(1);
  const q = Float64Array.from(ohms);
  const s = Float64Array.from(volts);
  laws.forEach((law, k) => {
    if (law.kind === "open") {
      p[k] = 0;
      q[k] = 1;
    }
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
  readonly bending: Bending;
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
  { bending, limited, isTogether }: Moving,
): number {
  const across = (k: number) => state.volts[from[k]] - state.volts[to[k]];
  const { branches } = bending;
  let moved = bending.follow(
    Float64Array.from(branches, across),
    Float64Array.from(branches, (k) => state.amps[k]),
    (k) => state.amps[k],
    REST,
  );
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
