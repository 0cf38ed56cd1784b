export { checkOf, isGoodPart, type PartCheck } from "./partCheck.ts";
export type { ProofInput } from "./proofBench.ts";
export { type ProofReading, type ProofSet, proofSet, type UnseenFault } from "./proofSet.ts";
export { isOfProof, type ProofRow, type ProofVerdict, proofVerdict } from "./proofVerdict.ts";
export { type RatedLoad, type Replacement, replacementsFor } from "./replacement.ts";
export { repairSteps, type StillThere, stepsDone, type WorkStep } from "./steps.ts";
export { worstCases } from "./worstCase.ts";
