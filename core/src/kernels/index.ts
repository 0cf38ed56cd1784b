/** The sums that a ranking spends its time on, worked out in WebAssembly (core/assembly). */
export { Density, type MixturePart, Spreads } from "./density.ts";
export { covarianceInto, factorInPlace, gramInto, invertInPlace, normalTail } from "./linear.ts";
