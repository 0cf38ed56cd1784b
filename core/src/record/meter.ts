import { z } from "zod";

/** Accuracy of a range: percent of reading plus counts of the last digit, and of a needle percent of full scale. */
export const Accuracy = z.looseObject({
  percent: z.number().nonnegative(),
  counts: z.number().nonnegative(),
  ofSpan: z.number().nonnegative().optional(),
});
export type Accuracy = z.infer<typeof Accuracy>;

const positive = z.number().positive();
const InputResistance = z.union([positive, z.literal("ideal")]);
const Name = z.string().trim().min(1).max(40);

/** One range of a meter; what is left out is as for the whole function. */
const range = {
  /** Full scale, and what the last digit stands for there. */
  span: positive,
  resolution: positive.optional(),
  accuracy: Accuracy.optional(),
  /** The socket for the red lead. */
  socket: Name.optional(),
};

/** The meter held against something that is known: `reads 4.98 V at 5.00 ± 0.005 V`. */
export const MeterCheck = z.looseObject({
  quantity: z.enum(["voltage", "current", "resistance"]),
  known: z.number(),
  shown: z.number(),
  /** Limit of what is known (two standard deviations). */
  plusMinus: z.number().nonnegative().default(0),
  at: z.string().optional(),
});
export type MeterCheck = z.infer<typeof MeterCheck>;

const MeterAlone = z.looseObject({
  name: z.string().max(80).optional(),
  /** A needle over a scale: volts load by `ohmsPerVolt`, and it has no digits. */
  analogue: z.boolean().optional(),
  /** Has a position of its dial for each range, or one for each function and finds its range itself. */
  dial: z.enum(["ranges", "functions"]).optional(),
  /** The socket for the black lead. */
  common: Name.optional(),
  /** Ohms of both leads together, and the volts that they are made for. */
  leads: z.looseObject({ ohms: z.number().nonnegative().optional(), volts: positive.optional() }).optional(),
  /** Overvoltage category (IEC 61010) and the volts that go with it. */
  category: z.looseObject({ class: z.enum(["II", "III", "IV"]).optional(), volts: positive }).optional(),
  checks: z.array(MeterCheck).max(60).optional(),
  voltage: z
    .looseObject({
      inputResistance: InputResistance.optional(),
      /** Of a needle: the input is this many ohms for each volt of the range's span. */
      ohmsPerVolt: positive.optional(),
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
      ranges: z.array(z.looseObject({ ...range, middle: positive.optional() })).optional(),
    })
    .optional(),
});

/** A meter as the model sees it; every key left out takes its default. SI units. */
export const Meter = z.looseObject({
  ...MeterAlone.shape,
  /** Further meters of the job: a reading names the one it was taken with. */
  others: z.array(MeterAlone).max(20).optional(),
});
export type Meter = z.infer<typeof Meter>;
