import {
  type Circuit,
  type FurtherLead,
  furtherLeads,
  isInstrumentOpen,
  isTakenForGranted,
  isToleranceWritten,
  type NodeName,
  nodesOf,
  type Part,
} from "../../circuit/index.ts";
import type { Mistake } from "../mistake.ts";
import { TRAIL_LIMITS, valueWords } from "../trail/index.ts";
import { headAt, headingOf, type PartColumn } from "./headings.ts";
import { aside, chainOf, listedParts } from "./list.ts";
import { NodeNames } from "./nodeNames.ts";
import { type Cells, LEADS, leadsIn, partOfRow } from "./rowPart.ts";
import { mistakeIn, type Sheet, sheetOf, unparse } from "./sheet.ts";

const COLUMNS = [
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
  "current_limit_a",
  "position",
  "wiper",
  "bridge_plus",
  "bridge_minus",
  "note",
] as const;

/** What the parts table has no column for, by part: to be said before writing one. */
export function lostInPartsTable(circuit: Circuit): string[] {
  const lost: string[] = [];
  if (circuit.title !== "") lost.push("the title");
  if (circuit.notes.length > 0) lost.push("the notes");
  if (circuit.points?.length) lost.push("what its test points are called");
  return lost;
}

/** Writes the parts table, RFC 4180. */
export function writeParts(circuit: Circuit): string {
  return unparse(
    COLUMNS,
    circuit.parts.map((part) => {
      const rated = "resistance" in part && part.resistance.by === "rating" ? part.resistance : null;
      return {
        designator: part.designator,
        kind: part.kind,
        from: part.from,
        to: part.to,
        ...valueAndUnit(part),
        // What nobody wrote is left for the reader's own usual one.
        tolerance_percent: isToleranceWritten(part) ? `${Number((part.tolerance * 100).toPrecision(12))}%` : undefined,
        power_rating_w: rated ? rated.watts : part.powerRating,
        current_rating_a: part.currentRating,
        internal_resistance_ohm: part.kind === "supply" && !isTakenForGranted(part) ? part.internalOhms : undefined,
        current_limit_a: part.kind === "supply" ? part.limit : undefined,
        position: positionOf(part),
        wiper: leadOf(part, "wiper"),
        bridge_plus: leadOf(part, "plus"),
        bridge_minus: leadOf(part, "minus"),
        note: part.note,
      };
    }),
  );
}

/** What is said with one figure. */
type Plain = Exclude<Part, { material: unknown } | { kind: "capacitor" }>;

function isPlain(part: Part): part is Plain {
  if ("resistance" in part) return part.hotOhms === undefined && part.pulls === undefined && part.drops === undefined;
  return "volts" in part ? "internalOhms" in part : "ohms" in part;
}

function leadOf(part: Part, lead: FurtherLead["lead"]): string | undefined {
  return furtherLeads(part).find((l) => l.lead === lead)?.node;
}

/** A supply's mark stands with its volts: `230V mains`. */
function valueAndUnit(part: Part): { value: number | string; unit: string } {
  if (!isPlain(part)) return { value: valueWords(part).join(" "), unit: "" };
  const value = mainValue(part);
  if (part.kind === "supply" && part.safety)
    return { value: `${value}${value === "?" ? "" : "V"} ${part.safety}`, unit: "" };
  const isRated = "resistance" in part && part.resistance.by === "rating";
  return { value, unit: part.kind === "supply" || isRated ? "V" : "ohm" };
}

function positionOf(part: Part): string | undefined {
  if (part.kind === "potentiometer") return `${Number((part.at * 100).toPrecision(12))}%`;
  return part.kind === "switch" ? part.position : undefined;
}

function mainValue(part: Plain): number | "?" | "" {
  if (part.kind === "supply") return part.volts ?? "?";
  // Of a meter that is drawn those of the meter in hand are taken where nobody wrote any.
  if ("ohms" in part && isInstrumentOpen(part)) return "";
  if (!("resistance" in part)) return part.ohms;
  const { resistance } = part;
  return resistance.by === "ohms" ? resistance.ohms : resistance.by === "rating" ? resistance.volts : "?";
}

const MOST_PARTS = TRAIL_LIMITS.parts;

export interface ReadParts {
  /** Null where anything is wrong. */
  readonly circuit: Circuit | null;
  /** Mistakes forbid taking it over; questions do not. */
  readonly mistakes: readonly Mistake[];
  /** Parts without a node to their name: values for a circuit that has them. */
  readonly loose: readonly Part[];
}

/**
 * Reads a parts table: CSV, a range of a spreadsheet, a table in a letter, or a list without headings. Columns in any
 * order, by ordinary words (headings.ts); values as in a trail. The reference is node 0, else the first supply's minus,
 * else the last node. A list that says no nodes puts the parts one behind the other, and says so.
 */
export function readParts(text: string): ReadParts {
  const sheet = sheetOf(text);
  const head = headAt(sheet.rows);
  const rows = head >= 0 ? headedRows(sheet, head) : listedParts(text, sheet);
  const mistakes = [...sheet.mistakes, ...rows.mistakes];
  const names = new NodeNames(rows.rows.flatMap((r) => r.cells.designator ?? []));
  const seen = new Map<string, number>();
  const placed: Part[] = [];
  const loose: Part[] = [];
  if (rows.rows.length > MOST_PARTS)
    mistakes.push(mistakeIn(rows.rows[MOST_PARTS].number, 1, `a circuit has at most ${MOST_PARTS} parts`));
  const hasEnds = rows.rows.some(({ cells }) => endsIn(cells).some((end) => end !== ""));
  for (const { cells: said, number, columnOf } of rows.rows.slice(0, MOST_PARTS)) {
    const cells = leadsIn(said);
    // A comment, or a sum below the parts: it is said, and blocks nothing.
    if (hasEnds && endsIn(cells).every((end) => end === "") && isNoPart(cells)) {
      mistakes.push(aside(number, Object.values(cells).join(" ")));
      continue;
    }
    const say = (severity: Mistake["severity"]) => (column: PartColumn, message: string) => {
      mistakes.push(mistakeIn(number, columnOf(column), `${cells.designator ?? column}: ${message}`, severity));
    };
    const part = partOfRow(cells, { wrong: say("mistake"), ask: say("question") });
    if (!part) continue;
    const before = seen.get(part.designator);
    if (before !== undefined) {
      say("mistake")("designator", `${part.designator} stands twice in the table, in row ${before} too`);
      continue;
    }
    seen.set(part.designator, number);
    const [from, to] = endsIn(cells);
    if (from === "" && to === "") loose.push(part);
    else if (from === "" || to === "")
      say("mistake")(from === "" ? "from" : "to", "a part lies between two nodes: the other one is missing");
    else {
      const leads = LEADS.flatMap((lead) => (cells[lead] === undefined ? [] : [[lead, names.of(cells[lead])]]));
      placed.push({ ...part, from: names.of(from), to: names.of(to), ...Object.fromEntries(leads) });
    }
  }
  for (const asked of names.questions) mistakes.push(mistakeIn(1, 1, asked, "question"));
  if (loose.length > 0 && placed.length > 0)
    for (const part of loose)
      mistakes.push(
        mistakeIn(seen.get(part.designator) ?? 1, 1, `${part.designator}: between which nodes does it lie?`),
      );
  const isWrong = mistakes.some((m) => m.severity === "mistake");
  if (!isWrong && placed.length + loose.length === 0)
    mistakes.push(mistakeIn(1, 1, "there are no parts in this table"));
  if (isWrong || placed.length + loose.length === 0) return { circuit: null, mistakes, loose: [] };
  if (placed.length === 0) {
    const chained = chainOf(loose);
    mistakes.push(
      mistakeIn(
        1,
        1,
        "the list says no nodes: the parts are put one behind the other, to be moved on the board",
        "question",
      ),
    );
    return { circuit: circuitOf(chained), mistakes, loose };
  }
  return { circuit: { ...circuitOf(placed), ...names.points() }, mistakes, loose: [] };
}

/** True of a row that begins with what no part is called. */
const isNoPart = ({ designator = "" }: Cells) => !/\d/.test(designator) || /^(?:#|\/\/|;|--)/.test(designator.trim());

/** One row with what each column says, and where that column stands. */
export interface TableRow {
  readonly cells: Cells;
  readonly number: number;
  readonly columnOf: (column: PartColumn) => number;
}

function headedRows({ rows }: Sheet, at: number): { rows: TableRow[]; mistakes: Mistake[] } {
  const [head, ...data] = rows.slice(at);
  const headings = head.cells.map(headingOf);
  const mistakes: Mistake[] = rows.slice(0, at).map((r) => aside(r.number, r.cells.filter((c) => c !== "").join(" ")));
  const columnOf = (column: PartColumn) => Math.max(1, headings.findIndex((h) => h.column === column) + 1);
  head.cells.forEach((text, i) => {
    const isTwice = headings.findIndex((h) => h.column === headings[i].column) < i;
    if (text !== "" && headings[i].column === null)
      mistakes.push(mistakeIn(head.number, i + 1, `column “${text}” is not known here and is passed over`, "question"));
    else if (headings[i].column !== "idle" && headings[i].column !== null && isTwice)
      mistakes.push(mistakeIn(head.number, i + 1, `there are two columns “${text}”: the first is read`, "question"));
  });
  const read = data.map(({ cells, number }) => {
    const said: Cells = {};
    headings.forEach(({ column, unit }, i) => {
      const text = cells[i]?.trim() ?? "";
      if (column === null || column === "idle" || said[column] !== undefined || text === "") return;
      said[column] = text;
      if (column === "value" && unit !== "" && said.unit === undefined) said.unit = unit;
      if (column === "tolerance" && unit === "%" && /\d$/.test(text)) said.tolerance = `${text}%`;
    });
    return { cells: said, number, columnOf };
  });
  return { rows: read, mistakes };
}

/** `A`, `B` of two columns, or of one: `A-B`, `A → B`, `A to B`, `A/B`. */
function endsIn(cells: Cells): [string, string] {
  const { from = "", to = "", ends = "" } = cells;
  if (from !== "" || to !== "" || ends === "") return [from, to];
  const [a = "", b = ""] = ends.split(/\s*(?:→|–|->|—|,|;|\/)\s*|\s+(?:to|and|-)\s+|(?<=\w)-(?=\w)/);
  return [a, b];
}

function circuitOf(parts: readonly Part[]): Circuit {
  const circuit: Circuit = { title: "", notes: [], parts: [...parts], reference: parts[0].to };
  const nodes = nodesOf(circuit);
  const supply = parts.find((p) => p.kind === "supply");
  const zero = nodes.find((n) => n === "0");
  return { ...circuit, reference: zero ?? supply?.to ?? (nodes.at(-1) as NodeName) };
}
