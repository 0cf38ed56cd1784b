export { type Cell, centreOf, faultsAt } from "./cells.ts";
export { type Consequence, consequencesOf } from "./consequences.ts";
export {
  faultsOf,
  nameOfSite,
  type Prediction,
  quantiles,
  type ReadingVerdict,
  type SuspectFault,
  someMistakenOf,
} from "./describe.ts";
export {
  cornersOf,
  type Equivalent,
  type ExpectedChart,
  equivalentBetween,
  expectChart,
  expectReadings,
  type Window,
} from "./expected.ts";
export { type Explanation, explainer } from "./explain.ts";
export type { Observation } from "./observations.ts";
export { type Prepared, prepare, type RankInput, type RankProblem } from "./prepare.ts";
export {
  type Progress,
  type Ranking,
  type RankOptions,
  rankFaults,
  rankingOf,
  type Suspect,
  type Weighed,
  type Weighing,
  weighFaults,
  weighToEnd,
} from "./ranking.ts";
export { evidenceOf, type RepairShare, type RepairStep, type Repairs, repairsOf, SPOKEN_FOR } from "./repairs.ts";
export { OVERLOAD } from "./response.ts";
export { SLIPS, type Slip } from "./slips.ts";
export { type Estimate, type Settled, settleUnknowns } from "./unknowns.ts";
