import { type Configuration, standingWith, stateOfBranch } from "../configuration/index.ts";
import type { Reading } from "./reading.ts";

/** A reading as taken of the circuit as it stands. */
export function takenSo<R extends Reading>(reading: R, { leads: _, ...now }: Configuration): R {
  // The meter that stands in a branch to read it is no other one.
  const isOwn = reading.quantity === "current" && reading.through === now.inHand?.through;
  const { inHand: __, ...standing } = isOwn ? now : stateOfBranch(now);
  const state = standingWith(standing, reading.state);
  return Object.keys(state).length > 0 ? { ...reading, state } : reading;
}
