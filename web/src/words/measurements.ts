import type { Measurement } from "@hound/core/plan";
import { isDiodeTest } from "@hound/core/record";
import type { Doing } from "@hound/core/safety";
import { printNumber } from "./print.ts";

/** What is to be measured, in two: how, and where. */
export function measurementWords(measurement: Measurement): { readonly how: string; readonly where: string } {
  if (!("reading" in measurement)) {
    const how = { swap: "a known-good part for", look: "look at", alone: "alone on the supply:" }[measurement.kind];
    return { how, where: measurement.part };
  }
  const { reading } = measurement;
  switch (reading.quantity) {
    case "voltage":
      if (isDiodeTest(reading))
        return reading.lifted === undefined
          ? { how: "diode test from", where: `${reading.from} to ${reading.to ?? "0"}` }
          : { how: "lift a lead and diode-test", where: reading.lifted };
      return reading.to === undefined
        ? { how: "volts at", where: reading.from }
        : { how: "volts from", where: `${reading.from} to ${reading.to}` };
    case "current":
      return { how: "amperes through", where: reading.through };
    case "resistance":
      return reading.lifted === undefined
        ? { how: "ohms from", where: `${reading.from} to ${reading.to ?? "0"}` }
        : { how: "lift a lead and take the ohms of", where: reading.lifted };
    default:
      return reading satisfies never;
  }
}

/** What somebody does who takes it, as far as it matters for cautions. */
export function doingOf(measurement: Measurement): Doing {
  const { kind } = measurement;
  if (!("reading" in measurement)) return { kind: measurement.kind, part: measurement.part };
  const { reading } = measurement;
  const part = reading.quantity === "current" ? reading.through : reading.lifted;
  return { kind, ...(part === undefined ? {} : { part }) };
}

/** `half a minute`, `4 minutes`: as long as it usually takes. */
export function minutesWords(minutes: number): string {
  if (minutes <= 0) return "";
  if (minutes < 0.4) return "a glance";
  if (minutes < 0.8) return "½\u00a0min";
  return `${printNumber(minutes, 2)}\u00a0min`;
}
