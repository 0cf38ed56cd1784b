import type { Reading } from "../../record/index.ts";

/** Values beyond these are no readings of any meter: they would leave no digits to anything else. */
const LARGEST = { voltage: 1e9, current: 1e9, resistance: 1e15 } as const;
const UNITS = { voltage: "V", current: "A", resistance: "\u03a9" } as const;

/** The first reading that cannot be computed with, and why; null where all can. */
export function troubleWith(readings: readonly Reading[]): { readonly index: number; readonly message: string } | null {
  for (let index = 0; index < readings.length; index += 1) {
    const reading = readings[index];
    if (reading.quantity === "observation") continue;
    const { quantity, value, plusMinus, wander, step } = reading;
    const most = LARGEST[quantity];
    const unit = UNITS[quantity];
    if (!(Math.abs(value) <= most))
      return { index, message: `${value} ${unit} is more than any meter shows (at most ${most} ${unit})` };
    for (const [name, size] of Object.entries({ plusMinus, wander, step }))
      if (size !== undefined && !(size <= most))
        return { index, message: `${name} of ${size} ${unit} is no limit of a reading (at most ${most} ${unit})` };
  }
  return null;
}
