export { densityAt, type Foretold, foretellAt, highestOf } from "./foretold.ts";
export { questionsOf, type SlipKind, type SlipQuestion } from "./slips.ts";
export { type OpenSum, openSum } from "./sums.ts";
