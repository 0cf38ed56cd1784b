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

/**
 * A reading beside a prediction, in two standard deviations of what tolerances and the meter make of it together.
 * @param due what it should be, and two standard deviations of that
 * @param meter whose error comes on top; null where it is in `due` already
 */
export function deviationOf(
  reading: NumericReading,
  due: { readonly value: number; readonly plusMinus: number },
  meter: MeterData | null,
): Deviation {
  const limit = Math.hypot(due.plusMinus, meter ? limitOf(reading, meter) : 0);
  const limits = limit > 0 ? ((meter ? corrected(reading, meter) : reading).value - due.value) / limit : 0;
  return { limits, side: Math.abs(limits) <= 1 ? 0 : limits > 0 ? 1 : -1 };
}
