import { DESIGNATOR_FORM, type Kind, kindCalled, kindHintedBy, kindOfDesignator, rowOf } from "../../circuit/index.ts";
import { parseQuantity } from "../../units/index.ts";
import { type Fix, takeOut, writeInstead } from "./fixes.ts";
import type { Token } from "./lexer.ts";

/** Letters of parts that a direct current does not see as a resistance, and what to do about them. */
export const NO_SUCH_PART: Readonly<Record<string, string>> = {
  Q: "write a transistor as the switch that it is here, S1, or what it takes as a load, LD1",
  IC: "write what it takes from the supply as a load, LD1",
};

/** Designators and names that nobody has used. */
export class FreeNames {
  private readonly taken: Set<string>;

  constructor(tokens: readonly Token[]) {
    this.taken = new Set(tokens.flatMap((t) => (t.kind === "word" ? [t.text.toUpperCase()] : [])));
  }

  part(letters: string): string {
    let number = 1;
    while (this.taken.has(`${letters.toUpperCase()}${number}`)) number += 1;
    return `${letters}${number}`;
  }
}

/** What a part is by letters that are none of ours, or else by what is said of it. */
export function guessKind(letters: string, words: readonly Token[]): Kind {
  const hinted = kindHintedBy(letters);
  if (hinted) return hinted;
  const units = new Set(words.flatMap(({ text }) => unitsIn(text)));
  if (units.has("V") && units.has("W")) return "load";
  if (units.has("V")) return "supply";
  if (units.has("ohm")) return "resistor";
  if (units.has("A")) return "fuse";
  return words.some((w) => /^(open|closed)$/i.test(w.text)) ? "switch" : words.length === 0 ? "connector" : "resistor";
}

function unitsIn(text: string): string[] {
  return text
    .replace(/^=\s*/, "")
    .split("/")
    .flatMap((piece) => {
      const read = parseQuantity(piece);
      return read.kind === "quantity" ? [read.unit ?? "ohm"] : [];
    });
}

export interface Mended {
  readonly designator: string;
  readonly says: string;
  readonly fix: Fix;
  /** The last token that belongs to it. */
  readonly takes: Token;
}

/** Words that say of a part what it is, and are none themselves. */
const ATTRIBUTE = /^(?:\?|ideal|open|closed|(?:kind|ri|limit|at|wiper|note)=.*)$/is;
/** Letters that want a number behind them: `R 1`, `BT 12V`. */
const isLettersAlone = (text: string) => /^[A-Za-z]{1,6}$/.test(text) && kindOfDesignator(`${text}1`) !== null;

/**
 * True of a word that says by itself that it is a part: `LEFT_LAMP`, `main-fuse`; by its first letters (`F_DOOR`, `V_OUT`)
 * where it needs no value or has one, as a node may be called so.
 */
export function isNamedPart({ text }: Token, next: Token | undefined): boolean {
  if (!/[-_]/.test(text) || !DESIGNATOR_FORM.test(text)) return false;
  const kind = kindOfDesignator(text);
  if (kind === null) return false;
  const isCalled = text.split(/[-_]/).some((w) => kindCalled(w.replace(/\d+[a-z]?$/, "")) === kind);
  return isCalled || rowOf(kind).needs === "nothing" || (next?.kind === "word" && isSaidOfPart(next.text));
}

/** True of any one word where a part is due, called by what it is or with a value behind it: `BATTERY`, `PUMP 10`, `H-2 12V`. */
export function isPartWord(token: Token, next: Token | undefined): boolean {
  const { text } = token;
  if (!DESIGNATOR_FORM.test(text) || ATTRIBUTE.test(text)) return false;
  if (isNamedPart(token, next)) return true;
  if (isLettersAlone(text) && kindCalled(text) === null) return false;
  if (kindOfDesignator(text) !== null && !/[-_]/.test(text)) return next?.kind !== "word" || isSaidOfPart(next.text);
  return next?.kind === "word" && isSaidOfPart(next.text);
}

const isValue = (text: string) => {
  const read = parseQuantity(text);
  return read.kind === "quantity" && (read.unit !== null || read.prefix !== "");
};

/** A value or another word of a part, whatever parts it from what comes next. */
function isSaidOfPart(text: string): boolean {
  const said = text.replace(/[,;]$/, "");
  return (
    ATTRIBUTE.test(said) || said.split("/").every((t) => parseQuantity(t.replace(/^=\s*/, "")).kind === "quantity")
  );
}

/** A designator that was meant by a word that is none: `R-1`, `R1,`, `R 1`, `SOL` before a value; null where there is none. */
export function mendDesignator(token: Token, next: Token | undefined, free: FreeNames): Mended | null {
  const { text } = token;
  const mended = (designator: string, takes: Token, says = "") => {
    const fix = writeInstead({ from: token.from, to: takes.to }, designator);
    return { designator, says, fix, takes };
  };
  const joined = /^([A-Za-z]{1,6})[-_#.]?(\d+[a-z]?)[,;.:/]?$/.exec(text);
  if (joined) return mended(joined[1] + joined[2], token);
  if (!/^[A-Za-z]{1,6}$/.test(text) || next?.kind !== "word") return null;
  const isPart = kindOfDesignator(`${text}1`) !== null || kindHintedBy(text) !== null;
  if (isPart && /^\d{1,3}[a-z]?$/.test(next.text)) return mended(text + next.text, next);
  if (!isPart || parseQuantity(next.text.replace(/^=\s*/, "")).kind !== "quantity") return null;
  return mended(free.part(text), token, ": it has a number");
}

/** What a word was probably meant to be that begins no part: a part and its value in one, one name in two words, a node, or nothing. */
export function remedyForStray(token: Token, next: Token | undefined): { says: string; fix: Fix } {
  const { text } = token;
  const glued = /^([A-Za-z]{1,6}\d+)[,;/-]+(\S+)$/.exec(text);
  if (glued) return { says: "", fix: writeInstead(token, `${glued[1]} ${glued[2]}`) };
  // A part in a list, and a value that stands before its part.
  const listed = /^(.+?)[,;]$/.exec(text)?.[1];
  if (listed !== undefined && DESIGNATOR_FORM.test(listed) && kindOfDesignator(listed) !== null)
    return { says: "", fix: writeInstead(token, `${listed} +`) };
  if (next?.kind === "word" && kindOfDesignator(next.text.replace(/[,;]$/, "")) !== null && isValue(text))
    return {
      says: "; a value stands behind its part",
      fix: writeInstead({ from: token.from, to: next.to }, next.text.replace(/^(.*?)([,;]?)$/, `$1 ${text}$2`)),
    };
  const joined = next?.kind === "word" ? `${text}_${next.text}` : "";
  if (next && /^[A-Za-z]+$/.test(text) && DESIGNATOR_FORM.test(joined) && kindCalled(next.text) !== null)
    return {
      says: `; a part’s name is one word, such as ${joined}`,
      fix: writeInstead({ from: token.from, to: next.to }, joined),
    };
  const name = nodeName(text);
  return name === null
    ? { says: "", fix: takeOut(token) }
    : {
        says: `; a node is written [${name}], and a part with its value behind it: R1 4k7, LEFT_LAMP 12V 5W, H-2 kind=lamp`,
        fix: writeInstead(token, `[${name}]`),
      };
}

/** `4,700` and `4.700`, which read as 4.7 and may be meant as 4700. @returns the larger one, null where it cannot be */
export function thousandsIn(word: string): string | null {
  const match = /^=?\s*([1-9]\d{0,2})[.,](\d{3})(\s*(?:Ω|ohms?|R))?$/i.exec(word);
  return match ? `${match[1]}${match[2]}` : null;
}

/** What a word behind a part was probably meant to be. */
export function remedyFor(word: Token, designator: string, kind: Kind): Fix {
  const plain = word.text.replace(/^=\s*/, "");
  // What parts people part in a list stands as + between the parts of a trail.
  if (/^(?:[,;]|-+>?|=>|→|–|—)$/.test(plain)) return writeInstead(word, "+");
  const listed = /^(.+?)[,;]$/.exec(plain)?.[1];
  if (listed !== undefined && parseQuantity(listed).kind === "quantity") return writeInstead(word, `${listed} +`);
  for (const meant of likely(plain)) {
    const pieces = meant.split(" ");
    const isUnderstood = pieces.every(
      (p) => /^(ac|mains|open|closed)$/.test(p) || parseQuantity(p).kind === "quantity",
    );
    if (meant !== plain && meant !== "" && isUnderstood) return writeInstead(word, meant);
  }
  if (/^[\d.,]+\s*[pnuµm]?H$/i.test(plain)) return writeInstead(word, kind === "coil" ? "?" : `note="${plain}"`);
  const unquoted = plain.replace(/^note=|"/g, "");
  const name = nodeName(plain);
  if (name !== null && plain.length <= 4 && /^[A-Z0-9_]+$/.test(plain) && plain !== designator)
    return writeInstead(word, `[${name}]`);
  return /[A-Za-z]{3}/.test(unquoted) && !plain.includes("=")
    ? writeInstead(word, `note="${unquoted}"`)
    : takeOut(word);
}

/** Ways to read a value that was not understood: a letter for a digit, a fraction, signs around it, two in one. */
function likely(text: string): string[] {
  const clean = text.replace(/[,;.:]+$/, "").replace(/^(?:±|\+\/-|~|ca\.?)\s*/, "");
  const digits = clean.replace(/[oO](?!hm)/g, "0").replace(/(?<![a-z])[lI](?=[\d.,])|(?<=\d)[lI]/g, "1");
  const kept = /^(\d+(?:[.,]\d+)?\s*V)\s*(AC|~)$/i.exec(clean);
  return [
    ...(kept ? [`${kept[1].replace(/\s/g, "")} ac`] : []),
    clean,
    digits,
    clean
      .replace(/\s*[/,;±]\s*/g, " ")
      .replace(/\s+/g, " ")
      .trim(),
    clean.replace(/^([\d.,]+\s*[kMmΩR]*)(\d+(?:[.,]\d+)?%)$/, "$1 $2"),
  ];
}

/** A name that a node could have, or null where the word is none. */
function nodeName(text: string): string | null {
  const name = text.replace(/[^A-Za-z0-9_]+/g, "_").replace(/^_+|_+$/g, "");
  return /^(?:[A-Za-z]\w{0,11}|0)$/.test(name) && /^[\w.-]+$/.test(text) ? name : null;
}
