/** The sums that a ranking spends its time on, worked out in WebAssembly (core/assembly). */
export { type Changed, Couplings, MOST_SKIPPED } from "./couplings.ts";
export { Density, type Predicted, type ReadingTerms, type SlipShares, Spreads, type Weight } from "./density.ts";
export {
  factorInPlace,
  gramInto,
  invertInPlace,
  normalTail,
  solveFactoredInPlace,
  solveLowerInPlace,
} from "./linear.ts";
export { type Random, seededRandom } from "./random.ts";
