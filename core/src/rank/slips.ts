import type { PriorData } from "../faults/index.ts";

/** How a reading can be mis-taken. `kilo` and `milli`: the display's unit was read a thousand too large or too small. */
export const SLIPS = ["sign", "kilo", "milli", "zero", "other"] as const;
export type Slip = (typeof SLIPS)[number];
export const SLIP_COUNT = SLIPS.length;

/** Slips under which the display is the true value times a factor; the reading is y/k under the same Gaussian. */
export const FACTORS = [-1, 1000, 1 / 1000] as const;
export const MILLI = 2;
/** Stands for “no contact” and “anything else” together: both leave the reading without a say. */
export const UNRELATED = FACTORS.length;
export const LOG_2PI = Math.log(2 * Math.PI);

/** A current reading within this many standard deviations of zero shows nothing. */
const SILENT = 3;

/** What priors and displays make of every reading's slips, whatever the circuit. */
export class SlipWeights {
  readonly isPossible: boolean;
  /** log prior of a reading taken well, and of one scaled by each factor, with the Jacobian 1/|k|. */
  readonly logGood: number;
  readonly logScaled: Float64Array;
  /** log of the prior-weighted density of an unrelated reading, and the share of “no contact” in it. */
  readonly logUnrelated: Float64Array;
  readonly zeroShare: Float64Array;
  /** Variance that rounding has in a reading divided by 1000: its error is divided too, but not what is not shown. */
  readonly coarse: Float64Array;
  /** Whether a slip by a factor would show at all, readings × factors: a reading of nothing has no sign. */
  readonly shows: Uint8Array;
  /** Current readings that all show nothing: one blown fuse in the meter spoils them together. */
  readonly spoiled: readonly number[];
  readonly logSpoiled: number;

  /**
   * @param y readings, @param sigma the meter's standard deviations, @param rounding those of the last digit,
   * @param spans width of the range in which a reading that is "anything else" would lie
   */
  constructor(
    readonly y: Float64Array,
    sigma: Float64Array,
    rounding: Float64Array,
    spans: Float64Array,
    priors: PriorData,
    isCurrent: readonly boolean[],
  ) {
    const m = y.length;
    const { blunder } = priors;
    const { sign, unit, zero, other } = priors.blunderKinds;
    this.isPossible = blunder > 0 && sign + unit + zero + other > 0;
    this.coarse = Float64Array.from(rounding, (r) => (r / FACTORS[MILLI]) ** 2);
    this.logGood = Math.log1p(-blunder);
    this.logScaled = Float64Array.from([sign, unit / 2, unit / 2], (w, k) =>
      Math.log((blunder * w) / Math.abs(FACTORS[k])),
    );
    this.logUnrelated = new Float64Array(m);
    this.zeroShare = new Float64Array(m);
    this.shows = new Uint8Array(m * UNRELATED);
    for (let i = 0; i < m; i += 1) {
      const z = y[i] / sigma[i];
      const lost = (blunder * zero * Math.exp(-0.5 * z * z)) / (sigma[i] * Math.sqrt(2 * Math.PI));
      const anything = (blunder * other) / spans[i];
      this.logUnrelated[i] = Math.log(lost + anything);
      this.zeroShare[i] = lost / (lost + anything) || 0;
      for (let kind = 0; kind < UNRELATED; kind += 1)
        this.shows[i * UNRELATED + kind] = Number(Math.abs(y[i] / FACTORS[kind] - y[i]) > sigma[i] || kind === MILLI);
    }
    const silent = [...isCurrent.keys()].filter((i) => isCurrent[i] && Math.abs(y[i]) <= SILENT * sigma[i]);
    this.spoiled = silent.length > 1 ? silent : [];
    this.logSpoiled = this.spoiled.reduce(
      (sum, i) => sum - 0.5 * ((y[i] / sigma[i]) ** 2 + LOG_2PI) - Math.log(sigma[i]),
      Math.log(blunder * zero),
    );
  }
}
