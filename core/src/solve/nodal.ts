import type { Network } from "../circuit/index.ts";

/** A supply without internal resistance counts with this much, so that every branch has a conductance. */
const LEAST_OHMS = 1e-6;

/**
 * Node voltages by nodal analysis, for networks solved many thousand times over with other values: the conductance
 * matrix is positive definite, and is factored as L·D·Lᵀ without pivoting. Ho, Ruehli & Brennan 1975, IEEE Trans.
 * Circuits and Systems 22(6). Allocates nothing per call.
 */
export class NodalSolver {
  /** Volts of each node against the reference, after `solve`. */
  readonly volts: Float64Array;
  /** Amperes of each branch from `from` to `to`, after `solve`. */
  readonly amps: Float64Array;
  private readonly row: Int32Array;
  private readonly size: number;
  private readonly g: Float64Array;
  private readonly b: Float64Array;

  constructor(private readonly network: Network) {
    const { nodes, reference, branches } = network;
    let next = 0;
    this.row = Int32Array.from(nodes, (_, n) => (n === reference ? -1 : next++));
    this.size = next;
    this.g = new Float64Array(next * next);
    this.b = new Float64Array(next);
    this.volts = new Float64Array(nodes.length);
    this.amps = new Float64Array(branches.length);
  }

  /**
   * @param ohms of each branch; infinite for an open one
   * @param sources volts of each branch's source, its plus at `from`
   */
  solve(ohms: Float64Array, sources: Float64Array) {
    const { g, b, row, size, volts, amps } = this;
    const { branches } = this.network;
    g.fill(0);
    b.fill(0);
    for (let k = 0; k < branches.length; k += 1) {
      const conductance = 1 / Math.max(ohms[k], LEAST_OHMS);
      const i = row[branches[k].from];
      const j = row[branches[k].to];
      const injected = sources[k] * conductance;
      if (i >= 0) {
        g[i * size + i] += conductance;
        b[i] += injected;
      }
      if (j >= 0) {
        g[j * size + j] += conductance;
        b[j] -= injected;
      }
      if (i >= 0 && j >= 0) g[Math.max(i, j) * size + Math.min(i, j)] -= conductance;
    }
    this.eliminate();
    for (let n = 0; n < row.length; n += 1) volts[n] = row[n] < 0 ? 0 : b[row[n]];
    for (let k = 0; k < branches.length; k += 1) {
      const across = volts[branches[k].from] - volts[branches[k].to];
      amps[k] = (across - sources[k]) / Math.max(ohms[k], LEAST_OHMS);
    }
  }

  /** L·D·Lᵀ in the lower triangle, then both substitutions; an island of its own keeps 0 V. */
  private eliminate() {
    const { g, b, size } = this;
    for (let j = 0; j < size; j += 1) {
      const rowJ = j * size;
      let d = g[rowJ + j];
      const scale = d;
      for (let k = 0; k < j; k += 1) d -= g[rowJ + k] * g[rowJ + k] * g[k * size + k];
      const isIsland = !(d > 1e-13 * scale);
      g[rowJ + j] = isIsland ? 1 : d;
      for (let i = j + 1; i < size; i += 1) {
        const rowI = i * size;
        let sum = g[rowI + j];
        for (let k = 0; k < j; k += 1) sum -= g[rowI + k] * g[rowJ + k] * g[k * size + k];
        g[rowI + j] = isIsland ? 0 : sum / d;
      }
      if (isIsland) b[j] = 0;
    }
    for (let i = 0; i < size; i += 1) {
      let sum = b[i];
      for (let k = 0; k < i; k += 1) sum -= g[i * size + k] * b[k];
      b[i] = sum;
    }
    for (let i = 0; i < size; i += 1) b[i] /= g[i * size + i];
    for (let i = size - 1; i >= 0; i -= 1) {
      let sum = b[i];
      for (let k = i + 1; k < size; k += 1) sum -= g[k * size + i] * b[k];
      b[i] = sum;
    }
  }
}
