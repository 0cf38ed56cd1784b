export { type Closure, closuresOf } from "./closure.ts";
export { type Correction, corrected, correctionOf } from "./correction.ts";
export { deviationOf } from "./deviation.ts";
export { withInstruments } from "./instruments.ts";
export { type Averaged, errorOf, limitOf, overLimit, rangeName, rangeOf, roundingOf, TIMES } from "./limits.ts";
export { asMeasured, type MeasuredPart } from "./measuredParts.ts";
export { buildPorts, type NodePair, type Ports } from "./ports.ts";
export {
  type BareCircuit,
  buildProbes,
  type Probe,
  type ProbeSet,
} from "./probe.ts";
export { AS_DRAWN, ownStateOf, settingKey, settingOf } from "./setting.ts";
