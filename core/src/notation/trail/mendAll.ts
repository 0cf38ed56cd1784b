import { applyEdits } from "../mistake.ts";
import { readTrail } from "./readTrail.ts";

/** So many remedies are tried after each other, on a text of so many characters, and as long as they do not make it much longer. */
const MOST = { remedies: 30, characters: 3000, growth: 60 } as const;

/**
 * A trail with every mistake mended as is likely, one after the other, each read anew; questions are left to the person.
 * @returns null where some mistake stays, a word would go, or none is there
 */
export function mendAll(text: string): { readonly text: string; readonly count: number } | null {
  if (text.length > MOST.characters) return null;
  let now = text;
  for (let count = 0; count <= MOST.remedies && now.length <= text.length + MOST.growth; count += 1) {
    const { mistakes, circuit } = readTrail(now);
    // Single words first: what holds them may be right then.
    const [wrong] = mistakes.filter((m) => m.severity === "mistake").sort((a, b) => a.to - a.from - (b.to - b.from));
    if (!wrong) return circuit && count > 0 ? { text: tidy(now), count } : null;
    // A word that would go may be a part: that is for the person to say.
    if (!wrong.fix?.edits.every((e) => lettersIn(e.insert) >= lettersIn(now.slice(e.from, e.to)))) return null;
    const next = applyEdits(now, wrong.fix.edits);
    if (next === now) return null;
    now = next;
  }
  return null;
}

const lettersIn = (text: string) => text.replace(/[^A-Za-z0-9]/g, "").length;

/** No + right behind the colon, where that is the same circuit. */
function tidy(text: string): string {
  const tidied = text.replace(/:[^\S\n]*\+[^\S\n]*/g, ": ");
  return readTrail(tidied).circuit ? tidied : text;
}
