export { blend } from "./blend.ts";
export { isDismantling, type Measurement, MINUTES, type Minutes, measurementsOn } from "./candidates.ts";
export { SETTLED, worthOf, worthOfAnswers } from "./information.ts";
export { type Outlook, outlooksOn } from "./outlook.ts";
export {
  type Offer,
  type Plan,
  planMeasurements,
  type Suggestion,
  type SuspectGroup,
} from "./plan.ts";
export { SCHOOLS, type School } from "./schools.ts";
export { type Draws, readingsToSettle } from "./settle.ts";
