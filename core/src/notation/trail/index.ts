export { type Token, type TokenKind, tokenize } from "./lexer.ts";
export { mendAll } from "./mendAll.ts";
export { pinNode, pinNodes, readTrail, type Trail } from "./readTrail.ts";
export { TRAIL_LIMITS } from "./statementLines.ts";
export type { GroupNode, Item, LoopNode, NodeMark, PartNode, RunNode, SeriesNode, Span, Statement } from "./tree.ts";
export { valueWords, writePart, writeTrail } from "./writeTrail.ts";
