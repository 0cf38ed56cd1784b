import { filamentOhms, type Network } from "../circuit/index.ts";
import { NodalSolver, solveNetwork } from "../solve/index.ts";
import { drawFactorsInto } from "./drawFactors.ts";
import type { Random } from "./random.ts";

/** Draws between two chances to stop. */
const CHUNK = 250;
const FILAMENT_ROUNDS = 60;

/** Volts of every node and amperes of every branch for many circuits whose parts lie anywhere within tolerance. */
export interface Samples {
  readonly draws: number;
  /** draws × nodes, then draws × branches; amperes from `from` to `to`. */
  readonly volts: Float64Array;
  readonly amps: Float64Array;
}

/**
 * Draws circuits whose parts lie about their nominal values, two standard deviations at the edge of tolerance, and
 * solves each. Yields the share done now and then. Current limits are left out of account.
 */
export function* monteCarlo(network: Network, draws: number, random: Random): Generator<number, Samples> {
  const { branches, nodes } = network;
  const [N, B] = [nodes.length, branches.length];
  const volts = new Float64Array(draws * N);
  const amps = new Float64Array(draws * B);
  const healthy = solveNetwork(network);
  const solver = new NodalSolver(network);
  const ohms = new Float64Array(B);
  const sources = new Float64Array(B);
  const factor = new Float64Array(B);
  const filaments = branches.flatMap((b, k) => (b.law.kind === "filament" ? [k] : []));
  for (let draw = 0; draw < draws; draw += 1) {
    drawFactorsInto(network, random, 1e-3, factor);
    for (let k = 0; k < B; k += 1) {
      const { law } = branches[k];
      const f = factor[k];
      sources[k] = law.kind === "supply" ? law.volts * f : 0;
      if (law.kind === "supply") ohms[k] = law.ohms;
      else if (law.kind === "open") ohms[k] = Number.POSITIVE_INFINITY;
      else if (law.kind === "resistance") ohms[k] = law.ohms * f;
      else ohms[k] = (healthy.kind === "solved" ? healthy.point.ohms[k] : law.hot) * f;
    }
    solver.solve(ohms, sources);
    for (let round = 0; filaments.length > 0 && round < FILAMENT_ROUNDS; round += 1) {
      let moved = 0;
      for (const k of filaments) {
        const { law, from, to } = branches[k];
        if (law.kind !== "filament") continue;
        const next = filamentOhms(law, solver.volts[from] - solver.volts[to]) * factor[k];
        moved = Math.max(moved, Math.abs(next - ohms[k]) / next);
        ohms[k] = next;
      }
      if (moved < 1e-9) break;
      solver.solve(ohms, sources);
    }
    volts.set(solver.volts, draw * N);
    amps.set(solver.amps, draw * B);
    if (draw % CHUNK === CHUNK - 1) yield (draw + 1) / draws;
  }
  return { draws, volts, amps };
}
