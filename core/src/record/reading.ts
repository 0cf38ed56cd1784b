import { z } from "zod";
import { NodeName } from "../circuit/index.ts";
import { Configuration } from "../configuration/index.ts";

/** What the eye, the ear or a finger can tell about a part. */
export const SEEN = {
  dark: "is dark",
  dim: "glows dimly",
  lit: "is lit",
  bright: "is too bright",
  blown: "is blown",
  intact: "looks intact",
  hot: "is hot",
  burnt: "is burnt",
  loose: "is loose",
  silent: "is silent",
  pulls: "pulls in",
  runs: "runs",
  cold: "stays cold",
  works: "works",
} as const;
export type Seen = keyof typeof SEEN;

const common = {
  /** Accuracy limit in the reading's unit (two standard deviations); left out, the meter's own data give it. */
  plusMinus: z.number().nonnegative().optional(),
  /** Half the span between which the display wandered. */
  wander: z.number().nonnegative().optional(),
  /** Weight of the last digit typed. */
  step: z.number().positive().optional(),
  /** The line as it was typed. */
  typed: z.string().max(200).optional(),
  meter: z.string().optional(),
  /** The meter drawn in the circuit that shows it: nothing else loads the circuit then. */
  by: z.string().optional(),
  /** The leads' ohms were taken off. */
  nulled: z.boolean().optional(),
  range: z.string().optional(),
  /** How the circuit stood when it was taken. */
  state: Configuration.optional(),
  note: z.string().max(2000).optional(),
  /** Asked about when it was entered, as hardly likely, and recorded all the same. */
  doubted: z.boolean().optional(),
  takenAt: z.string().optional(),
  /** Who took it. */
  who: z.string().max(80).optional(),
};
const value = z.number();
/** The display showed that the value lies beyond this one: OL, or below what the range resolves. */
const beyond = z.enum(["over", "under"]).optional();

/** One reading, base SI units. Unknown keys are kept, so that a file survives a round trip. */
export const Reading = z.discriminatedUnion("quantity", [
  z.looseObject({
    quantity: z.literal("voltage"),
    from: NodeName,
    to: NodeName.optional(),
    value,
    beyond,
    /** With the power off, by the meter's own small current from `from` to `to`: a diode test. */
    test: z.literal("diode").optional(),
    /** The part itself, with one lead lifted; of a diode test alone. */
    lifted: z.string().optional(),
    ...common,
  }),
  z.looseObject({ quantity: z.literal("current"), through: z.string(), value, beyond, ...common }),
  z.looseObject({
    quantity: z.literal("resistance"),
    from: NodeName.optional(),
    to: NodeName.optional(),
    /** The part itself, with one lead lifted. */
    lifted: z.string().optional(),
    value,
    beyond,
    ...common,
  }),
  z.looseObject({
    quantity: z.literal("observation"),
    part: z.string(),
    seen: z.enum(Object.keys(SEEN) as [Seen, ...Seen[]]),
    /** The part alone, held directly to the supply. */
    alone: z.boolean().optional(),
    ...common,
  }),
]);
export type Reading = z.infer<typeof Reading>;
export type NumericReading = Exclude<Reading, { quantity: "observation" }>;

/** Whether a reading is taken by the meter's diode test. */
export const isDiodeTest = (reading: Reading): boolean => reading.quantity === "voltage" && reading.test === "diode";
/** Whether a reading is volts of the circuit: not those that a diode test brings about. */
export const isVolts = (reading: Reading): reading is Extract<Reading, { quantity: "voltage" }> =>
  reading.quantity === "voltage" && reading.test === undefined;
/** Whether a reading is taken with the power off: without contact it shows OL, and no meter loads it. */
export const isUnpowered = (reading: Reading): boolean => reading.quantity === "resistance" || isDiodeTest(reading);
/** Amperes that a meter's diode test sends, and volts at which it shows OL: what handheld ones do. */
export const DIODE_TEST = { amps: 1e-3, topVolts: 3 } as const;
