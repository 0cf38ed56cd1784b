import type { Sample } from "./protocol.ts";

/** When a reading counts as steady, and is held. */
export interface HoldRule {
  /** All samples lie within so many counts of the last digit of each other. */
  readonly counts: number;
  /** For so long, in milliseconds. */
  readonly millis: number;
  /** For so long where it shows next to nothing or nothing but over range: that is what probes in the air show too. */
  readonly millisOfNothing: number;
}

export const USUAL_HOLD: HoldRule = { counts: 3, millis: 700, millisOfNothing: 2500 };

/** A held reading: the middle of what was shown while it was steady. */
export interface Held {
  readonly value: number;
  readonly isOver: boolean;
  readonly step?: number;
}

/** Below so many counts a display shows next to nothing. */
const NOTHING = 5;

/**
 * Auto-hold: a value is held once it has been steady for a while, and the next one only after a change: what is shown has
 * left the band of what was held, or the probes were said to be elsewhere. Clock in milliseconds, given with each sample.
 */
export class AutoHold {
  private band: {
    at: number;
    since: number;
    low: number;
    high: number;
    sum: number;
    count: number;
    over: boolean;
  } | null = null;
  private last: Held | null = null;

  constructor(private readonly rule: HoldRule = USUAL_HOLD) {}

  /** The probes are on other points from now on: what is steady is held, though it be the same value. */
  moved() {
    this.band = null;
    this.last = null;
  }

  /** Silence: what was steady before it does not count on. */
  broken() {
    this.band = null;
  }

  /**
   * @param resolution what the last digit stands for, where the sample does not say
   * @returns what is held by this sample, or null
   */
  take(sample: Sample, now: number, resolution = 0): Held | null {
    const step = sample.step ?? resolution;
    const width = this.rule.counts * step;
    const { band, last } = this;
    const left =
      last && (last.isOver !== sample.isOver || (!sample.isOver && Math.abs(sample.value - last.value) > 2 * width));
    if (left) this.last = null;
    const stays =
      band !== null &&
      band.over === sample.isOver &&
      (sample.isOver || Math.max(band.high, sample.value) - Math.min(band.low, sample.value) <= width * (1 + 1e-9));
    if (!stays) {
      this.band = {
        at: now,
        since: now,
        low: sample.value,
        high: sample.value,
        sum: sample.isOver ? 0 : sample.value,
        count: 1,
        over: sample.isOver,
      };
      return null;
    }
    band.low = Math.min(band.low, sample.value);
    band.high = Math.max(band.high, sample.value);
    band.sum += sample.isOver ? 0 : sample.value;
    band.count += 1;
    if (this.last) return null;
    const middle = band.sum / band.count;
    const isNothing = sample.isOver || Math.abs(middle) <= NOTHING * step;
    if (now - band.since < (isNothing ? this.rule.millisOfNothing : this.rule.millis)) return null;
    const value = sample.isOver ? sample.value : rounded(middle, step);
    this.last = { value, isOver: sample.isOver, ...(step > 0 ? { step } : {}) };
    return this.last;
  }

  /** Share of the time to the hold that is over, for a bar; 1 while held. */
  progress(now: number): number {
    if (this.last) return 1;
    return this.band ? Math.min(1, (now - this.band.since) / this.rule.millis) : 0;
  }
}

function rounded(value: number, step: number): number {
  return step > 0 ? Number((Math.round(value / step) * step).toPrecision(12)) : value;
}
