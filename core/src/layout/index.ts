export { type Bar, type Board, layoutBoard, type Strip } from "./board.ts";
