import { KINDS, type Part, rowOf } from "@hound/core/circuit";
import {
  type Edited,
  readTrail,
  renamePart,
  roleOf,
  setEnds,
  setWord,
  type Trail,
  type WordRole,
  wordsOfPart,
} from "@hound/core/notation";

/** One line of the parts table: the words as written in the trail. */
export interface PartRow {
  readonly designator: string;
  readonly kind: string;
  readonly from: string;
  readonly to: string;
  readonly value: string;
  readonly tolerance: string;
  readonly rating: string;
  readonly note: string;
  /** For sorting by size: ohms, volts or amperes. */
  readonly size: number;
}

export const EDITABLE = ["designator", "from", "to", "value", "tolerance", "rating", "note"] as const;
export type Editable = (typeof EDITABLE)[number];

export const COLUMN_WIDTHS: Readonly<Record<Editable, string>> = {
  designator: "w-14 font-bold",
  from: "w-12",
  to: "w-12",
  value: "w-20",
  tolerance: "w-12",
  rating: "w-20",
  note: "w-28",
};

/** The parts of a circuit as rows, in the order of the trail. */
export function partRows(trail: Trail): PartRow[] {
  return (trail.circuit?.parts ?? []).map((part) => {
    const words = wordsOfPart(trail, part.designator);
    const written = (...roles: WordRole[]) =>
      words
        .filter((w) => roles.includes(w.role))
        .map((w) => w.text)
        .join(" ");
    return {
      designator: part.designator,
      kind: KINDS[part.kind].word,
      from: part.from,
      to: part.to,
      value: written(...valueRoles(part)),
      tolerance: written("tolerance"),
      rating: written(ratingRole(part)),
      note: part.note ?? "",
      size: sizeOf(part),
    };
  });
}

/** What stands in the cell of the value: where a wiper stands, and to what further leads go, as well. */
function valueRoles(part: Part): WordRole[] {
  if (part.kind === "potentiometer") return ["value", "at", "lead"];
  return rowOf(part.kind).form === "bridge" ? ["value", "lead"] : [valueRole(part)];
}

function valueRole(part: Part): WordRole {
  if (part.kind === "fuse") return "current";
  return part.kind === "switch" ? "position" : "value";
}

function ratingRole(part: Part): WordRole {
  const { rating } = rowOf(part.kind);
  // What a capacitor stands is among its value's words.
  return rating === valueRole(part) || rating === "volts" ? "power" : rating;
}

function sizeOf(part: Part): number {
  if (part.kind === "supply") return part.volts ?? 0;
  if (part.kind === "fuse") return part.currentRating ?? 0;
  if ("material" in part) return part.volts;
  if (part.kind === "capacitor") return part.farads ?? 0;
  if (!("resistance" in part)) return part.ohms;
  return part.resistance.by === "ohms" ? part.resistance.ohms : 0;
}

/** Writes several words of a part, each where its own stands; those that are not there any more are taken out. */
function setWords(trail: Trail, designator: string, roles: readonly WordRole[], text: string): Edited {
  // `wiper = W`, `at 40 %`, as one may write them too.
  const words = text
    .replace(/\bwiper\s*=?\s*\[?\s*(\w+)\s*\]?/i, "wiper=[$1]")
    .replace(/\b(plus|minus)\s*(?:=\s*\[?|\[)\s*(\w+)\s*\]?/gi, "$1=[$2]")
    .replace(/\bat\s*=?\s*([\d.,]+)\s*%/i, "at=$1%")
    .split(/\s+/);
  let edited: Edited = { kind: "edited", text: trail.text, nodes: new Map(), parts: new Map() };
  for (const role of roles) {
    const mine = words.filter((w) => roleOf(w, false) === role).join(" ");
    edited = setWord(readTrail(edited.text), designator, role, mine);
    if (edited.kind === "refused") return edited;
  }
  const wrong = readTrail(edited.text).mistakes.find((m) => m.severity === "mistake");
  return wrong ? { kind: "refused", why: wrong.message } : edited;
}

/** Writes one cell. */
function setCell(trail: Trail, designator: string, column: Editable, text: string): Edited {
  const part = trail.circuit?.parts.find((p) => p.designator === designator);
  if (!part) return { kind: "refused", why: `there is no ${designator}` };
  switch (column) {
    case "designator":
      return renamePart(trail, designator, text.trim());
    case "from":
      return setEnds(trail, designator, text.trim(), part.to);
    case "to":
      return setEnds(trail, designator, part.from, text.trim());
    case "value":
      return valueRoles(part).length === 1
        ? setWord(trail, designator, valueRole(part), text)
        : setWords(trail, designator, valueRoles(part), text);
    case "tolerance":
      return setWord(trail, designator, "tolerance", /^\d+([.,]\d+)?$/.test(text.trim()) ? `${text.trim()}%` : text);
    case "rating":
      return setWord(trail, designator, ratingRole(part), text);
    case "note":
      return setWord(trail, designator, "note", text === "" ? "" : `note="${text.replaceAll('"', "'")}"`);
    default:
      return column satisfies never;
  }
}

export interface CellChange {
  readonly designator: string;
  readonly column: Editable;
  readonly text: string;
}

/** Writes several cells as one edit; one that is refused leaves all as it was and says which. */
export function setCells(trail: Trail, changes: readonly CellChange[]): Edited {
  let now = trail;
  const parts = new Map<string, string>();
  const nodes = new Map<string, string>();
  for (const { designator, column, text } of changes) {
    const name = parts.get(designator) ?? designator;
    const row = partRows(now).find((r) => r.designator === name);
    if (row && row[column] === text.trim()) continue;
    const edited = setCell(now, name, column, text);
    if (edited.kind === "refused") return { kind: "refused", why: `${name}, ${column}: ${edited.why}` };
    for (const [before, after] of edited.nodes) nodes.set(before, after);
    if (column === "designator") parts.set(designator, text.trim());
    now = readTrail(edited.text);
  }
  return { kind: "edited", text: now.text, nodes, parts };
}

/** The changes that a block of a spreadsheet makes, put down at a cell and going on to the right and downwards. */
export function pastedCells(
  block: readonly (readonly string[])[],
  rows: readonly { readonly designator: string }[],
  row: number,
  column: Editable,
): CellChange[] {
  const first = EDITABLE.indexOf(column);
  return block.flatMap((cells, r) => {
    const target = rows[row + r];
    if (!target) return [];
    return cells.slice(0, EDITABLE.length - first).map((text, c) => ({
      designator: target.designator,
      column: EDITABLE[first + c],
      text: text.trim(),
    }));
  });
}
