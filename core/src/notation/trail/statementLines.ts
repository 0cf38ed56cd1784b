import { DESIGNATOR_FORM } from "../../circuit/index.ts";
import type { Lines, Mistake } from "../mistake.ts";
import type { Token } from "./lexer.ts";

/** What a trail may hold; beyond it the reader stops and says where. */
export const TRAIL_LIMITS = { characters: 100_000, lines: 20_000, parts: 3_000, depth: 100, mistakes: 500 } as const;

export const LOOKS_LIKE_DESIGNATOR = /^[A-Za-z]+\d+[a-z]?$/;

/** Where a text goes on beyond what is read; null where all of it is. */
export function tooLong(text: string, lines: Lines): Mistake | null {
  const { characters, lines: most } = TRAIL_LIMITS;
  const tooMany = lines.startOf(most + 1);
  const from = Math.min(tooMany ?? Number.POSITIVE_INFINITY, text.length > characters ? characters : text.length + 1);
  if (from > text.length) return null;
  const what = from === tooMany ? `${most} lines` : `${characters} characters`;
  const message = `a trail has at most ${what}; from here on it is not read`;
  return { severity: "mistake", from, to: text.length, ...lines.at(from), message };
}

/**
 * Drops space, comments and those line ends over which a statement goes on: while a parenthesis is open (until the
 * next directive or loop), after `+` or `|`, and before `+`, `|` or `)`.
 */
export function significant(tokens: readonly Token[]): Token[] {
  const kept: Token[] = [];
  let depth = 0;
  const solid = tokens.filter((t) => t.kind !== "space" && t.kind !== "comment");
  // The next token that is no line end, seen from every place.
  const nextSolid = new Int32Array(solid.length);
  for (let i = solid.length - 1, next = -1; i >= 0; i -= 1) {
    nextSolid[i] = next;
    if (solid[i].kind !== "newline") next = i;
  }
  solid.forEach((token, i) => {
    if (token.kind === "open") depth += 1;
    if (token.kind === "close") depth = Math.max(0, depth - 1);
    if (token.kind !== "newline") {
      kept.push(token);
      return;
    }
    const next = nextSolid[i] < 0 ? undefined : solid[nextSolid[i]];
    // Of blank lines the last decides.
    if (solid[i + 1]?.kind === "newline") return;
    const begins = next !== undefined && beginsStatement(solid, nextSolid[i]);
    const last = kept.at(-1)?.kind;
    const joins = next && (next.kind === "plus" || next.kind === "bar" || next.kind === "close");
    const goesOn = next !== undefined && !begins && (depth > 0 || last === "plus" || last === "bar" || joins);
    if (goesOn) return;
    depth = 0;
    kept.push(token);
  });
  return kept;
}

export function beginsStatement(tokens: readonly Token[], at: number): boolean {
  const first = tokens[at];
  if (isDirective(first)) return true;
  if (first.kind !== "word" || !DESIGNATOR_FORM.test(first.text)) return false;
  for (let i = at + 1; i < tokens.length && tokens[i].kind !== "newline"; i += 1) {
    if (tokens[i].kind === "colon") return true;
    if (tokens[i].kind !== "word") return false;
  }
  return false;
}

export function isDirective(token: Token): boolean {
  return token.kind === "title" || token.kind === "note" || token.kind === "reference" || token.kind === "point";
}
