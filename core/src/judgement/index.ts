export { type Judgement, judge, judgeSteps, proofAmong } from "./judge.ts";
export {
  type GivenProof,
  leadingRepair,
  type Outcome,
  type ProcedureStep,
  proofOf,
  type RepairProof,
  stepOf,
} from "./proof.ts";
export { type Turned, type Unseen, type Verdict, verdictOf } from "./verdict.ts";
