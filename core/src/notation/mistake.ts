/** One replacement in a text; offsets in UTF-16 units. */
export interface TextEdit {
  readonly from: number;
  readonly to: number;
  readonly insert: string;
}

/** Something wrong, or worth asking about, in a text; positions are offsets, line and column count from 1. */
export interface Mistake {
  readonly severity: "mistake" | "question";
  readonly from: number;
  readonly to: number;
  readonly line: number;
  readonly column: number;
  readonly message: string;
  /** The likely remedy, where there is one. */
  readonly fix?: { readonly label: string; readonly edits: readonly TextEdit[] };
}

/** Line and column (from 1) of an offset. */
export function positionAt(text: string, offset: number): { line: number; column: number } {
  let line = 1;
  let start = 0;
  for (let at = text.indexOf("\n"); at !== -1 && at < offset; at = text.indexOf("\n", at + 1)) {
    line += 1;
    start = at + 1;
  }
  return { line, column: offset - start + 1 };
}

/** The text after its edits; they must not overlap. */
export function applyEdits(text: string, edits: readonly TextEdit[]): string {
  return [...edits]
    .sort((a, b) => b.from - a.from)
    .reduce((result, edit) => result.slice(0, edit.from) + edit.insert + result.slice(edit.to), text);
}
