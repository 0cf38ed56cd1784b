export { type HelpKind, helpKinds } from "./kindRows.ts";
export {
  EXAMPLE_CIRCUIT,
  FAULT_LINES,
  type Phrase,
  type PhraseGroup,
  READING_LINES,
  SUM_LINES,
  TRAIL_LINES,
} from "./phrases.ts";
