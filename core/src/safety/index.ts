export {
  CAUTION_IDS,
  type Caution,
  type CautionId,
  type CautionPlace,
  cautionsFor,
  cautionsOfDoing,
  type Doing,
  HOT_SHARE,
  SHOCK_VOLTS,
  STRONG_AMPS,
} from "./cautions.ts";
export { type SafetyFacts, safetyFacts } from "./facts.ts";
