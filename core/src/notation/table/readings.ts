import { isDiodeTest, Reading, SEEN, type Seen, UNIT_OF } from "../../record/index.ts";
import { parseQuantity } from "../../units/index.ts";
import type { Mistake } from "../mistake.ts";
import { mistakeIn, sheetOf, unparse } from "./sheet.ts";

const READING_COLUMNS = [
  "quantity",
  "from",
  "to",
  "through",
  "value",
  "unit",
  "plus_minus",
  "meter",
  "range",
  "state",
  "taken_at",
  "note",
  "who",
] as const;

/** What a voltage by the meter's diode test is called in the first column. */
const TEST_WORD = "diode test";

export interface ReadTable<T> {
  /** Empty where anything is wrong. */
  readonly rows: readonly T[];
  readonly mistakes: readonly Mistake[];
}

/** Writes the readings table; cells that a spreadsheet would run as a formula are neutralised. */
export function writeReadings(readings: readonly Reading[]): string {
  return unparse(
    READING_COLUMNS,
    readings.map((r) => ({
      quantity: isDiodeTest(r) ? TEST_WORD : r.quantity,
      from: "from" in r ? r.from : undefined,
      to: "to" in r ? r.to : undefined,
      through: r.quantity === "current" ? r.through : r.quantity === "observation" ? r.part : r.lifted,
      value: r.quantity === "observation" ? r.seen : r.value,
      unit: r.quantity === "observation" ? "" : UNIT_OF[r.quantity],
      plus_minus: r.plusMinus,
      meter: r.meter,
      range: r.range,
      state: r.state && Object.keys(r.state).length > 0 ? JSON.stringify(r.state) : undefined,
      taken_at: r.takenAt,
      note: r.note,
      who: r.who,
    })),
  );
}

/** Reads a readings table with `,` or `;`. */
export function readReadings(text: string): ReadTable<Reading> {
  const { rows, mistakes } = readTable(text, ["quantity", "value"], (cells, fail) => {
    const plusMinus = numberIn(cells, "plus_minus", fail);
    const common = {
      ...(plusMinus === undefined ? {} : { plusMinus }),
      ...Object.fromEntries(
        [
          ["meter", cells.meter],
          ["range", cells.range],
          ["takenAt", cells.taken_at],
          ["note", cells.note],
          ["who", cells.who],
        ].filter(([, v]) => v),
      ),
      ...(cells.state ? { state: stateIn(cells.state, fail) } : {}),
    };
    const points = { ...(cells.from ? { from: cells.from } : {}), ...(cells.to ? { to: cells.to } : {}) };
    const candidate =
      cells.quantity === "observation"
        ? { quantity: "observation", part: cells.through, seen: cells.value as Seen, ...common }
        : cells.quantity === "current"
          ? { quantity: "current", through: cells.through, value: numberIn(cells, "value", fail), ...common }
          : {
              ...(cells.quantity === TEST_WORD ? { quantity: "voltage", test: "diode" } : { quantity: cells.quantity }),
              ...points,
              ...(cells.through ? { lifted: cells.through } : {}),
              value: numberIn(cells, "value", fail),
              ...common,
            };
    const parsed = Reading.safeParse(candidate);
    if (parsed.success) return parsed.data;
    if (cells.quantity === "observation" && !(cells.value in SEEN))
      fail("value", `“${cells.value}” is nothing that is seen here; there are ${Object.keys(SEEN).join(", ")}`);
    else for (const issue of parsed.error.issues) fail(...plainly(issue, cells));
    return null;
  });
  return { rows: mistakes.length > 0 ? [] : rows, mistakes };
}

function stateIn(text: string, fail: Fail): unknown {
  try {
    return JSON.parse(text);
  } catch {
    fail("state", "the state is not JSON");
    return {};
  }
}

/** What a reading lacks, in the words of the table. */
function plainly(
  issue: { readonly path: readonly PropertyKey[]; readonly message: string },
  cells: Cells,
): [string, string] {
  const key = String(issue.path[0] ?? "quantity");
  if (key === "quantity")
    return ["quantity", `“${cells.quantity}” is none of voltage, current, resistance, ${TEST_WORD} and observation`];
  const column =
    { lifted: "through", part: "through", takenAt: "taken_at", plusMinus: "plus_minus", seen: "value" }[key] ?? key;
  const given = cells[column] ?? "";
  if (given !== "") return [column, `“${given}” is nothing that belongs here`];
  return [column, `${{ from: "the node", through: "the part", value: "the value" }[column] ?? column} is missing`];
}

type Cells = Record<string, string>;
type Fail = (column: string, message: string) => void;

function readTable<T>(
  text: string,
  needed: readonly string[],
  rowOf: (cells: Cells, fail: Fail) => T | null,
): ReadTable<T> {
  const sheet = sheetOf(text);
  const [head, ...data] = sheet.rows;
  const columns = head?.cells.map((h) => h.trim().toLowerCase()) ?? [];
  const mistakes: Mistake[] = [...sheet.mistakes];
  const missing = needed.filter((name) => !columns.includes(name));
  if (missing.length > 0) {
    mistakes.push(mistakeIn(1, 1, `the first row must name the columns; missing: ${missing.join(", ")}`));
    return { rows: [], mistakes };
  }
  const rows: T[] = [];
  for (const { cells: values, number } of data) {
    const cells: Cells = Object.fromEntries(columns.map((name, k) => [name, values[k] ?? ""]));
    const fail: Fail = (column, message) =>
      mistakes.push(mistakeIn(number, Math.max(1, columns.indexOf(column) + 1), `${column}: ${message}`));
    const row = rowOf(cells, fail);
    if (row !== null) rows.push(row);
  }
  return { rows, mistakes };
}

/** A number, with a decimal comma or a prefix and unit too. */
function numberIn(cells: Cells, column: string, fail: Fail): number | undefined {
  const text = cells[column];
  if (text === undefined || text === "") return undefined;
  const read = parseQuantity(text);
  if (read.kind === "quantity") return read.value;
  fail(column, read.why);
  return undefined;
}
