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

/** Whether a pivot is none that is left of a path that was cut. */
export function hasPath(set: ProbeSet, setting: number, element: number, pivot: number): boolean {
  return Math.abs(pivot) > noPathBelow(set, setting, element);
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

/** Share of an element's ohms from which on its source tells of its current: of less, rounding would be seen. */
const TELLS = 1e-6;

/** Amperes through an element by the source that stands for its change; NaN where that does not tell. */
export function ampsBySource(source: number, { gain, added, held = 0 }: Change, ohms: number): number {
  return Math.abs(gain) > TELLS * ohms && Number.isFinite(gain) ? held + (source - added) / gain : Number.NaN;
}

/** A quantity of a changed circuit: that of element `k`. */
export function quantityOf(
  { count, elements, sources }: Answer,
  k: number,
  { elementCount: E }: ProbeSet,
  { q, x, c, beta }: BareCircuit,
): number {
  let value = q[k];
  let pushed = 0;
  for (let i = 0; i < count; i += 1) {
    const e = elements[i];
    value += x[e * E + k] * sources[i];
    pushed += c[e] * sources[i];
  }
  return value + beta * c[k] * pushed;
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
  /** Which changes are any, and how many. */
  private order = new Int32Array(4);
  private left = 0;
  private added = new Float64Array(4);
  private block = new Float64Array(16);
  private coupled: BareCircuit | null = null;
  private coupledCount = 0;
  private turn = new Int32Array(4);
  private right = new Float64Array(4);
  private back = new Float64Array(4);

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
    const { sources } = this;
    const { setting } = circuit;
    this.count = K;
    this.cut = null;
    this.fill(set, circuit, a, changes);
    if (!this.solveInOrder(set, setting)) {
      this.fill(set, circuit, a, changes);
      this.solveAsPivotsCome(set, setting, probe);
      if (this.cut !== null) return this;
    }
    for (let i = 0; i < K; i += 1) sources[i] += changes[i].added;
    return this;
  }

  /** A quantity of the changed circuit: that of element `k`. */
  quantityOf(k: number, set: ProbeSet, circuit: BareCircuit): number {
    return quantityOf(this, k, set, circuit);
  }

  /** M, and both right sides, of the changes that are any, packed; of the others there is no source. */
  private fill(set: ProbeSet, circuit: BareCircuit, a: Float64Array | null, changes: readonly Change[]) {
    const { elements, sources, adjoint, right, back, m, order, block, added } = this;
    const K = changes.length;
    this.couple(set, circuit, changes);
    let left = 0;
    for (let i = 0; i < K; i += 1) {
      added[i] = changes[i].added;
      sources[i] = 0;
      adjoint[i] = 0;
      if (changes[i].gain !== 0) order[left++] = i;
    }
    for (let s = 0, at = 0; s < left; s += 1) {
      const i = order[s];
      const own = i * K;
      const { gain, held = 0 } = changes[i];
      let rhs = circuit.q[elements[i]] - held;
      for (let k = 0; k < K; k += 1) rhs += block[own + k] * added[k];
      for (let t = 0; t < left; t += 1) m[at++] = -block[own + order[t]];
      m[s * left + s] += 1 / gain;
      right[s] = rhs;
      back[s] = a === null ? 0 : a[elements[i]];
    }
    this.left = left;
  }

  /** The couplings of the changed elements with each other: the same again while only what they change to differs. */
  private couple({ elementCount: E }: ProbeSet, circuit: BareCircuit, changes: readonly Change[]) {
    const { elements, block } = this;
    const K = changes.length;
    let isSame = circuit === this.coupled;
    for (let i = 0; i < K; i += 1) {
      const { element } = changes[i];
      if (elements[i] !== element) isSame = false;
      elements[i] = element;
    }
    if (isSame && this.coupledCount === K) return;
    this.coupled = circuit;
    this.coupledCount = K;
    const { x, c, beta } = circuit;
    for (let i = 0; i < K; i += 1) {
      const row = elements[i] * E;
      const met = beta * c[elements[i]];
      for (let k = 0; k < K; k += 1) block[i * K + k] = x[row + elements[k]] + met * c[elements[k]];
    }
  }

  /** As a rule every pivot is there in its turn. @returns false where one is not: nothing is solved then */
  private solveInOrder(set: ProbeSet, setting: number): boolean {
    const { m, right, back, order, elements, sources, adjoint, left: n } = this;
    for (let p = 0; p < n; p += 1) {
      const own = p * n;
      const pivot = m[own + p];
      if (!hasPath(set, setting, elements[order[p]], pivot)) return false;
      for (let i = p + 1; i < n; i += 1) {
        const at = i * n;
        const factor = m[at + p] / pivot;
        if (factor === 0) continue;
        for (let k = p + 1; k < n; k += 1) m[at + k] -= factor * m[own + k];
        right[i] -= factor * right[p];
        back[i] -= factor * back[p];
      }
    }
    for (let p = n - 1; p >= 0; p -= 1) {
      const own = p * n;
      for (let k = p + 1; k < n; k += 1) {
        right[p] -= m[own + k] * right[k];
        back[p] -= m[own + k] * back[k];
      }
      right[p] /= m[own + p];
      back[p] /= m[own + p];
      sources[order[p]] = right[p];
      adjoint[order[p]] = back[p];
    }
    return true;
  }

  /**
   * An open in a branch that carries nothing has no pivot until what closes a path through it was taken in; one that has
   * none in the end drops out.
   */
  private solveAsPivotsCome(set: ProbeSet, setting: number, probe: Probe | null) {
    const { m, right, back, order, elements, sources, adjoint, turn, left: n } = this;
    for (let i = 0; i < n; i += 1) turn[i] = i;
    let done = 0;
    for (; done < n; done += 1) {
      let next = done;
      while (next < n && !hasPath(set, setting, elements[order[turn[next]]], m[turn[next] * n + turn[next]])) next += 1;
      if (next === n) break;
      const p = turn[next];
      turn[next] = turn[done];
      turn[done] = p;
      for (let s = done + 1; s < n; s += 1) {
        const i = turn[s];
        const factor = m[i * n + p] / m[p * n + p];
        for (let t = done + 1; t < n; t += 1) m[i * n + turn[t]] -= factor * m[p * n + turn[t]];
        right[i] -= factor * right[p];
        back[i] -= factor * back[p];
      }
    }
    for (let s = done; s < n && probe !== null; s += 1) {
      this.cut = cutReading(probe, right[turn[s]], back[turn[s]]);
      if (this.cut !== null) return;
    }
    for (let step = done - 1; step >= 0; step -= 1) {
      const i = turn[step];
      for (let later = step + 1; later < done; later += 1) {
        const k = turn[later];
        right[i] -= m[i * n + k] * right[k];
        back[i] -= m[i * n + k] * back[k];
      }
      right[i] /= m[i * n + i];
      back[i] /= m[i * n + i];
      sources[order[i]] = right[i];
      adjoint[order[i]] = back[i];
    }
  }

  private grow(K: number) {
    this.order = new Int32Array(K);
    this.turn = new Int32Array(K);
    this.added = new Float64Array(K);
    this.block = new Float64Array(K * K);
    this.coupled = null;
    this.right = new Float64Array(K);
    this.back = new Float64Array(K);
    this.elements = new Int32Array(K);
    this.sources = new Float64Array(K);
    this.adjoint = new Float64Array(K);
    this.m = new Float64Array(K * K);
  }
}
