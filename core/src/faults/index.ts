export { MODE_SHARES, type PriorData, priorData, RATES } from "./defaults.ts";
export { habitsFrom, type Repair, repairsOf } from "./habits.ts";
export { bridgeCandidates, faultedLaw, ownerOf, type Site, sitesOf } from "./site.ts";
