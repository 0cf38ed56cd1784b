import { errorOf, type Probe, roundingOf } from "../../measure/index.ts";
import { isUnpowered, type MeterData, type NumericReading } from "../../record/index.ts";
import { FACTORS, type SlipReading } from "./slips.ts";

/** A numeric reading as the evidence takes it. */
export interface Reader extends SlipReading {
  readonly beyond: "over" | "under" | "none";
  /** The leads' ohms are in it, where nobody took them off. */
  readonly hasLeads: boolean;
  /** Its place among all readings of the job, and what it has to share with the one before for their points to be exchanged. */
  readonly place: number;
  readonly like: string;
  /** The point, or the part. */
  readonly at: string;
}

/**
 * What a reading is to the evidence. One that slipped by a factor was shown as y/k, and the meter erred as it does there;
 * a limit that was written beside it belongs to the number as written.
 */
export function readerOf(
  { reading, range, error, setting }: Probe,
  meter: MeterData,
  span: number,
  place: number,
): Reader {
  const { value: y, step, beyond = "none" } = reading;
  const rounding = roundingOf(reading, range, meter);
  const own = error.own ** 2;
  const ownAt = FACTORS.map((factor) => {
    if (reading.plusMinus !== undefined) return own / factor ** 2;
    const digits = step === undefined ? {} : { step: step / Math.abs(factor) };
    const wander = reading.wander === undefined ? {} : { wander: reading.wander / Math.abs(factor) };
    return errorOf({ ...reading, ...digits, ...wander, value: y / factor }, meter).own ** 2;
  });
  const sigma = Math.hypot(error.own, error.gain * y);
  const { quantity, nulled = false } = reading;
  const isOff = isUnpowered(reading);
  const hasLeads = quantity === "resistance" && !nulled;
  const like = `${quantity} ${isOff} ${setting} ${reading.meter ?? ""} ${reading.by ?? ""}`;
  return { y, sigma, rounding, own, ownAt, span, quantity, isOff, beyond, hasLeads, place, like, at: pointOf(reading) };
}

function pointOf(reading: NumericReading): string {
  if (reading.quantity === "current") return reading.through;
  if (reading.lifted !== undefined) return `${reading.lifted} lifted`;
  return `${reading.from ?? ""} ${reading.to ?? ""}`;
}
