export { type Measurement, MINUTES, type Minutes, measurementsOn } from "./candidates.ts";
export {
  type Plan,
  type PlanOptions,
  planMeasurements,
  type Suggestion,
  type SuspectGroup,
} from "./plan.ts";
export { SCHOOLS, type School } from "./schools.ts";
export { type Draws, readingsToSettle } from "./settle.ts";
