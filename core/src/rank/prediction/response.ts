import { DEFAULTS } from "../../circuit/index.ts";
import type { BareCircuit, Probe, ProbeSet } from "../../measure/index.ts";
import { isUnpowered } from "../../record/index.ts";
import type { Change } from "./change.ts";

/** No display shows more than this: it stands for OL in predictions. */
export const OVERLOAD = 1e30;
/** A pivot below this share of the element's own conductance means: no current path is left through it. */
const NO_PATH = 1e-12;
/** Ideal elements count as so many ohms there, so that their conductance is finite. */
const LEAST_OHMS = 1e-3;
/** Quantities and adjoints below this are rounding: the reading's own current does not run through the element. */
const SEES = 1e-9;

/** Size of a pivot at and below which no current can flow through an element any more, so that it means nothing. */
export function noPathBelow(set: ProbeSet, setting: number, element: number): number {
  const { lines } = set.settings[setting].ports.point;
  const ohms = element >= set.branchCount ? 1 / DEFAULTS.shortOhms : lines.ohms[element];
  return NO_PATH / Math.max(ohms, LEAST_OHMS);
}

/** What a reading shows whose only path was opened; null where it has others. */
export function cutReading(probe: Probe, q: number, a: number): number | null {
  if (isUnpowered(probe.reading)) return Math.abs(q) > SEES ? OVERLOAD : null;
  if (probe.reading.quantity === "voltage" && Math.abs(a) > SEES) return 0;
  return null;
}

/** Sources and adjoints of the changed elements, of which the first `count` are meant. */
export interface Answer {
  readonly count: number;
  readonly elements: Int32Array;
  readonly sources: Float64Array;
  readonly adjoint: Float64Array;
}

/**
 * How a probe's circuit answers to a handful of changes, by Woodbury's update: with M = diag(1/gain) − X on the changed
 * elements, the sources are M⁻¹·q and the adjoint M⁻¹·a. Elements with a pivot are eliminated first; one whose pivot
 * has vanished in the end drops out. Golub & Van Loan, 4th ed., §2.1.4. Results are valid until the next call.
 */
export class Response implements Answer {
  count = 0;
  elements = new Int32Array(4);
  /** Source at each changed element, and its adjoint. */
  sources = new Float64Array(4);
  adjoint = new Float64Array(4);
  /** Set where the reading's own path is gone: OVERLOAD for ohms, 0 for an ideal voltmeter. */
  cut: number | null = null;
  private m = new Float64Array(16);
  private live = new Uint8Array(4);
  /** Changes in the order in which they were eliminated. */
  private order = new Int32Array(4);

  solve(set: ProbeSet, probe: Probe, changes: readonly Change[]): this {
    return this.solveWith(set, probe, probe.a, changes, probe);
  }

  /** Sources alone, of a circuit that no meter reads. */
  solveBare(set: ProbeSet, circuit: BareCircuit, changes: readonly Change[]): this {
    return this.solveWith(set, circuit, null, changes, null);
  }

  private solveWith(
    set: ProbeSet,
    circuit: BareCircuit,
    a: Float64Array | null,
    changes: readonly Change[],
    probe: Probe | null,
  ): this {
    const K = changes.length;
    if (K > this.elements.length) this.grow(K);
    const { elements, sources, adjoint, m, live } = this;
    const { x, q, c, beta, setting } = circuit;
    const E = set.elementCount;
    this.count = K;
    this.cut = null;
    for (let i = 0; i < K; i += 1) elements[i] = changes[i].element;
    for (let i = 0; i < K; i += 1) {
      const { gain, held = 0 } = changes[i];
      const e = elements[i];
      let rhs = q[e] - held;
      for (let k = 0; k < K; k += 1) {
        const coupling = x[e * E + elements[k]] + beta * c[e] * c[elements[k]];
        m[i * K + k] = -coupling;
        rhs += coupling * changes[k].added;
      }
      sources[i] = rhs;
      adjoint[i] = a === null ? 0 : a[e];
      live[i] = gain === 0 ? 0 : 1;
      if (gain !== 0) m[i * K + i] += 1 / gain;
    }
    // An open in a branch that carries nothing has no pivot until what closes a path through it was taken in.
    let done = 0;
    for (;;) {
      let next = -1;
      for (let i = 0; i < K && next < 0; i += 1)
        if (live[i] && Math.abs(m[i * K + i]) > noPathBelow(set, setting, elements[i])) next = i;
      if (next < 0) break;
      this.order[done++] = next;
      live[next] = 0;
      for (let k = 0; k < K; k += 1) {
        if (!live[k]) continue;
        const factor = m[k * K + next] / m[next * K + next];
        for (let l = 0; l < K; l += 1) if (live[l]) m[k * K + l] -= factor * m[next * K + l];
        sources[k] -= factor * sources[next];
        adjoint[k] -= factor * adjoint[next];
      }
    }
    for (let i = 0; i < K; i += 1) {
      if (live[i] && probe !== null) {
        this.cut = cutReading(probe, sources[i], adjoint[i]);
        if (this.cut !== null) return this;
      }
    }
    for (let i = 0; i < K; i += 1) {
      if (this.isEliminated(i, done)) continue;
      sources[i] = 0;
      adjoint[i] = 0;
    }
    for (let step = done - 1; step >= 0; step -= 1) {
      const i = this.order[step];
      for (let later = step + 1; later < done; later += 1) {
        const k = this.order[later];
        sources[i] -= m[i * K + k] * sources[k];
        adjoint[i] -= m[i * K + k] * adjoint[k];
      }
      sources[i] /= m[i * K + i];
      adjoint[i] /= m[i * K + i];
    }
    for (let i = 0; i < K; i += 1) sources[i] += changes[i].added;
    return this;
  }

  /** A quantity of the changed circuit: that of element `k`. */
  quantityOf(k: number, set: ProbeSet, circuit: BareCircuit): number {
    const { q, x, c, beta } = circuit;
    let value = q[k];
    for (let i = 0; i < this.count; i += 1) {
      const e = this.elements[i];
      value += (x[e * set.elementCount + k] + beta * c[e] * c[k]) * this.sources[i];
    }
    return value;
  }

  private isEliminated(i: number, done: number): boolean {
    for (let step = 0; step < done; step += 1) if (this.order[step] === i) return true;
    return false;
  }

  private grow(K: number) {
    this.order = new Int32Array(K);
    this.elements = new Int32Array(K);
    this.sources = new Float64Array(K);
    this.adjoint = new Float64Array(K);
    this.m = new Float64Array(K * K);
    this.live = new Uint8Array(K);
  }
}
