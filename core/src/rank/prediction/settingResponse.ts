import type { BareCircuit, Probe, ProbeSet } from "../../measure/index.ts";
import type { Change } from "./change.ts";
import { type Answer, hasPath } from "./response.ts";

/** Share of one below which a meter's own denominator has lost its digits. */
const LOST = 1e-6;

/**
 * How all probes of one setting answer to the same changes: M⁻¹ of the circuit without a meter is made once, O(K³), and a
 * meter, which changes M by a multiple of c·cᵀ, costs each probe O(K²). Sherman & Morrison; Golub & Van Loan, 4th ed.,
 * §2.1.4. What has no pivot is left to the general way (`Response`). Results are valid until the next call.
 */
export class SettingResponse implements Answer {
  count = 0;
  elements = new Int32Array(4);
  sources = new Float64Array(4);
  adjoint = new Float64Array(4);
  /** Whether `of` may be asked: the changes all have their pivots. */
  isReady = false;
  private x: Float64Array = new Float64Array(0);
  /** What is held at each change, what it adds, and the inverse of its gain. */
  private held = new Float64Array(4);
  private added = new Float64Array(4);
  private pull = new Float64Array(4);
  /** Changes of a resistance come first; behind them those that only add volts, which answer to nothing. */
  private resisting = 0;
  /** M⁻¹ of those that come first, K×K. */
  private inverse = new Float64Array(16);
  private m = new Float64Array(16);
  /** What the changes' own volts bring about at each of them, without a meter. */
  private brought = new Float64Array(4);
  private right = new Float64Array(4);
  /** Of the reading: how it hangs on each change, how its meter does, and how that meets them all. */
  private back = new Float64Array(4);
  private mine = new Float64Array(4);
  private met = new Float64Array(4);
  private done = new Uint8Array(4);
  /** Where each change is among the elements; −1 where it is none. */
  private place = new Int32Array(4);

  /** Takes the changes of a setting. @returns whether probes can be asked about */
  prepare(set: ProbeSet, { x, setting }: BareCircuit, changes: readonly Change[]): boolean {
    if (changes.length > this.elements.length) this.grow(changes.length);
    const { elements, inverse, m, brought, held, added, place } = this;
    const E = set.elementCount;
    this.x = x;
    let K = 0;
    for (let i = 0; i < changes.length; i += 1) {
      const { element, gain, added: volts, held: amps = 0 } = changes[i];
      place[i] = gain === 0 ? -1 : K;
      if (gain === 0) continue;
      elements[K] = element;
      added[K] = volts;
      held[K] = amps;
      this.pull[K++] = 1 / gain;
    }
    let all = K;
    for (let i = 0; i < changes.length; i += 1) {
      const { element, gain, added: volts } = changes[i];
      if (gain !== 0 || volts === 0) continue;
      place[i] = all;
      elements[all] = element;
      added[all++] = volts;
    }
    this.resisting = K;
    this.count = all;
    for (let i = 0; i < K; i += 1) {
      const row = elements[i] * E;
      let sum = 0;
      for (let k = 0; k < all; k += 1) sum += x[row + elements[k]] * added[k];
      for (let k = 0; k < K; k += 1) {
        m[i * K + k] = -x[row + elements[k]];
        inverse[i * K + k] = 0;
      }
      brought[i] = sum;
      m[i * K + i] += this.pull[i];
      inverse[i * K + i] = 1;
    }
    this.isReady = this.invert(set, setting);
    return this.isReady;
  }

  /** Gauss–Jordan, pivots in the order in which they are there; false where one is missing. */
  private invert(set: ProbeSet, setting: number): boolean {
    const { elements, inverse, m, resisting: K } = this;
    const isDone = this.done.fill(0, 0, K);
    for (let left = K; left > 0; left -= 1) {
      let p = 0;
      while (p < K && (isDone[p] || !hasPath(set, setting, elements[p], m[p * K + p]))) p += 1;
      if (p === K) return false;
      isDone[p] = 1;
      const own = p * K;
      const scale = 1 / m[own + p];
      for (let k = 0; k < K; k += 1) {
        m[own + k] *= scale;
        inverse[own + k] *= scale;
      }
      for (let i = 0; i < K; i += 1) {
        if (i === p) continue;
        const at = i * K;
        const factor = m[at + p];
        if (factor === 0) continue;
        for (let k = 0; k < K; k += 1) {
          m[at + k] -= factor * m[own + k];
          inverse[at + k] -= factor * inverse[own + k];
        }
      }
    }
    return true;
  }

  /** @returns false where the general way has to tell: of a part alone, too, which nothing else of its setting touches */
  of({ q, a, c, beta, x }: Probe): boolean {
    if (x !== this.x) return false;
    const { elements, brought, held, added, right, back, mine, count, resisting: K } = this;
    let pushed = 0;
    for (let k = 0; beta !== 0 && k < count; k += 1) pushed += c[elements[k]] * added[k];
    pushed *= beta;
    for (let i = 0; i < K; i += 1) {
      const e = elements[i];
      right[i] = q[e] - held[i] + brought[i] + c[e] * pushed;
      back[i] = a[e];
      mine[i] = c[e];
    }
    const isAnswered = beta === 0 ? this.withoutMeter() : this.withMeter(beta);
    for (let i = K; i < count; i += 1) {
      this.sources[i] = added[i];
      this.adjoint[i] = 0;
    }
    return isAnswered;
  }

  private withoutMeter(): boolean {
    const { inverse, added, right, back, sources, adjoint, resisting: K } = this;
    for (let i = 0, at = 0; i < K; i += 1) {
      let source = added[i];
      let own = 0;
      for (let k = 0; k < K; k += 1, at += 1) {
        source += inverse[at] * right[k];
        own += inverse[at] * back[k];
      }
      sources[i] = source;
      adjoint[i] = own;
    }
    return true;
  }

  private withMeter(beta: number): boolean {
    const { inverse, added, right, back, mine, met, sources, adjoint, resisting: K } = this;
    let self = 0;
    let toSource = 0;
    let toAdjoint = 0;
    for (let i = 0, at = 0; i < K; i += 1) {
      let source = 0;
      let own = 0;
      let reaction = 0;
      for (let k = 0; k < K; k += 1, at += 1) {
        const n = inverse[at];
        source += n * right[k];
        own += n * back[k];
        reaction += n * mine[k];
      }
      sources[i] = source;
      adjoint[i] = own;
      met[i] = reaction;
      const by = mine[i];
      self += by * reaction;
      toSource += by * source;
      toAdjoint += by * own;
    }
    const rest = 1 - beta * self;
    if (!(Math.abs(rest) > LOST)) return false;
    toSource *= beta / rest;
    toAdjoint *= beta / rest;
    for (let i = 0; i < K; i += 1) {
      sources[i] += met[i] * toSource + added[i];
      adjoint[i] += met[i] * toAdjoint;
    }
    return true;
  }

  /** The source of one of the changes, by its number. */
  sourceOf(change: number): number {
    const at = this.place[change];
    return at < 0 ? 0 : this.sources[at];
  }

  private grow(K: number) {
    this.elements = new Int32Array(K);
    this.sources = new Float64Array(K);
    this.adjoint = new Float64Array(K);
    this.inverse = new Float64Array(K * K);
    this.m = new Float64Array(K * K);
    this.brought = new Float64Array(K);
    this.held = new Float64Array(K);
    this.added = new Float64Array(K);
    this.pull = new Float64Array(K);
    this.right = new Float64Array(K);
    this.back = new Float64Array(K);
    this.mine = new Float64Array(K);
    this.met = new Float64Array(K);
    this.done = new Uint8Array(K);
    this.place = new Int32Array(K);
  }
}
