export { checkBreadboard } from "./check.ts";
export { drawParts, LABEL, type PartDrawn } from "./drawing.ts";
export { COLUMNS, type Hole, nameOfHole, type Place, placeOf, SPAN } from "./holes.ts";
export { type BreadboardPlan, type Pull, planBreadboard } from "./plan.ts";
export type { Lead } from "./seats.ts";
