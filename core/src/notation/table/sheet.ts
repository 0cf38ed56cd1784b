import Papa from "papaparse";
import { foldCharacters } from "../../units/index.ts";
import type { Mistake } from "../mistake.ts";

/** One row of cells, with its number in the text, from 1. */
export interface Row {
  readonly cells: readonly string[];
  readonly number: number;
}

export interface Sheet {
  readonly rows: readonly Row[];
  readonly mistakes: readonly Mistake[];
  /** What parts the columns; " " where it is only space. */
  readonly delimiter: string;
}

/** Parts a pasted range, a CSV file, a table drawn with | or columns of words into cells; empty rows are dropped. */
export function sheetOf(source: string): Sheet {
  const text = source.replace(/^\ufeff/, "");
  const delimiter = delimiterOf(text);
  if (delimiter === " " || delimiter === "|") {
    const part = delimiter === "|" ? /\s*\|\s*/ : / {2,}|\s+/;
    const rows = text.split(/\r?\n/).map((line, i) => ({
      cells: line
        .trim()
        .replace(/^\|\s*|\s*\|$/g, "")
        .split(part),
      number: i + 1,
    }));
    const isRule = (cells: readonly string[]) => cells.every((c) => /^:?-*:?$/.test(c));
    return { rows: rows.filter((r) => !isRule(r.cells)), mistakes: [], delimiter };
  }
  const parsed = Papa.parse<string[]>(text, { delimiter });
  const rows = parsed.data
    .map((cells, i) => ({ cells: cells.map((c) => disarmedBack(foldSpaces(c).trim())), number: i + 1 }))
    .filter((r) => r.cells.some((c) => c !== ""));
  const mistakes = parsed.errors
    .filter((e) => e.code !== "UndetectableDelimiter" && e.type !== "Delimiter")
    .map((e) => mistakeIn((e.row ?? 0) + 1, 1, QUOTES[e.code] ?? "the quotes in this row do not match"));
  return { rows, mistakes, delimiter };
}

const QUOTES: Readonly<Record<string, string>> = {
  MissingQuotes: "a quote is opened in this row and never closed",
  InvalidQuotes: "a quoted cell ends in the middle: after the closing quote comes the next column",
};

/** Places in tables are row and column, both from 1. */
export function mistakeIn(
  row: number,
  column: number,
  message: string,
  severity: Mistake["severity"] = "mistake",
): Mistake {
  return { severity, from: 0, to: 1, line: row, column, message };
}

function foldSpaces(text: string): string {
  return foldCharacters(text) === text ? text : text.replace(/[\u00a0\u2000-\u200a\u202f\u3000]/g, " ");
}

function delimiterOf(text: string): string {
  const lines = text.split(/\r?\n/).filter((line) => line.trim() !== "");
  if (lines.some((line) => line.includes("\t"))) return "\t";
  if (lines.length > 1 && lines.every((line) => /^\s*\|.*\|\s*$/.test(line))) return "|";
  const counts = (mark: string) => lines.map((line) => line.replace(/"[^"]*"/g, "").split(mark).length - 1);
  const isRegular = (mark: string) => {
    const [first, ...others] = counts(mark);
    return first > 0 && others.filter((n) => n === first).length >= others.length * 0.6;
  };
  if (isRegular(";")) return ";";
  // A comma that only stands between digits is a decimal one.
  const parts = lines.filter((line) => /,\D|\D,|,$/.test(line)).length;
  // Running words have commas too.
  const isRunning = lines.some((line) =>
    line
      .replace(/"[^"]*"/g, "")
      .split(",")
      .some((c) => c.trim().split(/\s+/).length > 6),
  );
  if (isRegular(",") && parts >= lines.length * 0.6 && !isRunning) return ",";
  return lines.length > 0 && /[;,]/.test(lines[0]) && /^\s*"?(designator|part|ref|quantity)/i.test(lines[0])
    ? lines[0].includes(";")
      ? ";"
      : ","
    : " ";
}

/** What some spreadsheet takes for a formula: wide signs and those after a line break, too. */
const FORMULA = /^(?:[\t\r\n']|\s*[=+\-@＝＋－＠])/;

/** A text that a spreadsheet would take for a formula gets an apostrophe in front; reading takes it off again. */
export function disarm(text: string): string {
  return FORMULA.test(text) && text !== "+" ? `'${text}` : text;
}

function disarmedBack(text: string): string {
  return text.startsWith("'") && FORMULA.test(text.slice(1)) ? text.slice(1) : text;
}

/** Writes a table, RFC 4180; cells that a spreadsheet would run as a formula are neutralised. */
export function unparse(columns: readonly string[], rows: readonly Record<string, unknown>[]): string {
  const disarmed = rows.map((row) =>
    Object.fromEntries(columns.map((c) => [c, typeof row[c] === "string" ? disarm(row[c]) : (row[c] ?? "")])),
  );
  return `${Papa.unparse({ fields: [...columns], data: disarmed }, { newline: "\r\n" })}\r\n`;
}
