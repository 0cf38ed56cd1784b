export { type BranchState, type Check, checksOf } from "./checks.ts";
export { currentPath, type PathStep } from "./currentPath.ts";
export { chainOf, deduce, type Fact, type Given } from "./deduce.ts";
export { loopsOf, nodeEquations } from "./equations.ts";
export { type Oddity, oddities } from "./oddities.ts";
export { reducedNetwork } from "./reducedNetwork.ts";
export { compositeWords, describeStretch, relationOf } from "./relation.ts";
export { ruleFor } from "./rules.ts";
export { type Composite, combine, firstBranch, reversed, startingAt } from "./seriesParallel.ts";
export { type SourceRole, sourceRoles } from "./sources.ts";
export {
  type Combined,
  listed,
  madeBy,
  type Paper,
  type Reduction,
  reduceNetwork,
  type Seen,
  type Step,
} from "./steps.ts";
export { parallelOf, type School, SUMS, seriesOf, sumOf } from "./sums.ts";
export { type BackStep, type ItemState, statesOfParts, type WayBack, wayBack } from "./wayBack.ts";
