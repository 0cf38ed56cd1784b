export { CaseFile, caseSchema, type ReadCase, readCase, writeCase } from "./case.ts";
export { lostInPartsTable, type ReadTable, readParts, readReadings, writeParts, writeReadings } from "./csv.ts";
export { applyEdits, type Mistake, positionAt, type TextEdit } from "./mistake.ts";
export { type ChangeOfCircuit, type Proposal, type QuickReading, readQuick } from "./quickReading.ts";
export { type Token, type TokenKind, tokenize } from "./trail/lexer.ts";
export { pinNode, pinNodes, readTrail, type Trail } from "./trail/readTrail.ts";
export type { GroupNode, Item, LoopNode, PartNode, RunNode, SeriesNode, Statement } from "./trail/tree.ts";
export { writePart, writeTrail } from "./trail/writeTrail.ts";
