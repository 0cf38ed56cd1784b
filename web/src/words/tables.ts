import type { Unit } from "@hound/core/units";
import { printNumber } from "./print.ts";

/** A table to be taken elsewhere: figures in base units, exact; null where there is none. */
export interface TableData {
  readonly title: string;
  readonly columns: readonly { readonly name: string; readonly unit?: Unit }[];
  readonly rows: readonly (readonly (string | number | null)[])[];
}

const SYMBOL: Readonly<Record<Unit, string>> = { V: "V", A: "A", W: "W", ohm: "Ω", "%": "%" };
/** Figures of a rounded copy. */
const DIGITS = 4;

/** For a spreadsheet: tabs, units at the head, figures rounded, in the decimal sign agreed on. */
export function tabbed(tables: readonly TableData[], stamp: string): string {
  const cell = (value: string | number | null) =>
    value === null ? "" : typeof value === "number" ? plain(value) : value.replace(/[\t\n]+/g, " ");
  return lines(tables, stamp, "\t", cell, ({ name, unit }) => (unit ? `${name} (${SYMBOL[unit]})` : name));
}

function plain(value: number): string {
  return Number.isFinite(value) ? printNumber(value, DIGITS).replace("−", "-") : "";
}

/** For programs: RFC 4180, base units, every digit, a decimal point. */
export function commaSeparated(tables: readonly TableData[], stamp: string): string {
  const quoted = (text: string) => (/[",\n]/.test(text) ? `"${text.replaceAll('"', '""')}"` : text);
  const safe = (text: string) => quoted(/^[=+\-@]./.test(text) ? `'${text}` : text);
  const cell = (value: string | number | null) =>
    value === null ? "" : typeof value === "number" ? (Number.isFinite(value) ? String(value) : "") : safe(value);
  return lines(tables, quoted(stamp), ",", cell, ({ name, unit }) => quoted(unit ? `${name} (${SYMBOL[unit]})` : name));
}

function lines(
  tables: readonly TableData[],
  stamp: string,
  between: string,
  cell: (value: string | number | null) => string,
  head: (column: TableData["columns"][number]) => string,
): string {
  const blocks = tables.map(({ title, columns, rows }) =>
    [title, columns.map(head).join(between), ...rows.map((row) => row.map(cell).join(between))].join("\n"),
  );
  return `${stamp}\n${blocks.join("\n\n")}\n`;
}
