import type { MeterData, NumericReading } from "../record/index.ts";

/**
 * Accuracy limit of a reading (two standard deviations), in its unit: what was written beside it, else percent of
 * reading plus counts of the last digit. A reading that wandered adds half its span.
 */
export function limitOf(reading: NumericReading, meter: MeterData): number {
  const written = reading.plusMinus ?? fromMeter(reading, meter);
  return Math.max(written + (reading.wander ?? 0), smallest(reading));
}

function fromMeter(reading: NumericReading, meter: MeterData): number {
  const accuracy = meter.accuracy[reading.quantity];
  return (accuracy.percent / 100) * Math.abs(reading.value) + accuracy.counts * (reading.step ?? usualStep(reading));
}

/** Standard deviation of rounding to the last digit, in the reading's unit. */
export function roundingOf(reading: NumericReading): number {
  return (reading.step ?? usualStep(reading)) / Math.sqrt(12);
}

/** Full scale of a common meter's lowest range, in volts, amperes, ohms. */
export const LOWEST_RANGE = { voltage: 0.2, current: 2e-3, resistance: 200 } as const;

/** Last digit of a display of 2,000 counts on the lowest range that holds the value. */
function usualStep({ value, quantity }: NumericReading): number {
  const size = Math.max(Math.abs(value), LOWEST_RANGE[quantity]);
  return 10 ** (Math.ceil(Math.log10(size / 2)) - 3);
}

/** No reading is exact: keeps covariances positive where a file says ±0. */
function smallest(reading: NumericReading): number {
  return Math.max(1e-9, Math.abs(reading.value) * 1e-9);
}
