export { type Afterwards, afterwards, type Consequence, type Load, type Unsolved, whatFollows } from "./afterwards.ts";
export { type Base, baseOf, type Comparison, compareWith, type Pair } from "./comparison.ts";
export { comparisonCsv, signaturesCsv } from "./csv.ts";
export { type ValueDistribution, valueDistribution } from "./distribution.ts";
export { FitBench, fitOf, type ReadingFit, type SupposedFit } from "./fit.ts";
export { type History, historyOf, type Then } from "./history.ts";
export { supposedAt } from "./points.ts";
export { type Signature, type SignaturePoint, type Signatures, signaturesOf } from "./signatures.ts";
export {
  type Choice,
  choicesOf,
  driftMode,
  faultsAtSupposed,
  isSameFault,
  nominalOf,
  type PartMode,
  type Reach,
  type Supposed,
  troubleWithSupposed,
  withSupposed,
} from "./supposed.ts";
export { type Curve, curveOf, type Wished, wishedFaults } from "./sweep.ts";
export { type ReadSupposed, readSupposed, writeSupposed } from "./words.ts";
