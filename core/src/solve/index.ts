export type { Topology, Unsolvable } from "./modifiedNodal.ts";
export { NodalSolver } from "./nodal.ts";
export { type Lines, type OperatingPoint, operatingPoint, topologyOf } from "./operatingPoint.ts";
export { type Solution, solveNetwork } from "./solveNetwork.ts";
