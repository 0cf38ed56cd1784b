export { currentPath, type PathStep } from "./currentPath.ts";
export { type Oddity, oddities } from "./oddities.ts";
export { describeStretch, type Relation, relationOf } from "./relation.ts";
export { type Composite, combine, firstBranch, reversed, startingAt } from "./seriesParallel.ts";
