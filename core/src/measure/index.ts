export { type Closure, type Closures, closuresOf } from "./closure.ts";
export { type Correction, corrected, correctionOf } from "./correction.ts";
export { type Deviation, deviationOf } from "./deviation.ts";
export { errorOf, limitOf, type MeterError, rangeOf, roundingOf } from "./limits.ts";
export { buildPorts, type NodePair, type Ports } from "./ports.ts";
export {
  type BareCircuit,
  buildProbes,
  type Probe,
  type ProbeOptions,
  type ProbeSet,
  type ReadingProblem,
} from "./probe.ts";
export { AS_DRAWN, ownStateOf, type ReadSetting, settingKey, settingOf } from "./setting.ts";
