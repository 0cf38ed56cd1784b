import type { MeterData, NumericReading } from "../record/index.ts";
import { corrected } from "./correction.ts";
import { limitOf } from "./limits.ts";

/** How far a reading lies from what it should be. */
export interface Deviation {
  /** In limits: within ±1 it agrees; negative is low. */
  readonly limits: number;
  /** −1 low, 1 high, 0 where it agrees. */
  readonly side: -1 | 0 | 1;
}

/** What a reading should be. */
interface Due {
  readonly value: number;
  readonly plusMinus: number;
  readonly drawn?: { readonly likely: { readonly low: number; readonly high: number } };
}

/** How far it may be off to that side. */
function allowed({ value, plusMinus, drawn }: Due, off: number): number {
  if (!drawn) return plusMinus;
  return Math.max(0, off < 0 ? value - drawn.likely.low : drawn.likely.high - value);
}

/**
 * A reading beside a prediction, in two standard deviations of what tolerances and the meter make of it together.
 * @param due what it should be, and two standard deviations of that; or its limits, where they are not as wide either way
 * @param meter whose error comes on top; null where it is in `due` already
 */
export function deviationOf(reading: NumericReading, due: Due, meter: MeterData | null): Deviation {
  const off = (meter ? corrected(reading, meter) : reading).value - due.value;
  const limit = Math.hypot(allowed(due, off), meter ? limitOf(reading, meter) : 0);
  const limits = limit > 0 ? off / limit : 0;
  return { limits, side: Math.abs(limits) <= 1 ? 0 : limits > 0 ? 1 : -1 };
}
