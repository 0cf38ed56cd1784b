export { type Bar, type Board, layoutBoard, type Strip } from "./board.ts";
export {
  BREADBOARD,
  type BreadboardPlan,
  COLUMNS,
  checkBreadboard,
  type Hole,
  type Jumper,
  type Lead,
  nameOfHole,
  planBreadboard,
} from "./breadboard.ts";
export { type Lane, type LaneBar, type LaneStrip, wrapLanes } from "./lanes.ts";
