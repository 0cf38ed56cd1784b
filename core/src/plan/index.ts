export { blend } from "./blend.ts";
export { isDismantling, type Measurement, MINUTES, type Minutes, measurementsOn } from "./candidates.ts";
export { SETTLED, worthOf, worthOfAnswers } from "./information.ts";
export { type Outlook, outlooksOn } from "./outlook.ts";
export {
  type Offer,
  type Plan,
  planMeasurements,
  planSteps,
  type Suggestion,
  type SuspectGroup,
} from "./plan.ts";
export { SCHOOLS, type School } from "./schools.ts";
export { type Draws, readingsToSettle, settleSteps } from "./settle.ts";
export { atOnce, type Steps } from "./steps.ts";
