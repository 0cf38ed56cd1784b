export { type Board, layoutBoard } from "./board.ts";
export {
  type BreadboardPlan,
  COLUMNS,
  checkBreadboard,
  drawParts,
  type Hole,
  LABEL,
  type Lead,
  nameOfHole,
  type PartDrawn,
  type Place,
  placeOf,
  planBreadboard,
  SPAN,
} from "./breadboard/index.ts";
export { type Lane, type LaneBar, type LaneStrip, wrapLanes } from "./lanes.ts";
