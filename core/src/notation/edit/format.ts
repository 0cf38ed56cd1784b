import { KIND_NAMES, KINDS, type Kind, rowOf, splitDesignator } from "../../circuit/index.ts";
import type { Token, Trail } from "../trail/index.ts";

/** Two spaces a level of open parentheses, for lines that go on. */
const INDENT = "  ";

/**
 * The trail with its spaces put in order: one between words, ` + ` between items, none inside of parentheses; lines,
 * comments and everything said stay as they are. A trail with mistakes comes back unchanged.
 */
export function formatTrail(trail: Trail): string {
  if (!trail.circuit) return trail.text;
  let depth = 0;
  const lines = linesOf(trail.tokens).map((tokens, n) => {
    const solid = tokens.filter((t) => t.kind !== "space");
    const closing = solid.findIndex((t) => t.kind !== "close");
    const level = Math.max(0, depth - (closing < 0 ? solid.length : closing));
    const goesOn = depth > 0 || (n > 0 && ["plus", "bar"].includes(solid[0]?.kind));
    for (const t of solid) depth += t.kind === "open" ? 1 : t.kind === "close" ? -1 : 0;
    if (solid.length === 0) return "";
    return (goesOn && solid[0].kind !== "comment" ? INDENT.repeat(Math.max(1, level)) : "") + joined(solid, trail);
  });
  return lines.join("\n");
}

function linesOf(tokens: readonly Token[]): Token[][] {
  const lines: Token[][] = [[]];
  for (const token of tokens) {
    if (token.kind === "newline") lines.push([]);
    else lines[lines.length - 1].push(token);
  }
  return lines;
}

function joined(tokens: readonly Token[], trail: Trail): string {
  let text = "";
  tokens.forEach((token, i) => {
    const before = tokens[i - 1];
    if (before) text += between(before, token, trail);
    text += token.text;
  });
  return text;
}

function between(a: Token, b: Token, trail: Trail): string {
  if (b.kind === "comment") return "  ";
  if (b.kind === "close" || a.kind === "open" || b.kind === "colon") return "";
  if (endsItem(a, trail) && beginsItem(b, trail) && a.kind !== "name" && b.kind !== "name") return " + ";
  return " ";
}

function beginsItem(token: Token, trail: Trail): boolean {
  return token.kind === "open" || (token.kind === "word" && trail.places.get(token.text)?.from === token.from);
}

function endsItem(token: Token, trail: Trail): boolean {
  if (token.kind === "close") return true;
  return token.kind === "word" && [...trail.places.values()].some((p) => p.to === token.to);
}

/** The next designator of a kind that is free: one above the highest in use with its first letters. */
export function freeDesignator(trail: Trail, kind: Kind): string {
  if (rowOf(kind).follows) return freeContact(trail);
  const [letters] = KINDS[kind].letters;
  const numbers = [...trail.places.keys()].flatMap((name) => {
    const split = splitDesignator(name);
    return split?.letters === letters ? [split.number] : [];
  });
  return `${letters}${Math.max(0, ...numbers) + 1}`;
}

/** The next contact, normally open, of the first coil there is. */
function freeContact(trail: Trail): string {
  const [coil = "K1"] = [...trail.places].flatMap(([name, { kind }]) => (kind === "coil" ? [name] : []));
  for (let n = 1; ; n += 1) {
    const name = `${coil}.no${n === 1 ? "" : n}`;
    if (!trail.places.has(name)) return name;
  }
}

/** Free designators of every kind, resistors first. */
export function freeDesignators(trail: Trail): { readonly designator: string; readonly kind: Kind }[] {
  return KIND_NAMES.map((kind) => ({ designator: freeDesignator(trail, kind), kind }));
}
