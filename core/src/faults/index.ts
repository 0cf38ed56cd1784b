export { MODE_SHARES, type Noticing, type PriorData, priorData, RATES } from "./defaults.ts";
export { type FaultAt, type FaultedNetwork, faultedNetwork } from "./faultedNetwork.ts";
export {
  type Exposure,
  expectedOf,
  exposureOf,
  habitsFrom,
  habitsFromCounts,
  habitsOf,
  likelierBy,
  type Repair,
  repairsOf,
} from "./habits.ts";
export { bridgeCandidates, keyOfSite, ownerOf, type Site, type SiteOptions, sitesOf } from "./site.ts";
