export { type BranchState, type Check, checksOf } from "./checks.ts";
export { currentPath, type PathStep } from "./currentPath.ts";
export { type LoopStep, loopsOf, type NodeEquation, nodeEquations } from "./equations.ts";
export { type Oddity, oddities } from "./oddities.ts";
export { describeStretch, type Relation, relationOf } from "./relation.ts";
export { type Composite, combine, firstBranch, reversed, startingAt } from "./seriesParallel.ts";
export { type Item, listed, type Reduction, reduceNetwork, type Step } from "./steps.ts";
export { parallelOf, type School, SUMS, seriesOf, sumOf } from "./sums.ts";
export { type BackStep, type ItemState, statesOfParts, type WayBack, wayBack } from "./wayBack.ts";
