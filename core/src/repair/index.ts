export { checkOf, isGoodPart, type PartCheck } from "./partCheck.ts";
export type { ProofInput } from "./proofBench.ts";
export { OFF, type ProofReading, type ProofSet, proofSet, type UnseenFault } from "./proofSet.ts";
export { isOfProof, type ProofRow, type ProofVerdict, proofVerdict } from "./proofVerdict.ts";
export { type RatedLoad, type Replacement, replacementsFor } from "./replacement.ts";
export { repairSteps, type StillThere, stillThere, type WorkStep } from "./steps.ts";
export { type Worst, worstCases } from "./worstCase.ts";
