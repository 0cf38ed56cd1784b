import { FACTORS, LOG_2PI, MILLI, type SlipWeights, UNRELATED } from "./slips.ts";

/** Readings that can be left out at most, and one more. */
const RANKS = 4;

/**
 * An upper bound of the readings' log density with up to three of them mis-taken, in O(readings), from variances alone.
 *
 * Leaving out a set S, the rest fits no better than the worst of it by itself, t = r²/v. Sets whose worst outsider is the
 * k-th worst of all hold the k − 1 worse ones. Each reading left out costs its density as an unrelated one and gains at
 * most √(2πd) (Fischer's inequality: |C| ≤ |C without S|·Π d); a scaled one stays under the Gaussian, at its own t.
 */
export class Ceiling {
  /** The worst readings, worst first: r²/v, and log of what leaving each out may gain. */
  private readonly worst = new Float64Array(RANKS);
  private readonly gain = new Float64Array(RANKS);
  private readonly isSpoiled: Uint8Array;

  constructor(private readonly slips: SlipWeights) {
    this.isSpoiled = Uint8Array.from(slips.y, (_, i) => Number(slips.spoiled.includes(i)));
  }

  /**
   * @param r residuals, @param variance their variances, @param d variances that the peak was made of
   * @param peak log density where every residual is zero, @param most how many readings may have been mis-taken
   * @param floor log density below which it does not matter how small the density is
   */
  of(r: Float64Array, variance: Float64Array, d: Float64Array, peak: number, most: number, floor: number): number {
    const { y, logUnrelated, isPossible, spoiled } = this.slips;
    const { worst, gain, isSpoiled } = this;
    const m = y.length;
    if (peak < floor) return peak;
    // Scaled readings farther off than this leave less than the floor.
    const reach = 2 * (peak - floor) + 10;
    worst.fill(0);
    gain.fill(0);
    let all = 0;
    let outside = 0;
    for (let i = 0; i < m; i += 1) {
      const t = (r[i] * r[i]) / variance[i];
      const unrelated = Math.exp(logUnrelated[i]) * Math.sqrt(2 * Math.PI * d[i]);
      const odds = isPossible ? unrelated + this.scaledOdds(i, y[i] - r[i], variance[i], d[i], reach) : 0;
      all += odds;
      if (isSpoiled[i] === 0 && t > outside) outside = t;
      if (t <= worst[RANKS - 1]) continue;
      let at = RANKS - 1;
      for (; at > 0 && worst[at - 1] < t; at -= 1) {
        worst[at] = worst[at - 1];
        gain[at] = gain[at - 1];
      }
      worst[at] = t;
      gain[at] = Math.log(odds);
    }
    let top = -0.5 * worst[0];
    let gained = 0;
    for (let k = 1; k <= most && k < RANKS && isPossible; k += 1) {
      gained += gain[k - 1];
      top = Math.max(top, gained - 0.5 * worst[k]);
    }
    if (spoiled.length > 0 && isPossible) {
      let log = this.slips.logSpoiled - 0.5 * outside;
      for (const i of spoiled) log += 0.5 * (LOG_2PI + Math.log(d[i]));
      top = Math.max(top, log);
    }
    // The five of them, each with further members: Σ Aᵏ/k! is less than eᴬ.
    const bound = peak + top + Math.log(RANKS + 1) + all;
    return reach < Number.POSITIVE_INFINITY ? Math.max(bound, floor - 1) : bound;
  }

  /** What a reading scaled by a factor may weigh beside one at the peak: its prior, where it is within reach. */
  private scaledOdds(i: number, mean: number, variance: number, d: number, reach: number): number {
    const { y, shows, logScaled, coarse } = this.slips;
    let odds = 0;
    for (let kind = 0; kind < UNRELATED; kind += 1) {
      if (shows[i * UNRELATED + kind] === 0) continue;
      const off = y[i] / FACTORS[kind] - mean;
      const more = kind === MILLI ? coarse[i] : 0;
      // What rounding adds to a variance lowers the peak: |C + κ·eeᵀ| ≥ |C|·(1 + κ/d).
      if (off * off <= reach * (variance + more)) odds += Math.exp(logScaled[kind]) / Math.sqrt(1 + more / d);
    }
    return odds;
  }
}
