import type { PriorData } from "../../faults/index.ts";
import type { NumericReading } from "../../record/index.ts";

/**
 * How a reading can be mis-taken. `kilo` and `milli`: the display's unit was read a thousand too large or too small; `ten`
 * and `tenth`: its decimal point one place off; `zero`: no contact; `exchanged`: it is that of the point before or after.
 */
export const SLIPS = ["sign", "kilo", "milli", "ten", "tenth", "zero", "other", "exchanged"] as const;
export type Slip = (typeof SLIPS)[number];
export const SLIP_COUNT = SLIPS.length;

/** Slips under which the display is the true value times a factor; the reading is y/k under the same Gaussian. */
export const FACTORS = [-1, 1000, 1 / 1000, 10, 1 / 10] as const;
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
  /** Taken with the power off: without contact it shows OL. */
  readonly isOff: boolean;
  readonly quantity: NumericReading["quantity"];
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
  readonly censored: { readonly shown: number; readonly lost: number; readonly any: number };

  constructor(readings: readonly SlipReading[], priors: PriorData) {
    const m = readings.length;
    const { blunder } = priors;
    const { sign, unit, decimal, zero, other } = priors.blunderKinds;
    this.y = Float64Array.from(readings, (r) => r.y);
    this.isPossible = blunder > 0 && sign + unit + decimal + zero + other > 0;
    this.logGood = Math.log1p(-blunder);
    this.logScaled = Float64Array.from([sign, unit / 2, unit / 2, decimal / 2, decimal / 2], (w, k) =>
      Math.log((blunder * w) / Math.abs(FACTORS[k])),
    );
    // Whatever the unit or the sign, what is beyond the range stays beyond it.
    const shown = 1 - blunder + blunder * (sign + unit + decimal);
    this.censored = { shown, lost: blunder * zero, any: (blunder * other) / 2 };
    this.logUnrelated = new Float64Array(m);
    this.zeroShare = new Float64Array(m);
    this.shows = new Uint8Array(m * UNRELATED);
    this.widening = Float64Array.from(readings.flatMap(({ own, ownAt }) => ownAt.map((at) => at - own)));
    readings.forEach(({ y, sigma, rounding, span, isOff }, i) => {
      const z = y / sigma;
      // An ohmmeter without contact shows OL, and no figure; so does a diode test.
      const isLost = isOff ? 0 : zero;
      const lost = (blunder * isLost * Math.exp(-0.5 * z * z)) / (sigma * Math.sqrt(2 * Math.PI));
      const anything = (blunder * other) / span;
      this.logUnrelated[i] = Math.log(lost + anything);
      this.zeroShare[i] = lost / (lost + anything) || 0;
      FACTORS.forEach((factor, kind) => {
        const isSeen = kind === MILLI ? Math.abs(y) > rounding : Math.abs(y / factor - y) > sigma;
        this.shows[i * UNRELATED + kind] = Number(isSeen);
      });
    });
    const silent = readings.flatMap(({ quantity, y, sigma }, i) =>
      quantity === "current" && Math.abs(y) <= SILENT * sigma ? [i] : [],
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
