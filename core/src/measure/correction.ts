import { type MeterData, meterOf, type NumericReading, type Reading } from "../record/index.ts";

/** What a meter that was held against known values is taken to be off by. */
export interface Correction {
  /** To be added to what it shows. */
  readonly by: number;
  /** Limit of that (two standard deviations). */
  readonly doubt: number;
}

/**
 * What the meter's checks say of a reading: what it was off at the nearest known value. One value does not tell whether
 * the meter is off by so much or by such a share: the further away, up to half of the difference is in doubt.
 * @returns null of a meter that was not checked on this function, and of what another meter shows
 */
export function correctionOf(reading: NumericReading, meter: MeterData): Correction | null {
  if (reading.by !== undefined || reading.beyond !== undefined) return null;
  const size = Math.abs(reading.value);
  const checks = meterOf(reading, meter).checks.filter((c) => c.quantity === reading.quantity);
  if (checks.length === 0) return null;
  const off = (known: number) => Math.abs(Math.log((size + 1e-12) / (Math.abs(known) + 1e-12)));
  const { known, shown, plusMinus } = checks.reduce((best, c) => (off(c.known) < off(best.known) ? c : best));
  const by = known - shown;
  const share = known === 0 ? 1 : Math.min(2, size / Math.abs(known));
  // The sign goes with the leads: with them the other way round, the same share is off the other way.
  const isTurned = known !== 0 && reading.value * known < 0;
  return { by: isTurned ? -by : by, doubt: Math.hypot(plusMinus, (by * (share - 1)) / 2) };
}

/** A reading as the meter would have shown it, had it not been off by what its checks say. */
export function corrected<R extends Reading>(reading: R, meter: MeterData): R {
  if (reading.quantity === "observation") return reading;
  const correction = correctionOf(reading, meter);
  return correction ? { ...reading, value: Number((reading.value + correction.by).toPrecision(12)) } : reading;
}
