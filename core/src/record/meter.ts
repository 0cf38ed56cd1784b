import { z } from "zod";

/** Accuracy of a range: percent of reading plus counts of the last digit. */
export const Accuracy = z.looseObject({ percent: z.number().nonnegative(), counts: z.number().nonnegative() });
export type Accuracy = z.infer<typeof Accuracy>;

const positive = z.number().positive();
const InputResistance = z.union([positive, z.literal("ideal")]);

/** One range of a meter; what is left out is as for the whole function. */
const range = {
  /** Full scale, and what the last digit stands for there. */
  span: positive,
  resolution: positive.optional(),
  accuracy: Accuracy.optional(),
};

/** A meter as the model sees it; every key left out takes its default. SI units. */
export const Meter = z.looseObject({
  name: z.string().optional(),
  voltage: z
    .looseObject({
      inputResistance: InputResistance.optional(),
      accuracy: Accuracy.optional(),
      /** Volts that a dead circuit may show. */
      offset: z.number().nonnegative().optional(),
      ranges: z.array(z.looseObject({ ...range, inputResistance: InputResistance.optional() })).optional(),
    })
    .optional(),
  current: z
    .looseObject({
      burdenResistance: z.number().nonnegative().optional(),
      accuracy: Accuracy.optional(),
      offset: z.number().nonnegative().optional(),
      ranges: z
        .array(
          z.looseObject({
            ...range,
            burdenResistance: z.number().nonnegative().optional(),
            /** Amperes of its own fuse. */
            fuse: positive.optional(),
          }),
        )
        .optional(),
    })
    .optional(),
  resistance: z
    .looseObject({
      /** Ohms above which the display shows OL. */
      top: positive.optional(),
      /** Ohms below which the continuity buzzer sounds. */
      beepsBelow: positive.optional(),
      /** What becomes of the supplies: disconnected, or left in as their internal resistance. */
      supplies: z.enum(["disconnected", "internal"]).optional(),
      accuracy: Accuracy.optional(),
      offset: z.number().nonnegative().optional(),
      ranges: z.array(z.looseObject(range)).optional(),
    })
    .optional(),
});
export type Meter = z.infer<typeof Meter>;

export type Quantity = "voltage" | "current" | "resistance";

/** One range with everything filled in. */
export interface RangeData extends Accuracy {
  readonly span: number;
  readonly resolution: number;
  /** Ohms of its input on volts (Infinity: ideal), of its burden on amperes; 0 on ohms. */
  readonly ohms: number;
  readonly fuse?: number;
}

export interface MeterData {
  readonly name: string;
  /** Of each function, lowest span first. */
  readonly ranges: Readonly<Record<Quantity, readonly RangeData[]>>;
  /** What a dead circuit may show, in each function's unit. */
  readonly offset: Readonly<Record<Quantity, number>>;
  /** Ohms of the input on its usual range (Infinity: ideal), and of the burden on the ranges for milliamperes. */
  readonly inputOhms: number;
  readonly burdenOhms: number;
  readonly topOhms: number;
  readonly beepsBelow: number;
  readonly supplies: "disconnected" | "internal";
  readonly accuracy: Readonly<Record<Quantity, Accuracy>>;
}

/** Counts of a common display. */
const COUNTS = 2000;

/** A common handheld meter: 10 MΩ on volts; in series on amperes 1 Ω, and 20 mΩ on its range of 10 A. */
const USUAL = {
  inputOhms: 1e7,
  burdenOhms: 1,
  highBurdenOhms: 0.02,
  topOhms: 4e7,
  beepsBelow: 30,
  spans: {
    voltage: [0.2, 2, 20, 200, 1000],
    current: [2e-3, 2e-2, 0.2, 10],
    resistance: [200, 2e3, 2e4, 2e5, 2e6, 4e7],
  },
  offset: { voltage: 5e-3, current: 5e-6, resistance: 0.05 },
  accuracy: {
    voltage: { percent: 0.5, counts: 2 },
    current: { percent: 1, counts: 3 },
    resistance: { percent: 0.8, counts: 3 },
  },
} as const;
/** Spans above this are those of the socket for amperes. */
const HIGH_CURRENT = 1;

/** The meter with its defaults filled in. */
export function meterData(meter: Meter = {}): MeterData {
  const ohmsOf = (input: number | "ideal" | undefined) => (input === "ideal" ? Number.POSITIVE_INFINITY : input);
  const inputOhms = ohmsOf(meter.voltage?.inputResistance) ?? USUAL.inputOhms;
  const burden = meter.current?.burdenResistance;
  const burdenOf = (span: number) => burden ?? (span > HIGH_CURRENT ? USUAL.highBurdenOhms : USUAL.burdenOhms);
  const accuracyOf = (quantity: Quantity) => meter[quantity]?.accuracy ?? USUAL.accuracy[quantity];
  const rangesOf = (quantity: Quantity, ohms: (span: number, at: number) => number): RangeData[] =>
    (meter[quantity]?.ranges ?? USUAL.spans[quantity].map((span) => ({ span })))
      .map((own, at): RangeData => {
        const { span, resolution, accuracy, fuse } = own as { fuse?: number } & NonNullable<
          NonNullable<Meter["resistance"]>["ranges"]
        >[number];
        const { percent, counts } = accuracy ?? accuracyOf(quantity);
        const last = resolution ?? resolutionOf(span);
        return { span, resolution: last, percent, counts, ohms: ohms(span, at), ...(fuse ? { fuse } : {}) };
      })
      .sort((a, b) => a.span - b.span);
  const { voltage, current, resistance } = meter;
  return {
    name: meter.name ?? "",
    ranges: {
      voltage: rangesOf("voltage", (_, at) => ohmsOf(voltage?.ranges?.[at]?.inputResistance) ?? inputOhms),
      current: rangesOf("current", (span, at) => current?.ranges?.[at]?.burdenResistance ?? burdenOf(span)),
      resistance: rangesOf("resistance", () => 0),
    },
    offset: {
      voltage: voltage?.offset ?? USUAL.offset.voltage,
      current: current?.offset ?? USUAL.offset.current,
      resistance: resistance?.offset ?? USUAL.offset.resistance,
    },
    inputOhms,
    burdenOhms: burdenOf(0),
    topOhms: resistance?.top ?? USUAL.topOhms,
    beepsBelow: resistance?.beepsBelow ?? USUAL.beepsBelow,
    supplies: resistance?.supplies ?? "disconnected",
    accuracy: {
      voltage: accuracyOf("voltage"),
      current: accuracyOf("current"),
      resistance: accuracyOf("resistance"),
    },
  };
}

/** What the last digit of a display of 2,000 counts stands for: a power of ten. */
function resolutionOf(span: number): number {
  return Number(`1e${Math.ceil(Math.log10(span / COUNTS) - 1e-9)}`);
}

/** The same meter as if it were not there: it loads nothing, and drops nothing. */
export function idealMeter(meter: Meter): Meter {
  const { voltage, current } = meter;
  const rangesOf = (ranges: readonly object[] | undefined, own: object) =>
    ranges ? { ranges: ranges.map((r) => ({ ...r, ...own })) } : {};
  return {
    ...meter,
    voltage: {
      ...voltage,
      inputResistance: "ideal",
      ...rangesOf(voltage?.ranges, { inputResistance: "ideal" }),
    } as Meter["voltage"],
    current: {
      ...current,
      burdenResistance: 0,
      ...rangesOf(current?.ranges, { burdenResistance: 0 }),
    } as Meter["current"],
  };
}
