import { logSumExp } from "./gaussian.ts";
import { FACTORS, LOG_2PI, type SlipWeights, UNRELATED } from "./slips.ts";
import { Worst } from "./worst.ts";

const INVERSE = FACTORS.map((k) => 1 / k);
/** Readings that can be left out at most, and one more. */
const RANKS = 4;

/** Scaled readings farther off than this many variances leave less than the floor. */
const reachOf = (peak: number, floor: number) => 2 * (peak - floor) + 10;

/**
 * An upper bound of the readings' log density with up to three of them mis-taken, in O(readings), from variances alone.
 *
 * Leaving out a set S, the rest fits no better than the worst of it by itself, t = r²/v. Sets whose worst outsider is the
 * k-th worst of all hold the k − 1 worse ones. Each reading left out costs its density as an unrelated one and gains at
 * most √(2πd) (Fischer's inequality: |C| ≤ |C without S|·Π d); a scaled one stays under the Gaussian, at its own t.
 * What tolerances add to the meters' variances lowers the peak.
 */
export class Ceiling {
  /** The worst readings by r²/v, and what leaving each reading out may gain. */
  private readonly worst = new Worst(RANKS);
  private readonly odds: Float64Array;
  /** Log weights of the sets by their worst outsider, and of all silent readings left out together. */
  private readonly terms = new Float64Array(RANKS + 1);
  private readonly isSpoiled: Uint8Array;
  private readonly unrelated: Float64Array;
  private readonly scaled: Float64Array;

  /** Sum of what leaving each reading out may gain at most, at the meters' own variances. */
  private readonly mostOdds: number;
  private outside = 0;

  /** @param own variances of the meters alone */
  constructor(
    private readonly slips: SlipWeights,
    private readonly own: Float64Array,
  ) {
    this.odds = new Float64Array(own.length);
    this.scaled = slips.logScaled.map(Math.exp);
    this.unrelated = slips.logUnrelated.map((log) => Math.exp(log + 0.5 * LOG_2PI));
    this.isSpoiled = Uint8Array.from(slips.y, (_, i) => Number(slips.spoiled.includes(i)));
    this.mostOdds = own.reduce((sum, d, i) => sum + this.oddsOf(i, 0, 1, d, Number.POSITIVE_INFINITY), 0);
  }

  /**
   * @param some of the readings, those that look worst; the others fit perfectly
   * @param r residuals, @param variance their variances, @param most how many readings may have been mis-taken
   * @param peak log density where every residual is zero, at the meters' own variances
   * @param floor log density below which it does not matter how small the density is
   */
  of(some: Worst, r: Float64Array, variance: Float64Array, peak: number, most: number, floor: number): number {
    const reach = reachOf(peak, floor);
    this.worst.clear();
    this.outside = 0;
    for (let k = 0; k < some.count; k += 1) {
      const i = some.index[k];
      this.take(i, r[i], variance[i], reach);
    }
    return this.close(variance, peak, most, floor, reach);
  }

  /** Ranks a reading, and notes what leaving it out may gain. */
  private take(i: number, r: number, variance: number, reach: number) {
    const t = (r * r) / variance;
    if (this.isSpoiled[i] === 0 && t > this.outside) this.outside = t;
    this.worst.offer(t, i);
    this.odds[i] = this.oddsOf(i, this.slips.y[i] - r, variance, this.own[i], reach);
  }

  private close(variance: Float64Array, peak: number, most: number, floor: number, reach: number): number {
    const { isPossible, spoiled, logSpoiled } = this.slips;
    const { worst, odds, terms, own } = this;
    const wide = 0.5 * Math.log(this.widening(variance));
    terms.fill(Number.NEGATIVE_INFINITY);
    let gained = -wide;
    for (let k = 0; k <= most && k < RANKS; k += 1) {
      terms[k] = gained - (k < worst.count ? 0.5 * worst.value[k] : 0);
      if (!isPossible || k >= worst.count) break;
      gained += Math.log(odds[worst.index[k]]);
    }
    if (spoiled.length > 0 && isPossible) {
      terms[RANKS] = logSpoiled - 0.5 * this.outside;
      for (const i of spoiled) terms[RANKS] += 0.5 * (LOG_2PI + Math.log(own[i]));
    }
    // Each of them with further members: Σ Aᵏ/k! is less than eᴬ.
    const bound = peak + logSumExp(terms) + this.mostOdds;
    return reach < Number.POSITIVE_INFINITY ? Math.max(bound, floor - 1) : bound;
  }

  /**
   * What the determinant of all but three readings is at least, of that at the peak: with C = D + T, T positive,
   * |D⁻¹C| = Π(1 + λ) ≥ 1 + Σλ = 1 + tr D⁻¹T, and the three that have most of it may have been left out.
   */
  private widening(variance: Float64Array): number {
    let sum = 1;
    let first = 0;
    let second = 0;
    let third = 0;
    for (let i = 0; i < variance.length; i += 1) {
      const ratio = variance[i] / this.own[i] - 1;
      sum += ratio;
      if (ratio <= third) continue;
      if (ratio <= second) third = ratio;
      else {
        third = second;
        if (ratio <= first) second = ratio;
        else {
          second = first;
          first = ratio;
        }
      }
    }
    return Math.max(1, sum - first - second - third);
  }

  private oddsOf(i: number, mean: number, variance: number, d: number, reach: number): number {
    if (!this.slips.isPossible) return 0;
    const unrelated = this.unrelated[i] * Math.sqrt(d);
    return unrelated + this.scaledOdds(i, mean, variance, d, reach);
  }

  /** What a reading scaled by a factor may weigh beside one at the peak: its prior, where it is within reach. */
  private scaledOdds(i: number, mean: number, variance: number, d: number, reach: number): number {
    const { y, shows, widening } = this.slips;
    let odds = 0;
    for (let kind = 0; kind < UNRELATED; kind += 1) {
      if (shows[i * UNRELATED + kind] === 0) continue;
      const off = y[i] * INVERSE[kind] - mean;
      const more = widening[i * UNRELATED + kind];
      // What is added to a variance lowers the peak, what is taken off raises it: |C + κ·eeᵀ| ≥ |C|·(1 + κ/d).
      if (off * off <= reach * (variance + more)) odds += this.scaled[kind] / Math.sqrt(1 + more / d);
    }
    return odds;
  }
}
