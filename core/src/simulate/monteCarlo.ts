import { Bending, bends, type Network, ohmsOf, scaledLaw, voltsOf } from "../circuit/index.ts";
import type { Random } from "../kernels/index.ts";
import { NodalSolver, solveNetwork } from "../solve/index.ts";
import { drawFactorsInto } from "./drawFactors.ts";

/** Draws between two chances to stop. */
const CHUNK = 250;
const ROUNDS = 1000;
const REST = 1e-9;

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
  const bending = branches.flatMap((b, k) => (bends(b.law) ? [k] : []));
  const usual = healthy.kind === "solved" ? healthy.point.states : new Map<number, number>();
  const near = bending.map((k) => usual.get(k) ?? Number.NaN);
  const laws = branches.map((b) => b.law);
  const [voltsBent, ampsBent] = [new Float64Array(bending.length), new Float64Array(bending.length)];
  const across = (k: number) => solver.volts[branches[k].from] - solver.volts[branches[k].to];
  for (let draw = 0; draw < draws; draw += 1) {
    drawFactorsInto(network, random, 1e-3, factor);
    for (let k = 0; k < B; k += 1) {
      const { law } = branches[k];
      laws[k] = scaledLaw(law, factor[k]);
      sources[k] = voltsOf(laws[k]);
      ohms[k] = ohmsOf(laws[k]);
    }
    // Near where they are at nominal values.
    const now = new Bending(
      bending,
      bending.map((k) => laws[k]),
      near,
    );
    const along = () =>
      bending.forEach((k, i) => {
        const line = now.line(i);
        ohms[k] = line.ohms;
        sources[k] = line.volts;
      });
    along();
    solver.solve(ohms, sources);
    for (let round = 0; bending.length > 0 && round < ROUNDS; round += 1) {
      bending.forEach((k, i) => {
        voltsBent[i] = across(k);
        ampsBent[i] = solver.amps[k];
      });
      if (now.follow(voltsBent, ampsBent, (k) => solver.amps[k], REST) < 0) break;
      along();
      solver.solve(ohms, sources);
    }
    volts.set(solver.volts, draw * N);
    amps.set(solver.amps, draw * B);
    if (draw % CHUNK === CHUNK - 1) yield (draw + 1) / draws;
  }
  return { draws, volts, amps };
}
