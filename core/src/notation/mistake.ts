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

/** Where the lines of a text begin: finds lines and columns (from 1) in O(log lines) each. */
export class Lines {
  private readonly starts: number[] = [0];

  constructor(text: string) {
    for (let at = text.indexOf("\n"); at !== -1; at = text.indexOf("\n", at + 1)) this.starts.push(at + 1);
  }

  get count(): number {
    return this.starts.length;
  }

  /** Offset of the first character of a line, from 1; of the text's end beyond the last. */
  startOf(line: number): number | undefined {
    return this.starts[line - 1];
  }

  at(offset: number): { line: number; column: number } {
    let [low, high] = [0, this.starts.length];
    while (high - low > 1) {
      const middle = (low + high) >> 1;
      if (this.starts[middle] <= offset) low = middle;
      else high = middle;
    }
    return { line: low + 1, column: offset - this.starts[low] + 1 };
  }
}

/** Line and column (from 1) of one offset. */
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
