import type { ProbeSet } from "../measure/index.ts";
import type { Couplings } from "./couplings.ts";

/** Variances of a reading under one element after which the coefficients have paid for themselves. */
const FEW = 3;
/** Powers 0 to 2 of the adjoint by powers 0 to 2 of the source. */
const TERMS = 9;

/**
 * Variances of readings under one changed element as polynomials. A sensitivity is (lever + l·a)·(current + s·b), with
 * an adjoint l and a source s that depend on the fault's value, and a, b that do not. Summed over all parameters its
 * square is a polynomial in l and s, whose coefficients are summed once an element, when it is asked for again: every
 * further value of the fault then costs O(1) a reading instead of O(parameters).
 */
export class Moments {
  private readonly sums: Float64Array;
  /** How often each reading was asked for under each element, up to one more than few. */
  private readonly visits: Uint8Array;

  constructor(
    private readonly set: ProbeSet,
    private readonly P: number,
    measured: number,
    private readonly couplings: Couplings,
  ) {
    this.sums = new Float64Array(measured * set.elementCount * TERMS);
    this.visits = new Uint8Array(measured * set.elementCount);
  }

  /** Variance of reading `r` with element `e` changed: source `s`, adjoint `l`. */
  variance(r: number, e: number, s: number, l: number): number {
    const { sums } = this;
    const place = r * this.set.elementCount + e;
    const at = place * TERMS;
    const visits = this.visits[place];
    if (visits <= FEW) {
      this.visits[place] += 1;
      if (visits < FEW) return this.direct(r, e, s, l);
      this.fill(r, e, at);
    }
    const still = sums[at] + l * (sums[at + 1] + l * sums[at + 2]);
    const once = sums[at + 3] + l * (sums[at + 4] + l * sums[at + 5]);
    const twice = sums[at + 6] + l * (sums[at + 7] + l * sums[at + 8]);
    return still + s * (once + s * twice);
  }

  /** Sensitivity of reading `r` to parameter `p`. */
  moved(r: number, p: number, e: number, s: number, l: number): number {
    const { lever, current } = this.couplings;
    const { a, b } = this.couplings.of(r, e);
    const at = r * this.P + p;
    return (lever[at] + l * a[at]) * (current[at] + s * b[at]);
  }

  private direct(r: number, e: number, s: number, l: number): number {
    const { lever, current } = this.couplings;
    const { a, b } = this.couplings.of(r, e);
    const end = (r + 1) * this.P;
    let sum = 0;
    for (let at = r * this.P; at < end; at += 1) {
      const moved = (lever[at] + l * a[at]) * (current[at] + s * b[at]);
      sum += moved * moved;
    }
    return sum;
  }

  private fill(r: number, e: number, at: number) {
    const { sums, P } = this;
    const { lever, current } = this.couplings;
    const coupling = this.couplings.of(r, e);
    let [s0, s1, s2, s3, s4, s5, s6, s7, s8] = [0, 0, 0, 0, 0, 0, 0, 0, 0];
    const end = (r + 1) * P;
    for (let k = r * P; k < end; k += 1) {
      const a = coupling.a[k];
      const b = coupling.b[k];
      const a0 = lever[k] * lever[k];
      const a1 = 2 * lever[k] * a;
      const a2 = a * a;
      const b0 = current[k] * current[k];
      const b1 = 2 * current[k] * b;
      const b2 = b * b;
      s0 += a0 * b0;
      s1 += a1 * b0;
      s2 += a2 * b0;
      s3 += a0 * b1;
      s4 += a1 * b1;
      s5 += a2 * b1;
      s6 += a0 * b2;
      s7 += a1 * b2;
      s8 += a2 * b2;
    }
    sums[at] = s0;
    sums[at + 1] = s1;
    sums[at + 2] = s2;
    sums[at + 3] = s3;
    sums[at + 4] = s4;
    sums[at + 5] = s5;
    sums[at + 6] = s6;
    sums[at + 7] = s7;
    sums[at + 8] = s8;
  }
}
