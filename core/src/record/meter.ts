import { z } from "zod";

/** Accuracy of a range: percent of reading plus counts of the last digit. */
export const Accuracy = z.looseObject({ percent: z.number().nonnegative(), counts: z.number().nonnegative() });
export type Accuracy = z.infer<typeof Accuracy>;

/** A meter as the model sees it; every key left out takes its default. SI units. */
export const Meter = z.looseObject({
  name: z.string().optional(),
  voltage: z
    .looseObject({
      inputResistance: z.union([z.number().positive(), z.literal("ideal")]).optional(),
      accuracy: Accuracy.optional(),
    })
    .optional(),
  current: z
    .looseObject({ burdenResistance: z.number().nonnegative().optional(), accuracy: Accuracy.optional() })
    .optional(),
  resistance: z
    .looseObject({
      /** Ohms above which the display shows OL. */
      top: z.number().positive().optional(),
      /** Ohms below which the continuity buzzer sounds. */
      beepsBelow: z.number().positive().optional(),
      /** What becomes of the supplies: disconnected, or left in as their internal resistance. */
      supplies: z.enum(["disconnected", "internal"]).optional(),
      accuracy: Accuracy.optional(),
    })
    .optional(),
});
export type Meter = z.infer<typeof Meter>;

export interface MeterData {
  /** Ohms; Infinity for an ideal meter. */
  readonly inputOhms: number;
  readonly burdenOhms: number;
  readonly topOhms: number;
  readonly beepsBelow: number;
  readonly supplies: "disconnected" | "internal";
  readonly accuracy: Readonly<Record<"voltage" | "current" | "resistance", Accuracy>>;
}

/** A common handheld meter: 10 MΩ on volts, 1 Ω in series on amperes. */
export const DEFAULT_METER: MeterData = {
  inputOhms: 1e7,
  burdenOhms: 1,
  topOhms: 4e7,
  beepsBelow: 30,
  supplies: "disconnected",
  accuracy: {
    voltage: { percent: 0.5, counts: 2 },
    current: { percent: 1, counts: 3 },
    resistance: { percent: 0.8, counts: 3 },
  },
};

/** The meter with its defaults filled in. */
export function meterData(meter: Meter = {}): MeterData {
  const input = meter.voltage?.inputResistance;
  return {
    inputOhms: input === "ideal" ? Number.POSITIVE_INFINITY : (input ?? DEFAULT_METER.inputOhms),
    burdenOhms: meter.current?.burdenResistance ?? DEFAULT_METER.burdenOhms,
    topOhms: meter.resistance?.top ?? DEFAULT_METER.topOhms,
    beepsBelow: meter.resistance?.beepsBelow ?? DEFAULT_METER.beepsBelow,
    supplies: meter.resistance?.supplies ?? DEFAULT_METER.supplies,
    accuracy: {
      voltage: meter.voltage?.accuracy ?? DEFAULT_METER.accuracy.voltage,
      current: meter.current?.accuracy ?? DEFAULT_METER.accuracy.current,
      resistance: meter.resistance?.accuracy ?? DEFAULT_METER.accuracy.resistance,
    },
  };
}
