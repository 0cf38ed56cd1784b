export { type Advice, adviceFor, BODY_OHMS, jointOf, type LeadAt, type OhmsAdvice } from "./advice.ts";
export { type AskedSum, askedSum, type SumAnswer } from "./askedSum.ts";
export { densityAt, type Foretold, foretellAt, highestOf } from "./foretold.ts";
export { deadLoad, deadLoadsOf, type Outcome, type ProcedureStep, proofOf } from "./procedure.ts";
export { questionsOf, weighedAt } from "./slips.ts";
export { type OpenSum, openSum } from "./sums.ts";
export { type ToldAt, toldAt, toldFrom } from "./told.ts";
export type { SlipKind, SlipQuestion } from "./ways.ts";
