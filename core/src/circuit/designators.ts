import { KIND_NAMES, KINDS, type Kind, rowOf } from "./kinds.ts";

const BY_LETTERS = new Map<string, Kind>(
  KIND_NAMES.flatMap((kind) => KINDS[kind].letters.map((letters) => [letters, kind] as const)),
);

const BY_HINT = new Map<string, Kind>(
  KIND_NAMES.flatMap((kind) => KINDS[kind].also.map((letters) => [letters, kind] as const)),
);

const BY_WORD = new Map<string, Kind>(
  KIND_NAMES.flatMap((kind) => {
    const { word, called } = rowOf(kind);
    return [kind, word, `${word}s`, ...called].map((w) => [w.toLowerCase(), kind] as const);
  }),
);

/** What a designator may look like: `R1`, any one word of a drawing, `LEFT_LAMP`, `H-2`, and a contact of K1, `K1.no`. */
export const DESIGNATOR_FORM = /^[A-Za-z](?:[A-Za-z0-9_-]{0,30}[A-Za-z0-9])?(?:\.[Nn][OoCc]\d{0,2})?$/;

const NUMBERED = /^([A-Za-z]+)[-_]?(\d+)([a-z]?)$/;
/** A contact goes by its coil's name, and by how it is while nothing pulls: normally open, normally closed. */
const CONTACT = /^(.+)\.(n[oc])\d{0,2}$/i;
/** What a part's branches are called behind its designator, where it has several. */
const SECTION = new RegExp(`\\.(?:${KIND_NAMES.flatMap((kind) => rowOf(kind).sections ?? []).join("|")})$`, "i");

/** The coil that a contact follows, and whether it closes when that pulls in; null of what is no contact. */
export function contactOf(designator: string): { readonly coil: string; readonly closes: boolean } | null {
  const [, coil, rest] = CONTACT.exec(designator) ?? [];
  return coil === undefined ? null : { coil, closes: rest.toLowerCase() === "no" };
}

/** `a lamp`, `an LED`. */
export const aKind = (kind: Kind): string =>
  `${/^(?:[aeiou]|LED)/.test(rowOf(kind).word) ? "an" : "a"} ${rowOf(kind).word}`;

/** How parts of a kind are called, for people to read: letters, or a contact after its coil. */
export const calledAs = (kind: Kind): readonly string[] =>
  rowOf(kind).follows ? ["K1.no", "K1.nc"] : rowOf(kind).letters;

/** The designator of the part that a branch belongs to: RV1 of `RV1.top`, and `K1.no` as it is. */
export const designatorOf = (branch: string): string => branch.replace(SECTION, "");

/** The branch that stands for a part: `RV1.top` of RV1, and R1 as it is. */
export function branchCalled(designator: string, kind: Kind): string {
  const { sections } = rowOf(kind);
  return sections ? `${designator}.${sections[0]}` : designator;
}

/** Letters and number of a designator (`RV12`, `RV-12` → RV, 12); null where the text has not that form. */
export function splitDesignator(text: string): { letters: string; number: number } | null {
  const match = NUMBERED.exec(text);
  return match ? { letters: match[1].toUpperCase(), number: Number(match[2]) } : null;
}

/**
 * The kind that a designator stands for by its letters (`R1`, `H-2` by none), by a word of the trade in it (`LEFT_LAMP`,
 * `heater2`), or by the letters it begins with (`F_MAIN`); null where it says nothing.
 */
export function kindOfDesignator(designator: string): Kind | null {
  if (contactOf(designator)) return DESIGNATOR_FORM.test(designator) ? "contact" : null;
  const split = splitDesignator(designator);
  const numbered = split && BY_LETTERS.get(split.letters);
  if (numbered) return numbered;
  if (!DESIGNATOR_FORM.test(designator)) return null;
  const words = designator.split(/[-_]/).map((w) => w.replace(/\d+[a-z]?$/, "").toLowerCase());
  const called = words.findLast((w) => BY_WORD.has(w));
  if (called !== undefined) return BY_WORD.get(called) ?? null;
  return words.length > 1 && split === null ? (BY_LETTERS.get(words[0].toUpperCase()) ?? null) : null;
}

/** The letters that say what a part is: `VM` of `VM1` and of `VM_MAIN`. */
export function lettersOf(designator: string): string {
  return (splitDesignator(designator)?.letters ?? designator.split(/[-_]/)[0]).toUpperCase();
}

/** The kind that letters of another drawing's custom probably stand for, or null. */
export function kindHintedBy(letters: string): Kind | null {
  return BY_HINT.get(letters.toUpperCase()) ?? null;
}

/** The kind that a word of the trade stands for, or null. */
export function kindCalled(word: string): Kind | null {
  return BY_WORD.get(word.toLowerCase()) ?? null;
}
