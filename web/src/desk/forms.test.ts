import { readdirSync, readFileSync } from "node:fs";
import { join } from "node:path";
import { describe, expect, it } from "vitest";

const WEB = join(import.meta.dirname, "..");
/** Fields that one types no words into. */
const PICKED = ["checkbox", "radio", "range", "file"];

/** Fields of text that keep nothing by themselves, each with what keeps its words, or why there are none to keep. */
const ELSEWHERE: Readonly<Record<string, string>> = {
  "app/SearchField.tsx": "a search: the page's address has it, or it is typed again",
  "app/ShortcutsDialog.tsx": "one letter, chosen at once",
  "bench/BenchView.tsx": "the reading line: session/useReadingLine keeps it",
  "circuit/ImportDialog.tsx": "circuit/useIncoming keeps it",
  "circuit/PlainTrail.tsx": "the trail: the desk keeps it as it is typed",
  "circuit/PartsTable.tsx": "a filter of rows",
  "jobs/Filters.tsx": "a filter: the page's address has it",
  "line/QuickLine.tsx": "the reading line: session/useReadingLine keeps it",
  "practice/Sets.tsx": "the device's own name for who works here, kept at each letter",
  "readings/ReadingsExchange.tsx": "the device's own name for who works here, kept at each letter",
  "workshop/PairPage.tsx": "a code that is good once",
};

/** The attributes of each `<input` or `<textarea`, as written. */
function fieldsIn(source: string): string[] {
  return [...source.matchAll(/<(?:input|textarea)\b/g)].map(({ index }) => {
    let depth = 0;
    let end = index;
    for (; end < source.length && !(source[end] === ">" && depth === 0); end += 1) {
      if (source[end] === "{") depth += 1;
      else if (source[end] === "}") depth -= 1;
    }
    return source.slice(index, end);
  });
}

/** Whether words are typed into it: its type is what stands outside of braces. */
function takesWords(field: string): boolean {
  const type = /\btype="(\w+)"/.exec(field)?.[1] ?? "text";
  return !PICKED.includes(type);
}

describe("forms", () => {
  const files = (readdirSync(WEB, { recursive: true }) as string[]).filter((name) => name.endsWith(".tsx"));
  const withWords = files.filter((name) => fieldsIn(readFileSync(join(WEB, name), "utf8")).some(takesWords));
  const isKept = (name: string) => /\buseKept(?:<[^(]*>)?\(/.test(readFileSync(join(WEB, name), "utf8"));

  it("keep what is typed on the device, all of them by the one mechanism", () => {
    expect(withWords.length).toBeGreaterThan(20);
    expect(withWords.filter((name) => !isKept(name) && !(name in ELSEWHERE))).toEqual([]);
  });

  it("that keep their words elsewhere still have words", () => {
    expect(Object.keys(ELSEWHERE).filter((name) => !withWords.includes(name) || isKept(name))).toEqual([]);
    for (const keeper of ["session/useReadingLine.ts", "circuit/useIncoming.tsx"]) expect(isKept(keeper)).toBe(true);
  });
});
