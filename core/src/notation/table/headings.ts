/** What a column of a parts table says. */
export type PartColumn =
  | "designator"
  | "kind"
  | "from"
  | "to"
  | "ends"
  | "value"
  | "unit"
  | "tolerance"
  | "power"
  | "current"
  | "rating"
  | "inside"
  | "limit"
  | "position"
  | "wiper"
  | "plus"
  | "minus"
  | "note";

/** Words at the head of a column that mean it, in lower case; the first is ours. One table for reader, page and help. */
export const HEADINGS: Readonly<Record<PartColumn, readonly string[]>> = {
  designator: [
    "part",
    "designator",
    "ref",
    "ref.",
    "refdes",
    "ref des",
    "reference",
    "component",
    "comp",
    "name",
    "id",
    "item",
    "bauteil",
    "composant",
    "repère",
  ],
  kind: ["kind", "type", "art", "typ"],
  from: ["from", "node 1", "node1", "n1", "node a", "pin 1", "pin1", "a", "start", "plus", "+", "von", "de"],
  to: ["to", "node 2", "node2", "n2", "node b", "pin 2", "pin2", "b", "end", "minus", "-", "nach", "bis", "à", "vers"],
  ends: ["nodes", "between", "connection", "connections", "net", "nets", "where", "from/to", "from - to"],
  value: ["value", "val", "val.", "ohms", "resistance", "r", "nominal", "wert", "valeur"],
  unit: ["unit", "units", "einheit", "unité"],
  tolerance: ["tol", "tol.", "tolerance", "tolerance_percent", "tol %", "toleranz", "tolérance"],
  power: ["power", "power_rating_w", "watts", "watt", "wattage", "p", "leistung", "puissance"],
  current: ["current", "current_rating_a", "amps", "amperes", "strom", "courant"],
  rating: ["rating", "rated", "ratings", "max"],
  inside: ["inside", "internal_resistance_ohm", "internal resistance", "ri", "r_i"],
  limit: ["limit", "current_limit_a", "current limit", "i limit", "i_limit"],
  position: ["position", "state", "at", "set to", "setting", "stellung"],
  wiper: ["wiper", "tap", "slider", "node 3", "node3", "n3", "pin 3", "pin3", "schleifer", "curseur"],
  plus: ["bridge_plus", "dc plus", "dc+"],
  minus: ["bridge_minus", "dc minus", "dc-"],
  note: ["note", "notes", "comment", "comments", "remark", "remarks", "description", "desc", "bemerkung", "remarque"],
};
/** Columns that say nothing a circuit needs: passed over without a word. */
const IDLE = new Set([
  "#",
  "no",
  "no.",
  "nr",
  "nr.",
  "pos",
  "pos.",
  "qty",
  "qty.",
  "quantity",
  "count",
  "row",
  "line",
  "n°",
]);

export interface Heading {
  readonly column: PartColumn | "idle" | null;
  /** A unit that the head gives to the whole column: `Value (kΩ)`. */
  readonly unit: string;
}

/** What the head of a column means; null where nobody knows. */
export function headingOf(text: string): Heading {
  const [, words, unit = ""] = /^(.*?)\s*(?:[([]\s*(.*?)\s*[)\]])?$/s.exec(text.trim()) ?? [];
  const plain = (words ?? "").toLowerCase().replace(/:$/, "");
  if (IDLE.has(plain)) return { column: "idle", unit };
  const found = (Object.keys(HEADINGS) as PartColumn[]).find((column) => HEADINGS[column].includes(plain));
  return { column: found ?? null, unit };
}

/** True of a first row that names its columns. */
function isHead(cells: readonly string[]): boolean {
  const known = new Set(cells.map((c) => headingOf(c).column).filter((c) => c !== null && c !== "idle"));
  return known.has("designator") && known.size > 1;
}

/** Rows above the head that are looked through for it: a title, an empty line. */
const ABOVE = 5;

/** Where the row stands that names the columns; −1 where none does. */
export function headAt(rows: readonly { readonly cells: readonly string[] }[]): number {
  return rows.slice(0, ABOVE).findIndex((r) => isHead(r.cells));
}
