import type { PriorData } from "../faults/index.ts";
import { type Probe, roundingOf } from "../measure/index.ts";
import { BlunderMixture } from "./blunders.ts";
import { Ceiling } from "./ceiling.ts";
import { factorInPlace } from "./gaussian.ts";
import { LOG_2PI, SlipWeights } from "./slips.ts";
import { Worst } from "./worst.ts";

/** Residuals beyond this many standard deviations count as this many: nothing changes, and nothing overflows. */
const FARTHEST = 1e6;
const MOST_SPREADS = 4;
/** Readings that an upper bound is made of. */
const WORST = 5;

/** Variances of the measured readings by tolerances. */
export interface Tolerances {
  readonly varianceOf: (reading: number) => number;
  /** What they are about, without asking. */
  readonly usual: Float64Array;
}

/** Rank-one terms of a covariance, v·vᵀ·weight each: how far a cell stretches. Owned by the caller, filled in place. */
export class Spreads {
  readonly vectors: readonly Float64Array[];
  readonly weights = new Float64Array(MOST_SPREADS);
  count = 0;

  constructor(readings: number) {
    this.vectors = Array.from({ length: MOST_SPREADS }, () => new Float64Array(readings));
  }

  /** The next vector to be filled. */
  next(weight: number): Float64Array {
    this.weights[this.count] = weight;
    return this.vectors[this.count++];
  }

  copy(): Spreads {
    const made = new Spreads(this.vectors[0].length);
    for (let k = 0; k < this.count; k += 1) made.next(this.weights[k]).set(this.vectors[k]);
    return made;
  }
}

/**
 * Density of all readings under a Gaussian prediction, mis-taken and censored readings included. One workspace serves
 * a whole ranking and allocates nothing per call. Measured values come first, censored readings last.
 */
export class Evidence {
  readonly measured: number;
  readonly count: number;
  /** DᵀC₀⁻¹D of the first two spreads of the last call: how many standard deviations each is long, squared. */
  readonly spreadSizes = new Float64Array(2);
  private readonly y: Float64Array;
  private readonly variance: Float64Array;
  private readonly c: Float64Array;
  private readonly r: Float64Array;
  private readonly z: Float64Array;
  private readonly w: Float64Array;
  private readonly beyond: Int8Array;
  private readonly marginal: Float64Array;
  /** The readings that look worst. */
  private readonly worst = new Worst(WORST);
  private readonly mixture: BlunderMixture;
  private readonly ceiling: Ceiling;
  /** Log density at most, where tolerances are zero and every reading fits. */
  private readonly logPeak: number;
  private readonly logBlunder: number;
  private readonly blunder: number;
  private logMixture = 0;

  /** @param probes numeric readings, measured ones before censored ones */
  constructor(probes: readonly Probe[], spans: Float64Array, priors: PriorData) {
    const n = probes.length;
    this.count = n;
    this.measured = probes.filter((p) => p.reading.beyond === undefined).length;
    const m = this.measured;
    this.y = Float64Array.from(probes, (p) => p.reading.value);
    this.variance = Float64Array.from(probes, (p) => p.sigma ** 2);
    this.beyond = Int8Array.from(probes, (p) => ({ over: 1, under: -1, none: 0 })[p.reading.beyond ?? "none"]);
    this.c = new Float64Array(n * n);
    this.r = new Float64Array(n);
    this.marginal = new Float64Array(m);
    this.z = new Float64Array(n);
    this.w = new Float64Array(n);
    const sigma = Float64Array.from(probes.slice(0, m), (p) => p.sigma);
    const rounding = Float64Array.from(probes.slice(0, m), (p) => roundingOf(p.reading));
    const isCurrent = probes.slice(0, m).map((p) => p.reading.quantity === "current");
    const slips = new SlipWeights(this.y.subarray(0, m), sigma, rounding, spans.subarray(0, m), priors, isCurrent);
    this.mixture = new BlunderMixture(slips);
    this.ceiling = new Ceiling(slips, this.variance.subarray(0, m));
    this.logPeak = -sigma.reduce((sum, s) => sum + Math.log(s) + 0.5 * LOG_2PI, 0);
    this.blunder = priors.blunder;
    this.logBlunder = Math.log(Math.max(priors.blunder, 1e-300) / 2);
  }

  /**
   * Log density of the readings where the prediction has mean `mean` and covariance `tolerance` (packed lower
   * triangle) plus the meters' own variance plus v·vᵀ·weight for each spread.
   * @param most how many readings may have been mis-taken at once
   * @param floor log density below which a rough answer will do
   */
  density(
    mean: Float64Array,
    tolerance: Float64Array,
    spreads: Spreads,
    most: number,
    floor = Number.NEGATIVE_INFINITY,
  ): number {
    this.build(mean, tolerance, spreads);
    const { count: n, measured: m, c, z, marginal } = this;
    for (let i = 0; i < m; i += 1) marginal[i] = c[i * n + i];
    const halfLogDet = this.factorAndSolve();
    let quadratic = 0;
    for (let i = 0; i < m; i += 1) quadratic += z[i] * z[i];
    if (!Number.isFinite(quadratic)) return Number.NEGATIVE_INFINITY;
    const plain = -0.5 * quadratic - halfLogDet - 0.5 * m * LOG_2PI;
    // Where even the best mixture would not count, that none was mis-taken will do.
    const atMost = floor > Number.NEGATIVE_INFINITY ? this.atMost(plain + 0.5 * quadratic, most, floor) : floor;
    this.logMixture = this.mixture.mix(c, n, this.r, plain, atMost < floor ? 0 : most, floor);
    let logDensity = this.logMixture;
    for (let i = m; i < n; i += 1) logDensity += this.censored(i, mean[i]);
    // Nobody splits a cell that does not count.
    const counts = logDensity > floor;
    for (let k = 0; k < 2; k += 1) this.spreadSizes[k] = counts && k < spreads.count ? this.sizeOf(spreads, k) : 0;
    return logDensity;
  }

  /**
   * An upper bound of `density` from the variances of the readings that look worst: no covariance is smaller than the
   * meter's own, and what the other readings would add to the verdict is hardly ever what decides it.
   * @param tolerances variance of each measured reading by tolerances, asked for few of them, and what it usually is
   * @param floor log density below which it does not matter how small it is
   */
  bound(
    mean: Float64Array,
    { varianceOf, usual }: Tolerances,
    spreads: Spreads,
    most: number,
    floor = Number.NEGATIVE_INFINITY,
  ): number {
    const { measured: m, y, variance, r, marginal, worst } = this;
    worst.clear();
    for (let i = 0; i < m; i += 1) {
      let v = variance[i];
      for (let s = 0; s < spreads.count; s += 1) v += spreads.weights[s] * spreads.vectors[s][i] ** 2;
      r[i] = y[i] - mean[i];
      marginal[i] = v;
      worst.offer((r[i] * r[i]) / (v + usual[i]), i);
    }
    for (let k = 0; k < worst.count; k += 1) marginal[worst.index[k]] += varianceOf(worst.index[k]);
    return this.ceiling.ofSome(worst, r, marginal, this.logPeak, most, floor);
  }

  /** After `density`: adds `share` times the probability of each slip of each measured reading to `out`. */
  addSlips(share: number, out: Float64Array) {
    this.mixture.addShares(share, this.logMixture, out);
  }

  /** After `density`: the likeliest set of mis-taken readings. */
  likeliestSlips(): number[] {
    return this.mixture.likeliest();
  }

  /**
   * The most probable parameters z₁ = JᵀC⁻¹r, leaving out readings in `without`. Writes into `out`; j is readings ×
   * parameters.
   */
  likeliestParameters(
    mean: Float64Array,
    tolerance: Float64Array,
    spreads: Spreads,
    j: Float64Array,
    without: readonly number[],
    out: Float64Array,
  ) {
    this.build(mean, tolerance, spreads);
    const { count: n, measured: m, c, z } = this;
    for (const i of without) c[i * n + i] *= 1e12;
    this.factorAndSolve();
    const x = new Float64Array(m);
    for (let i = m - 1; i >= 0; i -= 1) {
      let sum = z[i];
      for (let k = i + 1; k < m; k += 1) sum -= c[k * n + i] * x[k];
      x[i] = sum / c[i * n + i];
    }
    const P = out.length;
    out.fill(0);
    for (let i = 0; i < m; i += 1) for (let p = 0; p < P; p += 1) out[p] += j[i * P + p] * x[i];
  }

  private atMost(peak: number, most: number, floor: number): number {
    return this.ceiling.of(this.r, this.marginal, peak, most, floor);
  }

  private build(mean: Float64Array, tolerance: Float64Array, spreads: Spreads) {
    const { count: n, c, r, y, variance } = this;
    for (let i = 0, at = 0; i < n; i += 1) {
      const row = i * n;
      for (let k = 0; k <= i; k += 1, at += 1) c[row + k] = tolerance[at];
      c[row + i] += variance[i];
    }
    for (let s = 0; s < spreads.count; s += 1) {
      const vector = spreads.vectors[s];
      const weight = spreads.weights[s];
      for (let i = 0; i < n; i += 1) {
        const scaled = vector[i] * weight;
        const row = i * n;
        for (let k = 0; k <= i; k += 1) c[row + k] += scaled * vector[k];
      }
    }
    for (let i = 0; i < n; i += 1) {
      const farthest = FARTHEST * Math.sqrt(c[i * n + i]);
      const off = y[i] - mean[i];
      r[i] = off > farthest ? farthest : Math.max(off, -farthest);
    }
  }

  /** Factors C, solves L·z = r over the measured part; returns ½ log det of that part. */
  private factorAndSolve(): number {
    const { count: n, measured: m, c, r, z } = this;
    factorInPlace(c, n);
    let det = 1;
    let halfLogDet = 0;
    for (let i = 0; i < m; i += 1) {
      const row = i * n;
      let sum = r[i];
      for (let k = 0; k < i; k += 1) sum -= c[row + k] * z[k];
      const root = c[row + i];
      z[i] = sum / root;
      det *= root;
      if (det < 1e-200 || det > 1e200) {
        halfLogDet += Math.log(det);
        det = 1;
      }
    }
    return halfLogDet + Math.log(det);
  }

  /** DᵀC₀⁻¹D from DᵀC⁻¹D, where C = C₀ + w·DDᵀ (Sherman–Morrison). */
  private sizeOf(spreads: Spreads, which: number): number {
    const { count: n, measured: m, c, w } = this;
    const vector = spreads.vectors[which];
    let d = 0;
    for (let i = 0; i < m; i += 1) {
      const row = i * n;
      let sum = vector[i];
      for (let k = 0; k < i; k += 1) sum -= c[row + k] * w[k];
      w[i] = sum / c[row + i];
      d += w[i] * w[i];
    }
    const left = 1 - spreads.weights[which] * d;
    return d / Math.max(left, 1e-12);
  }

  /** Log probability that a censored reading showed what it did, given the measured ones. */
  private censored(i: number, mean: number): number {
    const { count: n, measured: m, c, z, y, beyond, blunder, logBlunder } = this;
    let centre = mean;
    for (let k = 0; k < m; k += 1) centre += c[i * n + k] * z[k];
    let variance = 0;
    for (let k = m; k <= i; k += 1) variance += c[i * n + k] ** 2;
    const t = (beyond[i] * (centre - y[i])) / Math.sqrt(variance);
    return Math.log((1 - blunder) * normalTail(t) + Math.exp(logBlunder));
  }
}

/** Probability that a standard normal lies below t. Abramowitz & Stegun 7.1.26 on erfc, |error| < 1.5e-7. */
export function normalTail(t: number): number {
  const x = Math.abs(t) / Math.SQRT2;
  const k = 1 / (1 + 0.3275911 * x);
  const erfc =
    k *
    (0.254829592 + k * (-0.284496736 + k * (1.421413741 + k * (-1.453152027 + k * 1.061405429)))) *
    Math.exp(-x * x);
  return t < 0 ? erfc / 2 : 1 - erfc / 2;
}
