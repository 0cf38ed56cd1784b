export { bendingCircuits, relayCircuits } from "./arbitrary/bending.ts";
export { linearCircuits } from "./arbitrary/circuits.ts";
export { examples, IS_DEEP, share } from "./examples.ts";
export { plainReading } from "./plain/bench.ts";
export { type Comparison, compare, type TestCase } from "./plain/compare.ts";
export { CASE_KINDS, type CaseKind, drawCase } from "./plain/drawCase.ts";
export { fewestHops } from "./plain/hops.ts";
