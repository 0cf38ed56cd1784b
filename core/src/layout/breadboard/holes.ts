/**
 * A solderless breadboard: in each row the holes a–e are joined, and f–j beyond the centre gap; a plus and a minus rail
 * run along either side.
 */
export type Hole = StripHole | RailHole;

export interface StripHole {
  readonly on: "strip";
  readonly row: number;
  readonly column: Column;
}

export interface RailHole {
  readonly on: "rail";
  readonly rail: "+" | "-";
  readonly side: Side;
  readonly row: number;
}

export type Side = "left" | "right";
export const COLUMNS = ["a", "b", "c", "d", "e", "f", "g", "h", "i", "j"] as const;
export type Column = (typeof COLUMNS)[number];
/** Columns of a side, from the gap outward: a part's lead goes in first. */
export const OUTWARD: Readonly<Record<Side, readonly Column[]>> = {
  left: ["e", "d", "c", "b", "a"],
  right: ["f", "g", "h", "i", "j"],
};
export const ROWS = 60;

export const sideOf = (column: Column): Side => (COLUMNS.indexOf(column) < 5 ? "left" : "right");

/** A place on the drawing, in distances between holes; rows count downward. */
export interface Place {
  readonly x: number;
  readonly y: number;
}

/** From the minus rail to a; from e to f. */
const BESIDE_RAILS = 1.4;
const GAP = 3;
/** From the left plus rail to the right one: both sides are alike, mirrored. */
export const SPAN = 2 * (1 + BESIDE_RAILS + 4) + GAP;

export function placeOf(hole: Hole): Place {
  const side = hole.on === "rail" ? hole.side : sideOf(hole.column);
  return { x: mirrored(side, inward(hole)), y: hole.row };
}

/** What is so far from the outer edge of its side, from the left. */
export const mirrored = (side: Side, x: number): number => (side === "left" ? x : SPAN - x);

/** How far a hole is from the plus rail of its side. */
function inward(hole: Hole): number {
  if (hole.on === "rail") return hole.rail === "+" ? 0 : 1;
  return 1 + BESIDE_RAILS + 4 - OUTWARD[sideOf(hole.column)].indexOf(hole.column);
}

/** `c7`, or `plus rail, row 3`, or `right minus rail, row 4`. */
export function nameOfHole(hole: Hole): string {
  if (hole.on === "strip") return `${hole.column}${hole.row}`;
  return `${hole.side === "right" ? "right " : ""}${hole.rail === "+" ? "plus" : "minus"} rail, row ${hole.row}`;
}

/** What is joined by strip or rail: holes with the same key are at one potential. */
export function joinOf(hole: Hole): string {
  if (hole.on === "rail") return `${hole.side} rail ${hole.rail}`;
  return `${sideOf(hole.column)} strip ${hole.row}`;
}
