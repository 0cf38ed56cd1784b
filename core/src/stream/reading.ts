import { meterData, type NumericReading, type Quantity } from "../record/index.ts";
import type { Held } from "./hold.ts";
import type { Sample } from "./protocol.ts";

/** What the last digit of a sample stands for: as its digits tell, else as a common meter has it. */
export function stepOf({ step, value }: Sample, quantity: Quantity): number {
  if (step !== undefined) return step;
  const ranges = meterData().ranges[quantity];
  return (ranges.find((r) => r.span >= Math.abs(value)) ?? ranges[ranges.length - 1]).resolution;
}

/**
 * What was held, as a reading at a point. Over range says something of ohms alone: more than the point's value, the top of
 * the meter.
 */
export function readingAt(point: NumericReading, { value, isOver, step }: Held): NumericReading | null {
  const { typed: _, step: __, ...place } = point;
  if (isOver) return point.quantity === "resistance" ? { ...place, beyond: "over" } : null;
  return { ...place, value, ...(step ? { step } : {}) };
}
