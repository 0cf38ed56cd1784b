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
    return [kind, word, `${word}s`, ...called].map((w) => [w, kind] as const);
  }),
);

const DESIGNATOR = /^([A-Za-z]+)(\d+)([a-z]?)$/;

/** Letters and number of a designator (`RV12` → RV, 12); null where the text has not that form. */
export function splitDesignator(text: string): { letters: string; number: number } | null {
  const match = DESIGNATOR.exec(text);
  return match ? { letters: match[1].toUpperCase(), number: Number(match[2]) } : null;
}

/** The kind that a designator's letters stand for, or null. */
export function kindOfDesignator(designator: string): Kind | null {
  const split = splitDesignator(designator);
  return split ? (BY_LETTERS.get(split.letters) ?? null) : null;
}

/** The kind that letters of another drawing's custom probably stand for, or null. */
export function kindHintedBy(letters: string): Kind | null {
  return BY_HINT.get(letters.toUpperCase()) ?? null;
}

/** The kind that a word of the trade stands for, or null. */
export function kindCalled(word: string): Kind | null {
  return BY_WORD.get(word.toLowerCase()) ?? null;
}
