import { z } from "zod";
import { NodeName } from "../circuit/index.ts";
import { Reading } from "../record/index.ts";

/** What a lead is held to: a node, or the end of a part that was freed there (`R3.end`). */
export const Touch = z.string().max(80);
export type Touch = z.infer<typeof Touch>;

/** The end of a part that was freed from its node. */
export const freedEnd = (part: string): Touch => `${part}.end`;

const Name = z.string().max(80);
const QuantityName = z.enum(["voltage", "current", "resistance"]);
/** What the dial can be turned to: what is read, or the diode test. */
export const DialPlace = z.enum([...QuantityName.options, "diode"]);
export type DialPlace = z.infer<typeof DialPlace>;

/** One thing done at the stand-in bench. */
export const Act = z.discriminatedUnion("act", [
  /** The dial: a function and its range; null leaves the range to the meter. */
  z.strictObject({ act: z.literal("dial"), quantity: DialPlace, span: z.number().positive().nullable() }),
  /** The socket that the red lead is plugged into; black stays in the common one. */
  z.strictObject({ act: z.literal("plug"), socket: Name }),
  z.strictObject({ act: z.literal("touch"), lead: z.enum(["red", "black"]), at: Touch.nullable() }),
  z.strictObject({ act: z.literal("power"), on: z.boolean() }),
  /** One lead of a part is freed from its node, so that a meter can go between; and put back. */
  z.strictObject({ act: z.literal("free"), part: Name }),
  z.strictObject({ act: z.literal("join"), part: Name }),
  z.strictObject({ act: z.literal("lever"), part: Name, position: z.enum(["open", "closed"]) }),
  z.strictObject({ act: z.literal("swap"), part: Name }),
  z.strictObject({ act: z.literal("alone"), part: Name }),
  z.strictObject({ act: z.literal("look"), part: Name }),
  /** The ohms of the leads, held together, are taken off from now on. */
  z.strictObject({ act: z.literal("null") }),
  /** The tips are held with bare fingers, or not. */
  z.strictObject({ act: z.literal("fingers"), on: z.boolean() }),
  /** The meter's own fuse of a socket is replaced. */
  z.strictObject({ act: z.literal("fuse"), socket: Name }),
  /** What the display shows is written down. */
  z.strictObject({ act: z.literal("take") }),
  z.strictObject({ act: z.literal("hint") }),
]);
export type Act = z.infer<typeof Act>;
export type ActName = Act["act"];

/** Minutes of each act that takes any: with the planner's own, so that both are counted alike. */
export const Costs = z.strictObject({
  take: z.number().min(0).max(600),
  look: z.number().min(0).max(600),
  power: z.number().min(0).max(600),
  free: z.number().min(0).max(600),
  swap: z.number().min(0).max(600),
  alone: z.number().min(0).max(600),
  lever: z.number().min(0).max(600),
  null: z.number().min(0).max(600),
  fuse: z.number().min(0).max(600),
  hint: z.number().min(0).max(600),
});
export type Costs = z.infer<typeof Costs>;

/**
 * Volts ½, ohms 2 (power off and discharge besides), a current 4½ and a lead lifted 4½ (a lead freed and put back besides),
 * a look ¼, a swap 6: about what the planner counts.
 */
export const COSTS: Costs = {
  take: 0.5,
  look: 0.25,
  power: 1.5,
  free: 2.5,
  swap: 6,
  alone: 6,
  lever: 0.25,
  null: 0.25,
  fuse: 5,
  hint: 2,
};

/** How the bench stands, as whoever sits at it knows it. */
export const BenchNow = z.strictObject({
  dial: z.strictObject({ quantity: DialPlace, span: z.number().nullable() }),
  socket: Name,
  red: Touch.nullable(),
  black: Touch.nullable(),
  power: z.boolean(),
  /** Parts with a lead off, and the node it came from. */
  freed: z.array(z.strictObject({ part: Name, at: NodeName })),
  levers: z.record(Name, z.enum(["open", "closed"])),
  swapped: z.array(Name),
  nulled: z.boolean(),
  fingers: z.boolean(),
  minutes: z.number(),
});
export type BenchNow = z.infer<typeof BenchNow>;

/** What happened that somebody at a bench hears, sees or should not have done; each worded in one table. */
export const TRAPS = {
  meterFuse:
    "The meter's own fuse is gone: that was far more current than its socket holds. It shows nothing there until it is replaced.",
  circuitFuse: "That was a short: a fuse of the circuit may have gone as well.",
  across:
    "The meter lies across two points while set to amperes: it is a short between them. In a branch, never across.",
  wrongSocket: "Red is in a current socket, and the dial is not on amperes: the meter is a short between its leads.",
  voltSocket:
    "The dial is on amperes, and red is in the socket for volts: nothing flows through the meter, it shows nothing.",
  otherSocket: "Red is in another current socket than the range belongs to: it shows nothing.",
  liveOhms: "Ohms or a diode were tested with the power on: what is shown is nonsense, and can harm the meter.",
  liveFree: "A lead was opened with the power on. Power off and discharged first.",
  kick: "A coil kicks with a high voltage when it is opened under current. Power off first.",
  fingersLive: "Bare fingers on the tips at a voltage that can hurt. Behind the guards of the probes, always.",
  fingers: "Fingers on both tips: the body lies in parallel.",
  overRange: "More than the range holds: OL.",
  overRating: "More volts than the meter or its leads are made for.",
  leftOpen: "A lead is still off elsewhere: the circuit is not as drawn.",
  noReading: "That is no reading of a place in the circuit: it is shown, and goes into no list.",
  minus: "Minus: red and black are the other way round.",
} as const;
export const Trap = z.enum(Object.keys(TRAPS) as [keyof typeof TRAPS, ...(keyof typeof TRAPS)[]]);
export type Trap = z.infer<typeof Trap>;

/** Traps that can hurt somebody or break something: they are told whatever help is asked for, and counted in the marks. */
export const UNSAFE: ReadonlySet<Trap> = new Set([
  "meterFuse",
  "circuitFuse",
  "across",
  "wrongSocket",
  "liveOhms",
  "liveFree",
  "kick",
  "fingersLive",
  "overRating",
]);

/** What the display shows. */
export const Display = z.strictObject({
  quantity: QuantityName,
  value: z.number(),
  isOver: z.boolean(),
  /** What its last digit stands for. */
  step: z.number(),
  /** Full scale of the range it is on. */
  span: z.number(),
});
export type Display = z.infer<typeof Display>;

/** What an act brings: the bench afterwards, its display, what was written down, what went wrong. */
export const Told = z.strictObject({
  now: BenchNow,
  display: Display,
  reading: Reading.nullable(),
  traps: z.array(Trap),
  /** Why it could not be done at all; null where it was. */
  refused: z.string().nullable(),
});
export type Told = z.infer<typeof Told>;
