export { linearCircuits } from "./arbitrary/circuits.ts";
export { type Comparison, compare, drawCase, type TestCase } from "./plain/compare.ts";
export { fewestHops } from "./plain/hops.ts";
