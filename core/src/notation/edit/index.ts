export { withFreeDesignators } from "./borrow.ts";
export {
  movePart,
  nameNode,
  renamePart,
  roleOf,
  setEnds,
  setWord,
  swapParts,
  type WordRole,
  wordsOfPart,
} from "./change.ts";
export { formatTrail, freeDesignator, freeDesignators } from "./format.ts";
export { insertInParallel, insertInSeries, joinNodes, troubleWith } from "./insert.ts";
export { keepNumbers } from "./keepNumbers.ts";
export { locate, stretchOf } from "./locate.ts";
export { setPoint } from "./point.ts";
export { removePart } from "./remove.ts";
export type { Edited } from "./rewrite.ts";
