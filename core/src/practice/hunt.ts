import { z } from "zod";
import { Meter, Reading, TEXT_LIMITS } from "../record/index.ts";
import { Act, BenchNow, COSTS, Costs, Display } from "./acts.ts";
import { DoneAct, Naming } from "./marks.ts";
import { FaultCount, FaultKind, HiddenFault } from "./world.ts";

/** What travels between server and pages of a hunt: never, before it is over, what is hidden. */

/** How much help there is: all of it; the next step on request, each at its price; none. */
export const HELP = {
  all: "All of it: suspects, what to read next, warnings",
  hints: "On request: each hint costs minutes",
  none: "None",
} as const;
export const Help = z.enum(["all", "hints", "none"]);
export type Help = z.infer<typeof Help>;

/** Acts that a hunt takes at most, and parts its circuit may have. */
export const MOST_ACTS = 500;
export const MOST_PARTS = 60;

const Options = {
  kinds: z.array(FaultKind).max(4).default([]),
  count: FaultCount.default("one"),
  /** Parts that may fail; none: any. */
  parts: z.array(z.string().max(80)).max(MOST_PARTS).default([]),
  help: Help.default("all"),
  /** Minutes within which it is to be found; null without end. */
  limit: z.number().positive().max(600).nullable().default(null),
  costs: Costs.default(COSTS),
  meter: Meter.default({}),
};

export const NewHunt = z.strictObject({
  id: z.uuid(),
  title: z.string().trim().min(1).max(TEXT_LIMITS.title),
  trail: z.string().max(20_000),
  /** The same seed hides the same; left out, the server draws one. */
  seed: z.number().int().nonnegative().max(0xffffffff).optional(),
  /** The exercise of a teacher's set that it belongs to. */
  set: z.strictObject({ name: z.string().max(200), exercise: z.number().int() }).optional(),
  ...Options,
});
export type NewHunt = z.input<typeof NewHunt>;

/** How it ended: named rightly, given up, or not yet. */
export const HuntState = z.enum(["open", "found", "givenUp"]);
export type HuntState = z.infer<typeof HuntState>;

/** What the planner needed in the same world, worked out when it was over. */
export const Best = z.strictObject({ minutes: z.number(), isRight: z.boolean() });

export const Hunt = z.strictObject({
  /** The job's too: its circuit, readings and meter are a job's. */
  id: z.uuid(),
  title: z.string(),
  state: HuntState,
  count: FaultCount,
  kinds: z.array(FaultKind),
  help: Help,
  limit: z.number().nullable(),
  costs: Costs,
  set: NewHunt.shape.set,
  who: z.string(),
  now: BenchNow,
  display: Display,
  /** What brought the job here, as it was seen. */
  noticed: z.array(Reading),
  acts: z.array(DoneAct),
  namings: z.array(Naming),
  best: Best.nullable(),
  createdAt: z.string(),
  /** What was hidden, and the seed that brings the same world again: once it is over. */
  truth: z.strictObject({ faults: z.array(HiddenFault), seed: z.number() }).nullable(),
});
export type Hunt = z.infer<typeof Hunt>;

export const HuntSummary = Hunt.pick({
  id: true,
  title: true,
  state: true,
  count: true,
  help: true,
  set: true,
  who: true,
  namings: true,
  best: true,
  createdAt: true,
  truth: true,
}).extend({ minutes: z.number(), partCount: z.number().int(), unsafe: z.number().int() });
export type HuntSummary = z.infer<typeof HuntSummary>;

export const HuntList = z.strictObject({ hunts: z.array(HuntSummary), total: z.number().int() });

/** An act, with how many there were before it: the same one sent twice is done once. */
export const NewAct = z.strictObject({ after: z.number().int().nonnegative(), act: Act });
export const NewNaming = Naming.pick({ named: true, sure: true });

/** A run as a file: what was hidden, and what was done. */
export const RunFile = z.strictObject({
  format: z.literal("clever-hound-hunt"),
  version: z.literal(1),
  trail: z.string(),
  meter: Meter,
  hunt: Hunt,
});
export type RunFile = z.infer<typeof RunFile>;
