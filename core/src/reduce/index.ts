export { type Composite, combine, firstBranch, reversed, startingAt } from "./seriesParallel.ts";
