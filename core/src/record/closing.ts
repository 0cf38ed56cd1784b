import { z } from "zod";
import { designatorOf, isCleared, NodeName } from "../circuit/index.ts";
import { type Configuration, pairKey } from "../configuration/index.ts";
import { Repaired } from "./priors.ts";

/** How a job came to its end. */
export const OUTCOMES = { found: "Found", nothing: "No fault found", givenUp: "Given up" } as const;
export const Outcome = z.enum(["found", "nothing", "givenUp"]);
export type Outcome = z.infer<typeof Outcome>;

/** Stages of a job whose minutes are counted. */
export const TIMED_STAGES = ["circuit", "expected", "readings", "whatif", "suspects", "repair"] as const;
export type TimedStage = (typeof TIMED_STAGES)[number];

const share = z.number().min(0).max(1);
const minutes = z.number().nonnegative().max(1e6);
const words = z.string().max(300);

/** A part to be replaced (or its joint remade), or a bridge to be cleared. */
export const MendStep = z.union([
  z.strictObject({ part: z.string().max(40) }),
  z.strictObject({ nodes: z.tuple([NodeName, NodeName]) }),
]);
export type MendStep = { readonly part: string } | { readonly nodes: readonly [NodeName, NodeName] };

/** What the ranking said at the moment when somebody decided what to repair. */
export const Said = z.looseObject({
  repairs: z.array(z.looseObject({ repair: z.array(MendStep).max(10), probability: share })).max(10),
  /** Suspects that mattered, with their values: the proof has to show that none of them is there any more. */
  suspects: z.array(z.looseObject({ faults: z.array(Repaired).max(10), probability: share })).max(30),
  /** How many readings there were. */
  readings: z.number().int().nonnegative(),
});
export type Said = z.infer<typeof Said>;

/** A repair under way: what is put right, and how far that is. */
export const RepairWork = z.looseObject({
  faults: z.array(Repaired).max(20).default([]),
  /** Steps that are ticked off, by their keys. */
  done: z.array(z.string().max(100)).max(200).default([]),
  /** What new parts measured before they were fitted: ohms, volts of a supply. */
  checks: z.record(z.string().max(40), z.number()).default({}),
  /** What was fitted, by part, where that is not just what the drawing says. */
  fitted: z.record(z.string().max(40), words).default({}),
  /** Null where somebody decided without a ranking. */
  said: Said.nullable().default(null),
});
export type RepairWork = z.infer<typeof RepairWork>;

/** How a job ended: what was found, what it took. */
export const Closing = z.looseObject({
  outcome: Outcome,
  /** What was found and verified; empty unless something was. */
  faults: z.array(Repaired).max(20).default([]),
  /** Parts that were used, with what was fitted. */
  used: z
    .array(z.looseObject({ part: z.string().max(40), what: words }))
    .max(50)
    .default([]),
  /** Minutes, all told, and by stage as counted. */
  minutes: minutes.optional(),
  stages: z.partialRecord(z.enum(TIMED_STAGES), minutes).default({}),
  /** What the proof came to: readings that agree with healthy, of so many. */
  proof: z.looseObject({ agree: z.number().int(), of: z.number().int() }).nullable().default(null),
  /** What the ranking had said. */
  said: Said.nullable().default(null),
  who: z.string().max(80).optional(),
  at: z.string().max(40),
});
export type Closing = z.infer<typeof Closing>;

/** Whether what led when somebody decided is what was found; null where there was no ranking, or nothing was found. */
export function wasFirstRight({ said, faults, outcome }: Closing): boolean | null {
  const [first] = said?.repairs ?? [];
  return first && outcome === "found" ? isSameRepair(first.repair, faults) : null;
}

/** Whether mending these steps is what the faults ask for. */
export function isSameRepair(steps: readonly MendStep[], faults: readonly Repaired[]): boolean {
  const one = new Set(steps.map(keyOfStep));
  const other = new Set(faults.map((f) => keyOfStep(stepOf(f))));
  return one.size === other.size && [...one].every((key) => other.has(key));
}

/** What puts a fault right. */
export function stepOf(fault: Repaired): MendStep {
  if ("nodes" in fault) return { nodes: fault.nodes as [NodeName, NodeName] };
  return { part: designatorOf(String(fault.part)) };
}

/** Whether a step is done, as the circuit stands: the new part is in, the bridge is cleared. */
export function isMended(step: MendStep, standing: Configuration): boolean {
  return "part" in step ? (standing.swapped?.includes(step.part) ?? false) : isCleared(standing, step.nodes);
}

/** One name for a step, whichever way round its nodes are: `R3`, `A~D`. */
export function keyOfStep(step: MendStep): string {
  return "part" in step ? step.part : pairKey(...step.nodes);
}
