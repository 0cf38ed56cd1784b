export {
  faultsOf,
  type MeterSuspect,
  nameOfSite,
  type Prediction,
  quantiles,
  type ReadingVerdict,
  type SuspectFault,
  verdictsOf,
} from "./answer/describe.ts";
export { type Drawn, endsOf } from "./answer/drawn.ts";
export {
  cornersOf,
  type ExpectedChart,
  equivalentBetween,
  expectChart,
  expectReadings,
  type Window,
} from "./answer/expected.ts";
export { type Explanation, explainer } from "./answer/explain.ts";
export { type Fit, fitter } from "./answer/fit.ts";
export type { Reach } from "./answer/reach.ts";
export {
  evidenceOf,
  evidenceOfReadings,
  hasStep,
  type RepairShare,
  type RepairStep,
  type Repairs,
  repairsOf,
  SPOKEN_FOR,
} from "./answer/repairs.ts";
export { type HabitShift, withoutHabits } from "./answer/withoutHabits.ts";
export { NO_SAY } from "./evidence/evidence.ts";
export { isHealthy, meterFactor } from "./evidence/integrator.ts";
export { glowAt } from "./evidence/looks.ts";
export type { Observation } from "./evidence/observations.ts";
export { SLIPS, type Slip } from "./evidence/slips.ts";
export { faultsAt } from "./hypotheses/cells.ts";
export { type Consequence, chanceOfBlowing, consequencesOf } from "./hypotheses/consequences.ts";
export type { FalseMeter } from "./hypotheses/falseMeter.ts";
export { type Estimate, type Settled, settleUnknowns } from "./hypotheses/unknowns.ts";
export { OVERLOAD } from "./prediction/response.ts";
export { loadOf } from "./prediction/stress.ts";
export { type Prepared, prepare, type RankInput, type RankProblem } from "./prepare.ts";
export {
  type Ranking,
  rankFaults,
  rankingOf,
  type Suspect,
  type Weighed,
  type Weighing,
  weighFaults,
  weighToEnd,
} from "./ranking.ts";
