export { LOWEST_RANGE, limitOf, roundingOf } from "./limits.ts";
export { buildPorts, type NodePair, type Ports } from "./ports.ts";
export { buildProbes, type Probe, type ProbeOptions, type ProbeSet, type ReadingProblem } from "./probe.ts";
export { isSameState, lawIn, lawsIn, type Setting, settingKey, settingOf } from "./setting.ts";
