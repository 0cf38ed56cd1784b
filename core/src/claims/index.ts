export { type Mark, type Marked, markClaims } from "./check.ts";
export {
  type Equation,
  type EquationMark,
  markEquation,
  type ReadEquation,
  readEquation,
  solveEquations,
} from "./equation.ts";
export {
  ASKED,
  type Asked,
  type Claim,
  isDrawn,
  type Place,
  placeBetween,
  placesOf,
  type ReadClaim,
  readClaim,
  UNIT_ASKED,
} from "./figures.ts";
export { missingFor, type NextCell, nextCells } from "./next.ts";
export type { Slip, SlipKind } from "./slips.ts";
