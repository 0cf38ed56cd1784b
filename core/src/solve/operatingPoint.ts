import { filamentOhms, type Law, type Network } from "../circuit/index.ts";
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

const MOST_ROUNDS = 60;

/**
 * Solves a network with given laws: linear ones at once, filaments by fixed point (R ∝ V^0.45, with the exponent the
 * iteration shrinks errors by about half a round), current limits by taking over where they are passed.
 */
export function operatingPoint(topology: Topology, laws: readonly Law[]): OperatingPoint | Unsolvable {
  const B = laws.length;
  const ohms = Float64Array.from(laws, startOhms);
  const limited = new Uint8Array(B);
  const nonlinear = laws.some((law) => law.kind === "filament" || (law.kind === "supply" && law.limit !== undefined));
  for (let round = 0; ; round += 1) {
    const inverse = invertNetwork(topology, equationsOf(laws, ohms, limited));
    if (inverse.kind === "unsolvable") return inverse;
    const state = stateOf(inverse);
    if (!allFinite(state.amps)) return { kind: "unsolvable", why: "not finite", branch: -1 };
    const settled = !nonlinear || adjust(laws, topology, state, ohms, limited);
    if (settled || round >= MOST_ROUNDS) return { kind: "solved", base: effectsOf(inverse), ...state, ohms, limited };
  }
}

function startOhms(law: Law): number {
  switch (law.kind) {
    case "resistance":
      return law.ohms;
    case "open":
      return Number.POSITIVE_INFINITY;
    case "supply":
      return law.ohms;
    case "filament":
      return law.hot;
    default:
      return law satisfies never;
  }
}

/** p·v − q·i = s of every law at the given static resistances. */
export function equationsOf(laws: readonly Law[], ohms: Float64Array, limited: Uint8Array): Equations {
  const p = new Float64Array(laws.length).fill(1);
  const q = Float64Array.from(ohms);
  const s = new Float64Array(laws.length);
  laws.forEach((law, k) => {
    if (law.kind === "open") {
      p[k] = 0;
      q[k] = 1;
    } else if (law.kind === "supply") {
      s[k] = law.volts;
      if (limited[k]) {
        p[k] = 0;
        q[k] = 1;
        s[k] = (law.limit as number) * Math.sign(law.volts || 1);
      }
    }
  });
  return { p, q, s };
}

function allFinite(values: Float64Array): boolean {
  return values.every(Number.isFinite);
}

/** Moves filaments and limits towards the state just found; true when nothing moved any more. */
function adjust(
  laws: readonly Law[],
  { from, to }: Topology,
  state: { volts: Float64Array; amps: Float64Array },
  ohms: Float64Array,
  limited: Uint8Array,
): boolean {
  let settled = true;
  laws.forEach((law, k) => {
    const volts = state.volts[from[k]] - state.volts[to[k]];
    if (law.kind === "filament") {
      const next = filamentOhms(law, volts);
      if (Math.abs(next - ohms[k]) > 1e-11 * next) settled = false;
      ohms[k] = next;
    } else if (law.kind === "supply" && law.limit !== undefined) {
      const over = !limited[k] && -state.amps[k] * Math.sign(law.volts || 1) > law.limit * (1 + 1e-9);
      const back = limited[k] && Math.abs(volts) > Math.abs(law.volts) + 1e-9 - law.ohms * law.limit + 1e-9;
      if (over || back) {
        limited[k] = over ? 1 : 0;
        settled = false;
      }
    }
  });
  return settled;
}
