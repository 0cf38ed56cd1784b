import type { Network } from "../circuit/index.ts";

/** Branches of no more ohms tie their ends together, a supply's volts apart. */
const TIES = 1e-6;
/**
 * A pivot below this share of what it was made of is all cancelled: nothing ties its node to those before it. Doubles keep
 * sixteen digits; a hundred parts lose three at most.
 */
const ISLAND = 1e-13;

/** A branch of hardly any resistance: the node that it gives its volts to, and the one it has them from. */
interface Tie {
  readonly branch: number;
  readonly child: number;
  readonly parent: number;
  /** +1 where the child is the branch's `from`. */
  readonly sign: 1 | -1;
}

/**
 * Node voltages by nodal analysis, for networks solved many thousand times over with other values: the conductance
 * matrix is positive definite, and is factored as L·D·Lᵀ without pivoting. Ho, Ruehli & Brennan 1975, IEEE Trans.
 * Circuits and Systems 22(6). Nodes tied by ideal supplies and contacts are one unknown, their currents follow from
 * Kirchhoff's law: a huge conductance would drown the small ones beside it. Allocates nothing per call.
 */
export class NodalSolver {
  /** Volts of each node against the reference, after `solve`. */
  readonly volts: Float64Array;
  /** Amperes of each branch from `from` to `to`, after `solve`. */
  readonly amps: Float64Array;
  /** The unknown that each node hangs on; −1 of the reference's. */
  private readonly row: Int32Array;
  /** From the unknown's own node outwards. */
  private readonly ties: readonly Tie[];
  private readonly isTie: Uint8Array;
  /** Volts of each node above its unknown, and amperes that leave it by branches that are no ties. */
  private readonly above: Float64Array;
  private readonly leaving: Float64Array;
  private readonly size: number;
  private readonly g: Float64Array;
  private readonly b: Float64Array;

  constructor(private readonly network: Network) {
    const { nodes, branches } = network;
    this.isTie = new Uint8Array(branches.length);
    this.row = new Int32Array(nodes.length).fill(-2);
    this.ties = this.tie();
    this.size = 1 + Math.max(-1, ...this.row);
    this.g = new Float64Array(this.size * this.size);
    this.b = new Float64Array(this.size);
    this.volts = new Float64Array(nodes.length);
    this.above = new Float64Array(nodes.length);
    this.leaving = new Float64Array(nodes.length);
    this.amps = new Float64Array(branches.length);
  }

  /** Numbers the unknowns and finds a tree of ties for each; a tie that closes a loop counts with the least ohms. */
  private tie(): Tie[] {
    const { nodes, reference, branches } = this.network;
    const near = branches.flatMap(({ law }, k) =>
      (law.kind === "supply" || law.kind === "resistance") && law.ohms <= TIES ? [k] : [],
    );
    const found: Tie[] = [];
    let next = 0;
    for (const start of [reference, ...nodes.keys()]) {
      if (this.row[start] !== -2) continue;
      this.row[start] = start === reference ? -1 : next++;
      const queue = [start];
      for (let parent = queue.shift(); parent !== undefined; parent = queue.shift())
        for (const branch of near) {
          const { from, to } = branches[branch];
          const child = from === parent ? to : to === parent ? from : -1;
          if (child < 0 || this.row[child] !== -2) continue;
          this.row[child] = this.row[start];
          this.isTie[branch] = 1;
          found.push({ branch, child, parent, sign: child === from ? 1 : -1 });
          queue.push(child);
        }
    }
    return found;
  }

  /**
   * @param ohms of each branch, infinite for an open one; those of ties are left out of account
   * @param sources volts of each branch's source, its plus at `from`
   */
  solve(ohms: Float64Array, sources: Float64Array) {
    const { g, b, row, size, volts, amps, above, leaving, ties, isTie } = this;
    const { branches } = this.network;
    for (const { branch, child, parent, sign } of ties) above[child] = above[parent] + sign * sources[branch];
    g.fill(0);
    b.fill(0);
    for (let k = 0; k < branches.length; k += 1) {
      if (isTie[k]) continue;
      const { from, to } = branches[k];
      const [i, j] = [row[from], row[to]];
      if (i === j) continue;
      const conductance = 1 / Math.max(ohms[k], TIES);
      const injected = (sources[k] - above[from] + above[to]) * conductance;
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
    for (let n = 0; n < row.length; n += 1) volts[n] = (row[n] < 0 ? 0 : b[row[n]]) + above[n];
    leaving.fill(0);
    for (let k = 0; k < branches.length; k += 1) {
      if (isTie[k]) continue;
      const { from, to } = branches[k];
      amps[k] = (volts[from] - volts[to] - sources[k]) / Math.max(ohms[k], TIES);
      leaving[from] += amps[k];
      leaving[to] -= amps[k];
    }
    for (let n = ties.length - 1; n >= 0; n -= 1) {
      const { branch, child, parent, sign } = ties[n];
      amps[branch] = -sign * leaving[child];
      leaving[parent] += leaving[child];
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
      const isIsland = !(d > ISLAND * scale);
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
