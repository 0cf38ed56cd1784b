import { errorOf, type Probe, roundingOf } from "../../measure/index.ts";
import type { MeterData } from "../../record/index.ts";
import { FACTORS, type SlipReading } from "./slips.ts";

/** A numeric reading as the evidence takes it. */
export interface Reader extends SlipReading {
  readonly beyond: "over" | "under" | "none";
  /** The leads' ohms are in it, where nobody took them off. */
  readonly hasLeads: boolean;
}

/**
 * What a reading is to the evidence. One that slipped by a factor was shown as y/k, and the meter erred as it does there;
 * a limit that was written beside it holds for what was shown, but a thousandth of it was rounded where it was typed.
 */
export function readerOf({ reading, range, error }: Probe, meter: MeterData, span: number): Reader {
  const { value: y, step, beyond = "none" } = reading;
  const rounding = roundingOf(reading, range, meter);
  const own = error.own ** 2;
  const ownAt = FACTORS.map((factor) => {
    if (reading.plusMinus !== undefined) return own + (Math.abs(factor) < 1 ? (rounding / factor) ** 2 : 0);
    const digits = step === undefined ? {} : { step: step / Math.abs(factor) };
    const wander = reading.wander === undefined ? {} : { wander: reading.wander / Math.abs(factor) };
    return errorOf({ ...reading, ...digits, ...wander, value: y / factor }, meter).own ** 2;
  });
  const sigma = Math.hypot(error.own, error.gain * y);
  const { quantity, nulled = false } = reading;
  const hasLeads = quantity === "resistance" && !nulled;
  return { y, sigma, rounding, own, ownAt, span, isCurrent: quantity === "current", beyond, hasLeads };
}
