export { type Advice, adviceFor, BODY_OHMS, jointOf, type LeadAt } from "./advice.ts";
export { type AskedSum, askedSum } from "./askedSum.ts";
export { deadLoad, deadLoadsOf, deadSignOf } from "./procedure.ts";
export { missedReach, type PointReach, reachesOf, reachSteps } from "./reach.ts";
export { isImpossible, questionsOf, weighedAt } from "./slips.ts";
export { type OpenSum, openSum } from "./sums.ts";
export { type ToldAt, toldAt, toldFrom } from "./told.ts";
export type { SlipKind, SlipQuestion } from "./ways.ts";
