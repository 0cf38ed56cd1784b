export { type Comparison, compare, drawCase, type TestCase } from "./plain/compare.ts";
