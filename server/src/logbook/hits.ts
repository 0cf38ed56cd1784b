import type { Knex } from "knex";

/** Columns of the words, in the order in which a hit in them is worth showing. */
const COLUMNS = ["complaint", "finding", "notes", "people", "circuit", "parts", "title"] as const;
/** Words shown before the first that was found, and in all. */
const BEFORE = 4;
const AROUND = 14;
const WORD = /[\p{L}\p{N}\p{M}]+/gu;

/** The words of a search, as the index has them: small, without marks over letters. */
export function wordsOf(search: string): string[] {
  return (search.normalize("NFKC").match(WORD) ?? []).map(folded);
}

/**
 * Where in each row of the index the words stand, marked by ‹ and ›: of the field in which most of them are. FTS5 has
 * this as well, at a third of a millisecond a row.
 */
export async function hitsIn(
  db: Knex,
  rows: readonly number[],
  words: readonly string[],
): Promise<ReadonlyMap<number, string>> {
  if (rows.length === 0) return new Map();
  const marks = rows.map(() => "?").join(", ");
  const found = (await db.raw(`SELECT rowid AS n, * FROM words WHERE rowid IN (${marks})`, [...rows])) as ({
    n: number;
  } & Record<(typeof COLUMNS)[number], string>)[];
  return new Map(
    found.flatMap((row): [number, string][] => {
      const texts = COLUMNS.map((column) => snippetOf(row[column], words));
      const best = texts.reduce((most, text) => (text.kinds > most.kinds ? text : most));
      return best.kinds > 0 ? [[row.n, best.text]] : [];
    }),
  );
}

/** A stretch of a text round the first word that was found, and how many of the words are in it. */
export function snippetOf(text: string, words: readonly string[]): { readonly text: string; readonly kinds: number } {
  const tokens = [...text.matchAll(WORD)].map((m) => ({ at: m.index, end: m.index + m[0].length, word: folded(m[0]) }));
  const hits = tokens.map(({ word }) => words.find((w) => word.startsWith(w)) ?? null);
  const first = hits.findIndex((h) => h !== null);
  if (first < 0) return { text: "", kinds: 0 };
  const from = Math.max(0, first - BEFORE);
  const to = Math.min(tokens.length, from + AROUND);
  let marked = from > 0 ? "…" : "";
  let at = from > 0 ? tokens[from].at : 0;
  for (let i = from; i < to; i += 1) {
    if (hits[i] === null) continue;
    marked += `${text.slice(at, tokens[i].at)}‹${text.slice(tokens[i].at, tokens[i].end)}›`;
    at = tokens[i].end;
  }
  const end = to < tokens.length ? tokens[to - 1].end : text.length;
  marked += `${text.slice(at, end)}${to < tokens.length ? "…" : ""}`;
  return { text: marked, kinds: new Set(hits.filter((h) => h !== null)).size };
}

function folded(word: string): string {
  return word.normalize("NFD").replace(/\p{M}/gu, "").toLowerCase();
}
