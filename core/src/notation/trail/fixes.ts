import type { Mistake } from "../mistake.ts";
import type { Token } from "./lexer.ts";
import type { Span } from "./tree.ts";

/** What would mend a mistake: one press makes the edits. */
export type Fix = NonNullable<Mistake["fix"]>;

export function insertAt(at: number, insert: string, label: string): Fix {
  return { label, edits: [{ from: at, to: at, insert }] };
}

export function writeInstead({ from, to }: Span, insert: string): Fix {
  return { label: `write ${insert}`, edits: [{ from, to, insert }] };
}

/** @param shown what is taken out, as the button says it */
export function takeOut({ from, to, text: shown }: Pick<Token, "from" | "to" | "text">): Fix {
  return { label: `take out “${shown}”`, edits: [{ from, to, insert: "" }] };
}
