import { Front, MOST } from "./front.ts";
import { factorInPlace, inverseAt, invertFactor, invertSmall } from "./gaussian.ts";
import { FACTORS, LOG_2PI, MILLI, SLIP_COUNT, type SlipWeights, UNRELATED } from "./slips.ts";

/** How far below the best set one is dropped from those to be enlarged to two readings, and to three. */
const FAR_BELOW = [16, 10] as const;
/** Sets this far below the plain density leave no trace in the sum. */
const TRACELESS = 30;
/** A slip is tried only where it brings the reading within this many standard deviations. */
const REACH = 7;
/** … and, among several mis-taken readings, where it is not this much less likely (as a logarithm) than an unrelated one. */
const UNLIKELY = 7;
/** A further mis-taken reading is not expected to gain more than this many times what the one before did. */
const HOPE = 3;

/**
 * Sums a Gaussian's density over the ways in which up to three readings could have been mis-taken. A scaled reading is
 * y/k under the same Gaussian, with the Jacobian 1/|k|; for a lost contact or anything else the density of the rest
 * comes from the precision matrix (leave-some-out residuals, as for one reading r̃ = [C⁻¹r]ᵢ/[C⁻¹]ᵢᵢ). Sets are grown
 * from the likeliest smaller ones. Allocates nothing per call.
 */
export class BlunderMixture {
  private readonly m: number;
  private readonly precision: Float64Array;
  private readonly work: Float64Array;
  private readonly g: Float64Array;
  private readonly z: Float64Array;
  private spoiledWeight = Number.NEGATIVE_INFINITY;
  // Parts of the mixture: log weight, up to three readings (−1: none) and how each was mis-taken.
  private count = 0;
  private weight = new Float64Array(512);
  private member = new Int16Array(512 * MOST);
  private kind = new Int8Array(512 * MOST);
  /** The likeliest sets of the size at hand, best first, and those of the size before. */
  private readonly front = new Front();
  private readonly grown = new Front();
  private readonly set = new Int16Array(MOST);
  private readonly kinds = new Int8Array(MOST);
  private readonly v = new Float64Array(MOST * MOST);
  private readonly off = new Float64Array(MOST);
  private readonly scaled = new Int8Array(MOST);
  private readonly inner = new Float64Array(MOST * MOST);
  private readonly away = new Float64Array(MOST);

  constructor(private readonly slips: SlipWeights) {
    const m = slips.y.length;
    this.m = m;
    this.precision = new Float64Array(m * m);
    this.work = new Float64Array(m * m);
    this.g = new Float64Array(m);
    this.z = new Float64Array(m);
  }

  /**
   * @param l Cholesky factor (leading dimension `stride`) of the readings' covariance, @param r residuals,
   * @param logDensity of all readings taken well, @param most size of the largest set
   * @param floor log density below which nobody asks how small it is: sets are not enlarged where the step just made,
   * three times over for each that is left, would not reach it
   * @returns log of the mixture's density
   */
  mix(l: Float64Array, stride: number, r: Float64Array, logDensity: number, most: number, floor: number): number {
    this.count = 0;
    this.spoiledWeight = Number.NEGATIVE_INFINITY;
    this.add(logDensity + this.m * this.slips.logGood, 0);
    if (this.slips.isPossible && this.m > 1 && most > 0)
      this.enlarge(l, stride, r, logDensity, Math.min(most, MOST, this.m - 1), floor);
    let top = Math.max(this.weight[0], this.spoiledWeight);
    for (let k = 1; k < this.count; k += 1) if (this.weight[k] > top) top = this.weight[k];
    if (top === Number.NEGATIVE_INFINITY) return top;
    let sum = Math.exp(this.spoiledWeight - top);
    for (let k = 0; k < this.count; k += 1) sum += Math.exp(this.weight[k] - top);
    return top + Math.log(sum);
  }

  /** Adds `share` times the last mixture's probability of each slip of each reading to `out` (readings × slips). */
  addShares(share: number, logTotal: number, out: Float64Array) {
    const together = share * Math.exp(this.spoiledWeight - logTotal);
    if (together > 1e-12) for (const i of this.slips.spoiled) out[i * SLIP_COUNT + UNRELATED] += together;
    for (let k = 1; k < this.count; k += 1) {
      const w = share * Math.exp(this.weight[k] - logTotal);
      if (!(w > 1e-12)) continue;
      for (let s = 0; s < MOST; s += 1) {
        const i = this.member[k * MOST + s];
        if (i < 0) continue;
        const kind = this.kind[k * MOST + s];
        if (kind < UNRELATED) out[i * SLIP_COUNT + kind] += w;
        else {
          out[i * SLIP_COUNT + UNRELATED] += w * this.slips.zeroShare[i];
          out[i * SLIP_COUNT + UNRELATED + 1] += w * (1 - this.slips.zeroShare[i]);
        }
      }
    }
  }

  /** The likeliest set of mis-taken readings of the last mixture. */
  likeliest(): number[] {
    let top = 0;
    for (let k = 1; k < this.count; k += 1) if (this.weight[k] > this.weight[top]) top = k;
    if (this.spoiledWeight > this.weight[top]) return [...this.slips.spoiled];
    return [...this.member.subarray(top * MOST, top * MOST + MOST)].filter((i) => i >= 0);
  }

  private enlarge(l: Float64Array, stride: number, r: Float64Array, logDensity: number, most: number, floor: number) {
    const { m, precision, g, front, grown } = this;
    const { work, z } = this;
    invertFactor(l, stride, m, work);
    // z = L⁻¹·r, then g = L⁻ᵀ·z = C⁻¹·r
    for (let i = 0; i < m; i += 1) {
      let sum = r[i];
      for (let k = 0; k < i; k += 1) sum -= l[i * stride + k] * z[k];
      z[i] = sum / l[i * stride + i];
    }
    for (let i = 0; i < m; i += 1) {
      let sum = 0;
      for (let k = i; k < m; k += 1) sum += work[i * m + k] * z[k];
      g[i] = sum;
      precision[i * m + i] = inverseAt(work, m, i, i);
    }
    front.count = 0;
    for (let i = 0; i < m; i += 1) {
      this.set[0] = i;
      front.offer(this.weighOne(i, logDensity), this.set);
    }
    let best = this.weight[0];
    for (let size = 2; size <= most; size += 1) {
      const step = Math.max(0, front.weight[0] - best);
      best = Math.max(best, front.weight[0]);
      if (size === 2 && this.slips.spoiled.length > 0) this.weighSpoiled(logDensity);
      if (best + HOPE * (most - size + 1) * step + HOPE < floor) return;
      if (size === 2) this.fillPrecision();
      grown.take(front, best - FAR_BELOW[size - 2]);
      front.count = 0;
      for (let c = 0; c < grown.count; c += 1) {
        for (let i = 0; i < m; i += 1) {
          if (grown.has(c, i, size - 1) || grown.isRepeated(c, i, size - 1)) continue;
          for (let s = 0; s < size - 1; s += 1) this.set[s] = grown.set[c * MOST + s];
          this.set[size - 1] = i;
          front.offer(this.weighSeveral(size, logDensity), this.set);
        }
      }
    }
  }

  /** All silent current readings left out at once, at the price of one blunder. */
  private weighSpoiled(logDensity: number) {
    const { work, m, g } = this;
    const { spoiled } = this.slips;
    const n = spoiled.length;
    const p = new Float64Array(n * n);
    for (let a = 0; a < n; a += 1)
      for (let b = 0; b < n; b += 1)
        p[a * n + b] = inverseAt(work, m, Math.max(spoiled[a], spoiled[b]), Math.min(spoiled[a], spoiled[b]));
    const halfLogDet = factorInPlace(p, n);
    // gᵀ·P⁻¹·g by the factor: |L⁻¹·g|².
    const w = new Float64Array(n);
    let quadratic = 0;
    for (let a = 0; a < n; a += 1) {
      let sum = g[spoiled[a]];
      for (let b = 0; b < a; b += 1) sum -= p[a * n + b] * w[b];
      w[a] = sum / p[a * n + a];
      quadratic += w[a] * w[a];
    }
    const logRest = logDensity + 0.5 * (quadratic + n * LOG_2PI) - halfLogDet + (m - n) * this.slips.logGood;
    this.spoiledWeight = logRest + this.slips.logSpoiled;
  }

  private fillPrecision() {
    const { m, precision, work } = this;
    for (let i = 1; i < m; i += 1) {
      for (let j = 0; j < i; j += 1) {
        const value = inverseAt(work, m, i, j);
        precision[i * m + j] = value;
        precision[j * m + i] = value;
      }
    }
  }

  private weighOne(i: number, logDensity: number): number {
    const { m, precision, g } = this;
    const { y } = this.slips;
    const p = precision[i * m + i];
    const residual = g[i] / p;
    const logRest = logDensity + 0.5 * (g[i] * residual + LOG_2PI - Math.log(p)) + (m - 1) * this.slips.logGood;
    this.kinds[0] = UNRELATED;
    let top = logRest + this.slips.logUnrelated[i];
    this.add(top, 1);
    const mean = y[i] - residual;
    for (let kind = 0; kind < UNRELATED; kind += 1) {
      if (this.slips.shows[i * UNRELATED + kind] === 0) continue;
      const off = y[i] / FACTORS[kind] - mean;
      const spread = 1 / p + (kind === MILLI ? this.slips.coarse[i] : 0);
      if (off * off > REACH * REACH * spread) continue;
      const weight = logRest + this.slips.logScaled[kind] - 0.5 * ((off * off) / spread + LOG_2PI + Math.log(spread));
      this.kinds[0] = kind;
      this.add(weight, 1);
      if (weight > top) top = weight;
    }
    return top;
  }

  private weighSeveral(n: number, logDensity: number): number {
    const { m, precision, g, set, v, off } = this;
    for (let a = 0; a < n; a += 1) for (let b = 0; b < n; b += 1) v[a * n + b] = precision[set[a] * m + set[b]];
    const logDet = invertSmall(v, n);
    let quadratic = 0;
    for (let a = 0; a < n; a += 1) {
      let residual = 0;
      for (let b = 0; b < n; b += 1) residual += v[a * n + b] * g[set[b]];
      off[a] = residual;
      quadratic += g[set[a]] * residual;
    }
    const logRest = logDensity + 0.5 * (quadratic + n * LOG_2PI + logDet) + (m - n) * this.slips.logGood;
    return this.combine(n, 0, logRest);
  }

  /** Walks the combinations of slips for a set; returns the largest log weight. */
  private combine(n: number, at: number, logSoFar: number): number {
    const { set, kinds, v, off } = this;
    const { y } = this.slips;
    if (at === n) {
      const weight = logSoFar + this.scaledDensity(n);
      this.add(weight, n);
      return weight;
    }
    const i = set[at];
    kinds[at] = UNRELATED;
    let top = this.combine(n, at + 1, logSoFar + this.slips.logUnrelated[i]);
    for (let kind = 0; kind < UNRELATED; kind += 1) {
      if (this.slips.shows[i * UNRELATED + kind] === 0) continue;
      const away = y[i] / FACTORS[kind] - y[i] + off[at];
      const spread = v[at * n + at] + (kind === MILLI ? this.slips.coarse[i] : 0);
      if (away * away > REACH * REACH * spread) continue;
      const alone = this.slips.logScaled[kind] - 0.5 * ((away * away) / spread + LOG_2PI + Math.log(spread));
      if (alone < this.slips.logUnrelated[i] - UNLIKELY) continue;
      kinds[at] = kind;
      top = Math.max(top, this.combine(n, at + 1, logSoFar + this.slips.logScaled[kind]));
    }
    return top;
  }

  /** Joint density of the readings of the set that were scaled, given those outside of it. */
  private scaledDensity(n: number): number {
    const { kinds, set, v, off, scaled, inner, away } = this;
    const { y } = this.slips;
    let count = 0;
    for (let a = 0; a < n; a += 1) if (kinds[a] < UNRELATED) scaled[count++] = a;
    if (count === 0) return 0;
    for (let a = 0; a < count; a += 1) {
      const at = scaled[a];
      away[a] = y[set[at]] / FACTORS[kinds[at]] - y[set[at]] + off[at];
      for (let b = 0; b < count; b += 1) inner[a * count + b] = v[at * n + scaled[b]];
      if (kinds[at] === MILLI) inner[a * count + a] += this.slips.coarse[set[at]];
    }
    const logDet = invertSmall(inner, count);
    let quadratic = 0;
    for (let a = 0; a < count; a += 1)
      for (let b = 0; b < count; b += 1) quadratic += away[a] * inner[a * count + b] * away[b];
    return -0.5 * quadratic + 0.5 * logDet - 0.5 * count * LOG_2PI;
  }

  private add(weight: number, size: number) {
    if (size > 0 && weight < this.weight[0] - TRACELESS) return;
    if (this.count === this.weight.length) this.grow();
    const at = this.count * MOST;
    this.weight[this.count] = weight;
    for (let s = 0; s < MOST; s += 1) {
      this.member[at + s] = s < size ? this.set[s] : -1;
      this.kind[at + s] = this.kinds[s];
    }
    this.count += 1;
  }

  private grow() {
    const larger = <T extends Float64Array | Int16Array | Int8Array>(old: T, made: T) => {
      made.set(old);
      return made;
    };
    this.weight = larger(this.weight, new Float64Array(this.weight.length * 2));
    this.member = larger(this.member, new Int16Array(this.member.length * 2));
    this.kind = larger(this.kind, new Int8Array(this.kind.length * 2));
  }
}
