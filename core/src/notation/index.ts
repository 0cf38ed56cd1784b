export { CaseFile, caseSchema, readCase, writeCase } from "./case.ts";
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
  roleOf,
  setEnds,
  setPoint,
  setWord,
  swapParts,
  troubleWith,
  type WordRole,
  withFreeDesignators,
  wordsOfPart,
} from "./edit/index.ts";
export { applyEdits, type Mistake, positionAt, type TextEdit } from "./mistake.ts";
export { seenOf } from "./quickLook.ts";
export { type Proposal, readQuick } from "./quickReading.ts";
export type { BenchNow, QuickReading } from "./quickValue.ts";
export { FORMATS, type Format, type Recognised, recognise } from "./recognise.ts";
export {
  lostInPartsTable,
  readParts,
  readReadings,
  writeParts,
  writeReadings,
  writeTable,
} from "./table/index.ts";
export {
  type Item,
  mendAll,
  type PartNode,
  pinNode,
  pinNodes,
  readTrail,
  type TokenKind,
  type Trail,
  writePart,
  writeTrail,
} from "./trail/index.ts";
