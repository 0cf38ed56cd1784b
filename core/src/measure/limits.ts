import {
  DIODE_TEST,
  isDiodeTest,
  type MeterData,
  meterNameOf,
  meterOf,
  type NumericReading,
  type Quantity,
  type RangeData,
  UNIT_OF,
} from "../record/index.ts";
import { parseQuantity } from "../units/index.ts";
import { correctionOf } from "./correction.ts";

/** How a meter errs at a reading. */
export interface MeterError {
  /** Standard deviation that is this reading's own, in its unit. */
  readonly own: number;
  /** Standard deviation of the gain, as a fraction: one factor for all readings of a meter, function and range. */
  readonly gain: number;
  /** Which these are; "" where nothing is shared. */
  readonly group: string;
}

/** How many readings of the same one is the mean of. */
export const TIMES = Symbol("times");
export type Averaged = NumericReading & { readonly [TIMES]?: number };

/** Share of the variance of a meter's percentage that is one gain, the same for all readings of a range. */
const SHARED = 0.8;

/**
 * The range a reading was taken on: the one it names; else the one whose last digit it shows; else the lowest that holds
 * its value, or, where it says nothing, what was to be expected.
 */
export function rangeOf(reading: NumericReading, meter: MeterData, expected = 0): RangeData {
  const ranges = meterOf(reading, meter).ranges[reading.quantity];
  if (reading.range !== undefined) {
    const named = rangeNamed(reading.range, ranges);
    if (named) return named;
  }
  const { value, step } = reading;
  const size = Math.abs(value) > 0 || step !== undefined ? Math.abs(value) : Math.abs(expected);
  const holding = ranges.filter((r) => r.span >= size);
  if (holding.length === 0) return ranges[ranges.length - 1];
  if (step !== undefined) {
    const fine = holding.filter((r) => r.resolution <= step * (1 + 1e-9));
    const shown = fine[fine.length - 1];
    // On a range far above the value hardly a digit would be left: somebody wrote less than there was to see.
    if (shown && (size === 0 || shown.resolution * 2 >= step)) return shown;
  }
  return holding[0];
}

/** What a range is called beside a reading: `20V`, `0.2A`. */
export function rangeName(span: number, quantity: Quantity): string {
  return `${span}${UNIT_OF[quantity]}`;
}

/** The range that a text such as `20V` or `200mA` names; one that the meter does not have is taken after its nearest. */
function rangeNamed(text: string, ranges: readonly RangeData[]): RangeData | null {
  const read = parseQuantity(text);
  if (read.kind === "mistake" || !(read.value > 0)) return null;
  const distance = (r: RangeData) => Math.abs(Math.log(r.span / read.value));
  const nearest = ranges.reduce((best, r) => (distance(r) < distance(best) ? r : best));
  if (distance(nearest) < 1e-6) return nearest;
  return { ...nearest, span: read.value, resolution: (nearest.resolution / nearest.span) * read.value };
}

/**
 * Accuracy limit of a reading (two standard deviations), in its unit: what was written beside it, else percent of
 * reading plus counts of the last digit plus what a dead circuit may show; of a needle percent of the scale. Where the
 * meter was held against a known value, what is left of that counts for the gain it had in common with its other
 * readings. A reading that wandered adds half its span.
 */
export function limitOf(reading: NumericReading, meter: MeterData, range = rangeOf(reading, meter)): number {
  const written = reading.plusMinus ?? fromMeter(reading, meter, range);
  return Math.max(written + (reading.wander ?? 0), smallest(reading));
}

function fromMeter(reading: NumericReading, meter: MeterData, range: RangeData): number {
  const size = Math.abs(reading.value);
  const counts = range.counts * lastDigit(reading, meter, range) + meterOf(reading, meter).offset[reading.quantity];
  const doubt = correctionOf(reading, meter)?.doubt;
  const own = doubt === undefined ? 1 : Math.sqrt(1 - SHARED);
  const percentage = own * ((range.percent / 100) * size + scaleLimit(size, range));
  return doubt === undefined ? percentage + counts : Math.hypot(percentage + counts, doubt);
}

/** Percent of full scale; on ohms of the length of a scale with `middle` at its middle, R/(R + middle). */
function scaleLimit(size: number, { ofSpan = 0, span, middle }: RangeData): number {
  return (ofSpan / 100) * (middle === undefined ? span : (size + middle) ** 2 / middle);
}

/** The same as standard deviations: what a limit written beside a reading says is that reading's own; of a mean less of it is left. */
export function errorOf(reading: Averaged, meter: MeterData, range = rangeOf(reading, meter)): MeterError {
  const error = errorOfOne(reading, meter, range);
  const times = reading[TIMES] ?? 1;
  return times === 1 ? error : { ...error, own: error.own / Math.sqrt(times) };
}

function errorOfOne(reading: NumericReading, meter: MeterData, range: RangeData): MeterError {
  const half = limitOf(reading, meter, range) / 2;
  const size = Math.abs(reading.value);
  const group = `${meterNameOf(reading, meter)}|${reading.quantity}|${range.span}`;
  if (reading.plusMinus !== undefined) return { own: half, gain: 0, group: "" };
  const doubt = correctionOf(reading, meter)?.doubt;
  if (doubt !== undefined) {
    const shared = Math.min(doubt / 2, half * Math.sqrt(SHARED));
    if (!(size > 0) || shared === 0) return { own: half, gain: 0, group: "" };
    return { own: Math.sqrt(half * half - shared * shared), gain: shared / size, group };
  }
  if (range.percent === 0) return { own: half, gain: 0, group: "" };
  const percentage = range.percent / 200;
  const shared = SHARED * (percentage * reading.value) ** 2;
  return { own: Math.sqrt(half * half - shared), gain: Math.sqrt(SHARED) * percentage, group };
}

/** Standard deviation of rounding to the last digit, in the reading's unit. */
export function roundingOf(reading: NumericReading, range: RangeData, meter?: MeterData): number {
  return lastDigit(reading, meter, range) / Math.sqrt(12);
}

/** What the last digit stands for: as typed, on a range that was named no finer than that shows; a needle has none. */
function lastDigit(reading: NumericReading, meter: MeterData | undefined, { resolution }: RangeData): number {
  const { step, range: named } = reading;
  if (step === undefined) return resolution;
  const isNeedle = meter !== undefined && meterOf(reading, meter).isAnalogue;
  return named === undefined && !isNeedle ? step : Math.max(step, resolution);
}

/** No reading is exact: keeps covariances positive where a file says ±0. */
function smallest(reading: NumericReading): number {
  return Math.max(1e-9, Math.abs(reading.value) * 1e-9);
}

/** Where the meter shows OL: above its top ohms, or the volts of its diode test; other readings have their ranges. */
export function overLimit(reading: NumericReading, { topOhms }: MeterData): number {
  if (isDiodeTest(reading)) return DIODE_TEST.topVolts;
  return reading.quantity === "resistance" ? topOhms : Number.POSITIVE_INFINITY;
}
