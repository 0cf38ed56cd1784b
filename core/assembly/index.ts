export { density, normalTail, roomOf, spreadSize } from "./density";
export { factor, gram, invert } from "./linear";
export { likeliest, logShareOfSpoiled, slipShares } from "./parts";
export { attendNetwork, covariance, sensitivities, variance } from "./sensitivities";

/** Where the memory is free. */
export function base(): usize {
  return (__heap_base + 15) & ~15;
}
