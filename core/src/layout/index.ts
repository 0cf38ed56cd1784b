export { type Bar, type Board, layoutBoard, type Strip } from "./board.ts";
export { type Lane, type LaneBar, type LaneStrip, wrapLanes } from "./lanes.ts";
