export type TokenKind =
  | "word"
  | "name"
  | "open"
  | "close"
  | "bar"
  | "plus"
  | "colon"
  | "newline"
  | "space"
  | "comment"
  | "title"
  | "note"
  | "reference"
  | "point"
  | "rest";

/** A stretch of the trail; all tokens together are the text, none lost. */
export interface Token {
  readonly kind: TokenKind;
  readonly from: number;
  readonly to: number;
  readonly text: string;
}

const PUNCTUATION: Record<string, TokenKind> = { "(": "open", ")": "close", "|": "bar", ":": "colon" };
const DIRECTIVE = /^(title|note|reference|point)(?=[ \t]|$)/i;
/** Up to its equals sign, where a value follows it so: `R1=10`, `R1 = 10`. */
const DESIGNATOR_EQUALS = /^[A-Za-z]{1,6}\d+[a-z]?(?=\s*=)/;
/** A number that waits for its unit or prefix, and what may stand behind it after a space: `10 ohms`, `4.7 k`, `10 %`. */
const NUMBER = /^=?\s*[-+−±]?(?:\d[\d.,]*|\d+\/\d+)$/;
const UNIT =
  /^[^\S\n]+(?:[pnuµμmkKMG]?(?:Ω|Ω|[Oo]hms?|OHMS?|V|W)|m?A|[kKMR]|[Mm]eg|[kK]ilo[Oo]hms?|[Vv]olts?|[Aa]mps?|[Ww]atts?|%|percent)(?=[\s()|:[\]+#,;]|$)/;
const SCALED = /^=?\s*[-+−±]?\d[\d.,]*[pnuµμmkKMG]$/;
const BARE_UNIT = /^[^\S\n]+(?:Ω|Ω|[Oo]hms?|OHMS?)(?=[\s()|:[\]+#,;]|$)/;

/** Splits a trail into tokens. Lossless: the texts joined give the trail again. Never fails. */
export function tokenize(text: string): Token[] {
  const tokens: Token[] = [];
  let at = 0;
  let fresh = true;
  const push = (kind: TokenKind, length: number) => {
    tokens.push({ kind, from: at, to: at + length, text: text.slice(at, at + length) });
    at += length;
  };
  let end = -1;
  while (at < text.length) {
    if (end < at) end = endOfLine(text, at);
    const rest = text.slice(at, end);
    const char = text[at];
    if (char === "\n") {
      push("newline", 1);
      fresh = true;
      continue;
    }
    const space = /^[^\S\n]+/.exec(rest);
    if (space) {
      push("space", space[0].length);
      continue;
    }
    const directive = fresh ? DIRECTIVE.exec(rest) : null;
    if (directive) {
      const kind = directive[1].toLowerCase() as "title" | "note" | "reference" | "point";
      push(kind, directive[1].length);
      const gap = /^[^\S\n]+/.exec(text.slice(at, end));
      if (gap) push("space", gap[0].length);
      const value = text.slice(at, end);
      const content =
        kind === "reference" || kind === "point" ? value.replace(/(^|\s)#.*$/, "").trimEnd() : value.trimEnd();
      if (content !== "") push("rest", content.length);
      fresh = false;
      continue;
    }
    if (char === "#" && (fresh || tokens.at(-1)?.kind === "space")) {
      push("comment", rest.length);
      continue;
    }
    fresh = false;
    if (PUNCTUATION[char]) push(PUNCTUATION[char], 1);
    else if (char === "[") push("name", lengthOfName(rest));
    else if (char === "+" && !/^\+[\d.,]/.test(rest)) push("plus", 1);
    else push("word", DESIGNATOR_EQUALS.exec(rest)?.[0].length ?? lengthWithUnit(rest));
  }
  return tokens;
}

function endOfLine(text: string, from: number): number {
  const end = text.indexOf("\n", from);
  return end === -1 ? text.length : end;
}

/** `[…]`; one that is not closed ends where the name would. */
function lengthOfName(rest: string): number {
  const closed = /^\[[^[\]()|]*\]/.exec(rest);
  return closed ? closed[0].length : (/^\[\s*[A-Za-z0-9_]*/.exec(rest)?.[0].length ?? 1);
}

/** A number and its unit are one word, an equals sign before them too. */
function lengthWithUnit(rest: string): number {
  const sign = /^=[^\S\n]*(?=[^\s()|:[\]+#])/.exec(rest)?.[0].length ?? 0;
  const length = sign + lengthOfWord(rest.slice(sign));
  const word = rest.slice(0, length);
  const unit = (NUMBER.test(word) ? UNIT : SCALED.test(word) ? BARE_UNIT : null)?.exec(rest.slice(length));
  return length + (unit?.[0].length ?? 0);
}

/** A word ends at space or punctuation; quotes and `wiper=[…]` belong to it. */
function lengthOfWord(rest: string): number {
  let at = 0;
  while (at < rest.length) {
    const char = rest[at];
    if (char === '"') {
      const close = rest.indexOf('"', at + 1);
      at = close === -1 ? rest.length : close + 1;
    } else if (char === "[" && rest[at - 1] === "=") {
      at += lengthOfName(rest.slice(at));
    } else if (/[\s()|:[\]]/.test(char) && at > 0) {
      break;
    } else if (char === "+" && at > 0 && !/[eE]/.test(rest[at - 1])) {
      break;
    } else {
      at += 1;
    }
  }
  return at;
}
