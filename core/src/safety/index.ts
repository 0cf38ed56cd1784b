export {
  CAUSES,
  CAUTION_IDS,
  type CautionId,
  type CautionPlace,
  cautionsFor,
  cautionsOfDoing,
  type Doing,
} from "./cautions.ts";
export { type SafetyFacts, safetyFacts } from "./facts.ts";
