import type { PriorData } from "../../faults/index.ts";

/** How a reading can be mis-taken. `kilo` and `milli`: the display's unit was read a thousand too large or too small. */
export const SLIPS = ["sign", "kilo", "milli", "zero", "other"] as const;
export type Slip = (typeof SLIPS)[number];
export const SLIP_COUNT = SLIPS.length;

/** Slips under which the display is the true value times a factor; the reading is y/k under the same Gaussian. */
export const FACTORS = [-1, 1000, 1 / 1000] as const;
const MILLI = 2;
/** Stands for “no contact” and “anything else” together: both leave the reading without a say. */
export const UNRELATED = FACTORS.length;
export const LOG_2PI = Math.log(2 * Math.PI);

/** A current reading within this many standard deviations of zero shows nothing. */
const SILENT = 3;

/** What of a reading decides how it may have been mis-taken. */
export interface SlipReading {
  readonly y: number;
  /** The meter's standard deviation at what was typed, its own and what it shares; that of its last digit. */
  readonly sigma: number;
  readonly rounding: number;
  /** Its own variance at y/k, for each of the factors. */
  readonly ownAt: readonly number[];
  /** Its own variance at what was typed. */
  readonly own: number;
  /** Width of the range in which it would lie if it were "anything else". */
  readonly span: number;
  readonly isCurrent: boolean;
}

/** What priors and displays make of every reading's slips, whatever the circuit. */
export class SlipWeights {
  readonly y: Float64Array;
  readonly isPossible: boolean;
  /** log prior of a reading taken well, and of one scaled by each factor, with the Jacobian 1/|k|. */
  readonly logGood: number;
  readonly logScaled: Float64Array;
  /** log of the prior-weighted density of an unrelated reading, and the share of “no contact” in it. */
  readonly logUnrelated: Float64Array;
  readonly zeroShare: Float64Array;
  /** What a reading's own variance is more at y/k than at y, readings × factors. */
  readonly widening: Float64Array;
  /** Whether a slip by a factor would show at all, readings × factors: a reading of nothing has no sign, and a thousandth of it is as small. */
  readonly shows: Uint8Array;
  /** Current readings that all show nothing: one blown fuse in the meter spoils them together. */
  readonly spoiled: readonly number[];
  readonly logSpoiled: number;

  constructor(readings: readonly SlipReading[], priors: PriorData) {
    const m = readings.length;
    const { blunder } = priors;
    const { sign, unit, zero, other } = priors.blunderKinds;
    this.y = Float64Array.from(readings, (r) => r.y);
    this.isPossible = blunder > 0 && sign + unit + zero + other > 0;
    this.logGood = Math.log1p(-blunder);
    this.logScaled = Float64Array.from([sign, unit / 2, unit / 2], (w, k) =>
      Math.log((blunder * w) / Math.abs(FACTORS[k])),
    );
    this.logUnrelated = new Float64Array(m);
    this.zeroShare = new Float64Array(m);
    this.shows = new Uint8Array(m * UNRELATED);
    this.widening = Float64Array.from(readings.flatMap(({ own, ownAt }) => ownAt.map((at) => at - own)));
    readings.forEach(({ y, sigma, rounding, span }, i) => {
      const z = y / sigma;
      const lost = (blunder * zero * Math.exp(-0.5 * z * z)) / (sigma * Math.sqrt(2 * Math.PI));
      const anything = (blunder * other) / span;
      this.logUnrelated[i] = Math.log(lost + anything);
      this.zeroShare[i] = lost / (lost + anything) || 0;
      FACTORS.forEach((factor, kind) => {
        const isSeen = kind === MILLI ? Math.abs(y) > rounding : Math.abs(y / factor - y) > sigma;
        this.shows[i * UNRELATED + kind] = Number(isSeen);
      });
    });
    const silent = readings.flatMap(({ isCurrent, y, sigma }, i) =>
      isCurrent && Math.abs(y) <= SILENT * sigma ? [i] : [],
    );
    this.spoiled = silent.length > 1 ? silent : [];
    this.logSpoiled = this.spoiled.reduce(
      (sum, i) => {
        const { y, sigma } = readings[i];
        return sum - 0.5 * ((y / sigma) ** 2 + LOG_2PI) - Math.log(sigma);
      },
      Math.log(blunder * zero),
    );
  }
}
