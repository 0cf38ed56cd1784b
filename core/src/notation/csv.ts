import Papa from "papaparse";
import {
  type Circuit,
  CONTACT_KINDS,
  DEFAULTS,
  KIND_NAMES,
  KINDS,
  type Kind,
  kindOfDesignator,
  meterOhms,
  type NodeName,
  nodesOf,
  Part,
} from "../circuit/index.ts";
import { Reading, SEEN, type Seen } from "../record/index.ts";
import { type Mistake, positionAt } from "./mistake.ts";

const PART_COLUMNS = [
  "designator",
  "kind",
  "from",
  "to",
  "value",
  "unit",
  "tolerance_percent",
  "power_rating_w",
  "current_rating_a",
  "internal_resistance_ohm",
  "note",
] as const;
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
] as const;

export interface ReadTable<T> {
  /** Empty where anything is wrong. */
  readonly rows: readonly T[];
  readonly mistakes: readonly Mistake[];
}

type Cells = Record<string, string>;

/** What the parts table has no column for, by part: to be said before writing one. */
export function lostInPartsTable(circuit: Circuit): string[] {
  const lost: string[] = [];
  if (circuit.title !== "") lost.push("the title");
  if (circuit.notes.length > 0) lost.push("the notes");
  for (const part of circuit.parts) {
    if (part.kind === "potentiometer") lost.push(`${part.designator}'s position and wiper`);
    if (part.kind === "supply" && (part.limit !== undefined || part.safety))
      lost.push(`${part.designator}'s current limit or mains mark`);
    if (part.kind === "switch" && part.position === "open") lost.push(`that ${part.designator} is open`);
  }
  return lost;
}

/** Writes the parts table, RFC 4180. */
export function writeParts(circuit: Circuit): string {
  return unparse(
    PART_COLUMNS,
    circuit.parts.map((part) => {
      const rated = "resistance" in part && part.resistance.by === "rating" ? part.resistance : null;
      return {
        designator: part.designator,
        kind: part.kind,
        from: part.from,
        to: part.to,
        value: mainValue(part),
        unit: part.kind === "supply" || rated ? "V" : "ohm",
        tolerance_percent: Number((part.tolerance * 100).toPrecision(12)),
        power_rating_w: rated ? rated.watts : part.powerRating,
        current_rating_a: part.currentRating,
        internal_resistance_ohm: part.kind === "supply" ? part.internalOhms : undefined,
        note: part.note,
      };
    }),
  );
}

function mainValue(part: Part): number | undefined {
  if (part.kind === "supply") return part.volts ?? undefined;
  if (!("resistance" in part)) return part.ohms;
  const { resistance } = part;
  return resistance.by === "ohms" ? resistance.ohms : resistance.by === "rating" ? resistance.volts : undefined;
}

/** Reads a parts table with `,` or `;`; the reference is node 0, else the first supply's minus, else the last node. */
export function readParts(text: string): { readonly circuit: Circuit | null; readonly mistakes: readonly Mistake[] } {
  const { rows, mistakes } = readTable(text, ["designator", "from", "to"], (cells, fail) => partOf(cells, fail));
  const all = [...mistakes];
  const seen = new Set<string>();
  for (const part of rows) {
    if (seen.has(part.designator))
      all.push(mistake(text, text.indexOf(part.designator), `${part.designator} stands twice in the table`));
    seen.add(part.designator);
  }
  if (all.length > 0 || rows.length === 0) {
    if (rows.length === 0 && all.length === 0) all.push(mistake(text, 0, "the table has no parts"));
    return { circuit: null, mistakes: all };
  }
  const circuit: Circuit = { title: "", notes: [], parts: [...rows], reference: rows[0].to };
  const nodes = nodesOf(circuit);
  const supply = rows.find((p) => p.kind === "supply");
  const zero = nodes.find((n) => n === "0");
  return { circuit: { ...circuit, reference: zero ?? supply?.to ?? (nodes.at(-1) as NodeName) }, mistakes: [] };
}

type Fail = (column: string, message: string) => void;

function partOf(cells: Cells, fail: Fail): Part | null {
  const { designator } = cells;
  const named = cells.kind || kindOfDesignator(designator);
  if (!named || !(KIND_NAMES as readonly string[]).includes(named)) {
    fail("kind", `“${cells.kind || designator}” is no kind of part; kinds are ${KIND_NAMES.join(", ")}`);
    return null;
  }
  const kind = named as Kind;
  const value = numberIn(cells, "value", fail);
  const tolerance = numberIn(cells, "tolerance_percent", fail);
  const power = numberIn(cells, "power_rating_w", fail);
  const current = numberIn(cells, "current_rating_a", fail);
  const inside = numberIn(cells, "internal_resistance_ohm", fail);
  const shared = {
    designator,
    from: cells.from,
    to: cells.to,
    tolerance: tolerance === undefined ? KINDS[kind].tolerance : tolerance / 100,
    ...(power === undefined ? {} : { powerRating: power }),
    ...(current === undefined ? {} : { currentRating: current }),
    ...(cells.note ? { note: cells.note } : {}),
  };
  const parsed = Part.safeParse({
    ...shared,
    kind,
    ...fieldsOf(kind, cells.designator, value, cells.unit ?? "", power, current, inside),
  });
  if (parsed.success) return parsed.data;
  for (const issue of parsed.error.issues)
    fail(String(issue.path[0] ?? "value"), `${issue.path.join(".")}: ${issue.message}`);
  return null;
}

function fieldsOf(
  kind: Kind,
  designator: string,
  value: number | undefined,
  unit: string,
  power?: number,
  current?: number,
  inside?: number,
): object {
  if (kind === "supply") return { volts: value ?? null, internalOhms: inside ?? DEFAULTS.internalOhms };
  if (kind === "fuse") return { ohms: value ?? DEFAULTS.fuseVolts / (current ?? DEFAULTS.fuseAmps) };
  if (kind === "switch") return { ohms: value ?? DEFAULTS.contactOhms, position: "closed" };
  if (CONTACT_KINDS.has(kind)) return { ohms: value ?? DEFAULTS.contactOhms };
  if (kind === "meter") return { ohms: value ?? meterOhms(designator) };
  if (kind === "potentiometer") return { ohms: value, at: 0.5 };
  if (value === undefined) return { resistance: { by: "unknown" } };
  if (/^v/i.test(unit)) return { resistance: { by: "rating", volts: value, watts: power } };
  return { resistance: { by: "ohms", ohms: value } };
}

/** Writes the readings table; cells that a spreadsheet would run as a formula are neutralised. */
export function writeReadings(readings: readonly Reading[]): string {
  return unparse(
    READING_COLUMNS,
    readings.map((r) => ({
      quantity: r.quantity,
      from: "from" in r ? r.from : undefined,
      to: "to" in r ? r.to : undefined,
      through:
        r.quantity === "current"
          ? r.through
          : r.quantity === "observation"
            ? r.part
            : r.quantity === "resistance"
              ? r.lifted
              : undefined,
      value: r.quantity === "observation" ? r.seen : r.value,
      unit: { voltage: "V", current: "A", resistance: "ohm", observation: "" }[r.quantity],
      plus_minus: r.plusMinus,
      meter: r.meter,
      range: r.range,
      state: r.state && Object.keys(r.state).length > 0 ? JSON.stringify(r.state) : undefined,
      taken_at: r.takenAt,
      note: r.note,
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
              quantity: cells.quantity,
              ...points,
              ...(cells.through ? { lifted: cells.through } : {}),
              value: numberIn(cells, "value", fail),
              ...common,
            };
    const parsed = Reading.safeParse(candidate);
    if (parsed.success) return parsed.data;
    if (cells.quantity === "observation" && !(cells.value in SEEN))
      fail("value", `“${cells.value}” is nothing that is seen here; there are ${Object.keys(SEEN).join(", ")}`);
    else fail("quantity", parsed.error.issues.map((i) => `${i.path.join(".")}: ${i.message}`).join("; "));
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

function readTable<T>(
  text: string,
  needed: readonly string[],
  rowOf: (cells: Cells, fail: Fail) => T | null,
): ReadTable<T> {
  const body = text.replace(/^\ufeff/, "");
  const delimiter = /^[^\n]*;/.test(body) ? ";" : ",";
  const parsed = Papa.parse<string[]>(body, { delimiter, skipEmptyLines: "greedy" });
  const [head = [], ...data] = parsed.data;
  const columns = head.map((h) => h.trim().toLowerCase());
  const mistakes: Mistake[] = parsed.errors
    .filter((e) => e.code !== "UndetectableDelimiter")
    .map((e) => ({
      severity: "mistake" as const,
      from: 0,
      to: 1,
      line: (e.row ?? 0) + 1,
      column: 1,
      message: e.message,
    }));
  const missing = needed.filter((name) => !columns.includes(name));
  if (missing.length > 0) {
    mistakes.push(mistake(text, 0, `the first line must name the columns; missing: ${missing.join(", ")}`));
    return { rows: [], mistakes };
  }
  const rows: T[] = [];
  data.forEach((values, i) => {
    const cells: Cells = Object.fromEntries(columns.map((name, k) => [name, disarmedBack((values[k] ?? "").trim())]));
    if (delimiter === ";")
      for (const [name, value] of Object.entries(cells))
        if (/^-?\d+,\d+$/.test(value)) cells[name] = value.replace(",", ".");
    const fail: Fail = (column, message) =>
      mistakes.push({
        severity: "mistake",
        from: 0,
        to: 1,
        line: i + 2,
        column: Math.max(1, columns.indexOf(column) + 1),
        message: `${column}: ${message}`,
      });
    const row = rowOf(cells, fail);
    if (row !== null) rows.push(row);
  });
  return { rows, mistakes };
}

function numberIn(cells: Cells, column: string, fail: Fail): number | undefined {
  const text = cells[column];
  if (text === undefined || text === "") return undefined;
  const value = Number(text);
  if (Number.isFinite(value)) return value;
  fail(column, `“${text}” is not a number`);
  return undefined;
}

function unparse(columns: readonly string[], rows: readonly Record<string, unknown>[]): string {
  const disarmed = rows.map((row) =>
    Object.fromEntries(columns.map((c) => [c, typeof row[c] === "string" ? disarm(row[c]) : (row[c] ?? "")])),
  );
  return `${Papa.unparse({ fields: [...columns], data: disarmed }, { newline: "\r\n" })}\r\n`;
}

/** A text that a spreadsheet would take for a formula gets an apostrophe in front; reading takes it off again. */
function disarm(text: string): string {
  return /^[=+\-@\t\r']/.test(text) && text !== "+" ? `'${text}` : text;
}

function disarmedBack(text: string): string {
  return /^'[=+\-@\t\r']/.test(text) ? text.slice(1) : text;
}

function mistake(text: string, at: number, message: string): Mistake {
  return {
    severity: "mistake",
    from: Math.max(0, at),
    to: Math.max(0, at) + 1,
    ...positionAt(text, Math.max(0, at)),
    message,
  };
}
