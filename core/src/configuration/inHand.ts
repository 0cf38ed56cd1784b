import { standingWith } from "./change.ts";
import type { Configuration } from "./configuration.ts";

/** A branch opened to put the meter into it: what is done, from the power off to the lead back in its socket. */
export type InHand = NonNullable<Configuration["inHand"]>;

/** The steps of a current reading, in order. */
export const CURRENT_STEPS = [
  "powerOff",
  "open",
  "insert",
  "powerOn",
  "read",
  "powerOffAgain",
  "restore",
  "leadBack",
] as const;
export type CurrentStep = (typeof CURRENT_STEPS)[number];

const doneOf = (step: CurrentStep) => CURRENT_STEPS.indexOf(step) + 1;

/** How the circuit is while the branch is worked on: as drawn, open, or with the meter in it. */
export function branchNow({ done }: Pick<InHand, "done">): "closed" | "open" | "metered" {
  if (done < doneOf("open") || done >= doneOf("restore")) return "closed";
  return done < doneOf("insert") ? "open" : "metered";
}

/** The next step to do. */
export function nextStepOf({ done }: Pick<InHand, "done">): CurrentStep | null {
  return CURRENT_STEPS[done] ?? null;
}

/** With so many steps done; gone with the last, and where none is done. */
export function stepped(standing: Configuration, to: number): Configuration {
  const { inHand, ...rest } = standing;
  if (!inHand || to <= 0 || to >= CURRENT_STEPS.length) return rest;
  return { ...rest, inHand: { ...inHand, done: to } };
}

/** What a branch in hand does to another reading that is taken meanwhile. */
export function stateOfBranch({ inHand, ...standing }: Configuration): Configuration {
  if (!inHand) return standing;
  const { through } = inHand;
  const now = branchNow(inHand);
  if (now === "closed") return standing;
  return standingWith(standing, now === "open" ? { lifted: [through] } : { meters: [{ through }] });
}
