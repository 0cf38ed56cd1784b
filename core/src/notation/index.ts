export { CaseFile, caseSchema, type ReadCase, readCase, writeCase } from "./case.ts";
export { type Difference, differences } from "./difference.ts";
export {
  type Edited,
  formatTrail,
  freeDesignator,
  freeDesignators,
  insertInParallel,
  insertInSeries,
  joinNodes,
  keepNumbers,
  locate,
  movePart,
  nameNode,
  removePart,
  renamePart,
  setEnds,
  setPoint,
  setWord,
  stretchOf,
  swapParts,
  troubleWith,
  type WordRole,
  withFreeDesignators,
  wordsOfPart,
} from "./edit/index.ts";
export { applyEdits, type Mistake, positionAt, type TextEdit } from "./mistake.ts";
export { type Proposal, readQuick } from "./quickReading.ts";
export type { BenchNow, QuickReading } from "./quickValue.ts";
export { FORMATS, type Format, type Recognised, recognise } from "./recognise.ts";
export {
  HEADINGS,
  lostInPartsTable,
  type PartColumn,
  type ReadParts,
  type ReadTable,
  readParts,
  readReadings,
  writeParts,
  writeReadings,
  writeTable,
} from "./table/index.ts";
export {
  type GroupNode,
  type Item,
  type LoopNode,
  type PartNode,
  pinNode,
  pinNodes,
  type RunNode,
  readTrail,
  type SeriesNode,
  type Statement,
  type Token,
  type TokenKind,
  type Trail,
  tokenize,
  writePart,
  writeTrail,
} from "./trail/index.ts";
