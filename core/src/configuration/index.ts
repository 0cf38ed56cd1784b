export { afterChange, type ChangeOfCircuit, standingWith } from "./change.ts";
export { Configuration } from "./configuration.ts";
export { type Fact, factsOf, isSameState, keyOf, only } from "./facts.ts";
export {
  branchNow,
  CURRENT_STEPS,
  type CurrentStep,
  type InHand,
  nextStepOf,
  stateOfBranch,
  stepped,
} from "./inHand.ts";
export { partsNotAsDrawn, placesOf, renamed } from "./names.ts";
export { pairKey } from "./pair.ts";
