import type { Couplings } from "./couplings.ts";

/** Monomials 1, x, x², y, xy, y² of the adjoints by those of the sources. */
const SIDE = 6;
const TERMS = SIDE * SIDE;
/** Predictions of a pair of elements after which the coefficients have paid for themselves. */
const FEW = 4;
/** Terms that cancel to less than this share of themselves leave too little to go by. */
const DUST = 1e-7;

/**
 * Variances of readings under two changed elements. A sensitivity is (lever + l₁·a₁ + l₂·a₂)·(current + s₁·b₁ + s₂·b₂);
 * its square, summed over all parameters, is a polynomial in the adjoints l and sources s. Its 36 coefficients a reading
 * are summed when a pair of elements is asked for again and again (drifts of both, each over cells): from then on a
 * variance costs O(1) a reading instead of O(parameters). Only the pair at hand is kept.
 */
export class PairMoments {
  private readonly sums: Float64Array;
  private first = -1;
  private second = -1;
  /** How often each reading was asked for since this pair is at hand. */
  private readonly visits: Uint8Array;
  private readonly adjoints = new Float64Array(SIDE);
  private readonly sources = new Float64Array(SIDE);
  /** Squares and products of what moves each parameter, monomials × parameters, of the reading being summed. */
  private readonly byLever: Float64Array;
  private readonly byCurrent: Float64Array;

  constructor(
    private readonly P: number,
    measured: number,
    private readonly couplings: Couplings,
  ) {
    this.sums = new Float64Array(measured * TERMS);
    this.visits = new Uint8Array(measured);
    this.byLever = new Float64Array(SIDE * P);
    this.byCurrent = new Float64Array(SIDE * P);
  }

  /** Says which pair of elements the next variances are of. */
  attend(first: number, second: number) {
    if (first === this.first && second === this.second) return;
    this.first = first;
    this.second = second;
    this.visits.fill(0);
  }

  /** Variance of reading `r` at sources s and adjoints l of the pair at hand. */
  variance(r: number, s1: number, s2: number, l1: number, l2: number): number {
    if (this.visits[r] < FEW) {
      this.visits[r] += 1;
      return this.direct(r, s1, s2, l1, l2);
    }
    if (this.visits[r] === FEW) {
      this.visits[r] += 1;
      this.fill(r);
    }
    const { sums, adjoints, sources } = this;
    monomials(l1, l2, adjoints);
    monomials(s1, s2, sources);
    let sum = 0;
    let size = 0;
    for (let i = 0, at = r * TERMS; i < SIDE; i += 1, at += SIDE) {
      const t0 = sums[at];
      const t1 = sources[1] * sums[at + 1];
      const t2 = sources[2] * sums[at + 2];
      const t3 = sources[3] * sums[at + 3];
      const t4 = sources[4] * sums[at + 4];
      const t5 = sources[5] * sums[at + 5];
      sum += adjoints[i] * (t0 + t1 + t2 + t3 + t4 + t5);
      size +=
        Math.abs(adjoints[i]) *
        (Math.abs(t0) + Math.abs(t1) + Math.abs(t2) + Math.abs(t3) + Math.abs(t4) + Math.abs(t5));
    }
    return sum > DUST * size ? sum : this.direct(r, s1, s2, l1, l2);
  }

  /** Sensitivity of reading `r` to one parameter. */
  moved(r: number, p: number, s1: number, s2: number, l1: number, l2: number): number {
    const { lever, current } = this.couplings;
    const one = this.couplings.of(r, this.first);
    const two = this.couplings.of(r, this.second);
    const at = r * this.P + p;
    return (lever[at] + l1 * one.a[at] + l2 * two.a[at]) * (current[at] + s1 * one.b[at] + s2 * two.b[at]);
  }

  private direct(r: number, s1: number, s2: number, l1: number, l2: number): number {
    const { lever, current } = this.couplings;
    const { a: a1, b: b1 } = this.couplings.of(r, this.first);
    const { a: a2, b: b2 } = this.couplings.of(r, this.second);
    const end = (r + 1) * this.P;
    let sum = 0;
    for (let at = r * this.P; at < end; at += 1) {
      const moved = (lever[at] + l1 * a1[at] + l2 * a2[at]) * (current[at] + s1 * b1[at] + s2 * b2[at]);
      sum += moved * moved;
    }
    return sum;
  }

  private fill(r: number) {
    const { P, sums, byLever, byCurrent } = this;
    const { lever, current } = this.couplings;
    const { a: a1, b: b1 } = this.couplings.of(r, this.first);
    const { a: a2, b: b2 } = this.couplings.of(r, this.second);
    for (let p = 0, at = r * P; p < P; p += 1, at += 1) {
      products(lever[at], a1[at], a2[at], byLever, p, P);
      products(current[at], b1[at], b2[at], byCurrent, p, P);
    }
    for (let i = 0, k = r * TERMS; i < SIDE; i += 1, k += SIDE) {
      let [s0, s1, s2, s3, s4, s5] = [0, 0, 0, 0, 0, 0];
      for (let p = 0, at = i * P; p < P; p += 1, at += 1) {
        const u = byLever[at];
        s0 += u * byCurrent[p];
        s1 += u * byCurrent[P + p];
        s2 += u * byCurrent[2 * P + p];
        s3 += u * byCurrent[3 * P + p];
        s4 += u * byCurrent[4 * P + p];
        s5 += u * byCurrent[5 * P + p];
      }
      sums[k] = s0;
      sums[k + 1] = s1;
      sums[k + 2] = s2;
      sums[k + 3] = s3;
      sums[k + 4] = s4;
      sums[k + 5] = s5;
    }
  }
}

function monomials(x: number, y: number, out: Float64Array) {
  out[0] = 1;
  out[1] = x;
  out[2] = x * x;
  out[3] = y;
  out[4] = x * y;
  out[5] = y * y;
}

/** Coefficients of (still + x·one + y·two)² by its monomials, `stride` apart from `at` on. */
function products(still: number, one: number, two: number, out: Float64Array, at: number, stride: number) {
  out[at] = still * still;
  out[at + stride] = 2 * still * one;
  out[at + 2 * stride] = one * one;
  out[at + 3 * stride] = 2 * still * two;
  out[at + 4 * stride] = 2 * one * two;
  out[at + 5 * stride] = two * two;
}
