import type { Bar, Board, Strip } from "./board.ts";

/** A bar as one lane shows it; `goesOn` where the same node is drawn again in the lane before or after. */
export interface LaneBar {
  readonly bar: Bar;
  /** Rows of the strips that meet it in this lane. */
  readonly top: number;
  readonly bottom: number;
  readonly goesOn: "before" | "after" | "both" | null;
}

/** A strip as one lane shows it: cut where it crosses into another lane, its symbol in one lane only. */
export interface LaneStrip {
  readonly strip: Strip;
  readonly left: number;
  readonly right: number;
  readonly cutLeft: boolean;
  readonly cutRight: boolean;
  readonly symbol: { readonly from: number; readonly to: number } | null;
  readonly hops: readonly number[];
}

/** A stretch of a long board: all of it between two columns. Rows that are empty there are left out. */
export interface Lane {
  readonly from: number;
  readonly to: number;
  readonly bars: readonly LaneBar[];
  readonly strips: readonly LaneStrip[];
  /** Rows of the board that the lane shows, from the top. */
  readonly rows: readonly number[];
}

/**
 * Wraps a board into lanes of at most `most` columns, cut at bars, where possible at those that the fewest rows pass.
 * A bar at a cut is drawn in both lanes.
 */
export function wrapLanes(board: Board, most: number): Lane[] {
  const cuts = [0];
  const bars = [...new Set(board.bars.map((b) => b.column))].sort((a, b) => a - b);
  const crossings = crossingsIn(board);
  for (let at = 0; board.columns - at > most; ) {
    const reach = bars.filter((c) => c > at && c <= at + most);
    const least = at + Math.max(1, most * 0.55);
    const choice = reach
      .map((column) => ({ column, cost: crossings(column) - (4 * (column - at)) / most }))
      .filter(({ column }) => column >= least || reach.length === 1);
    const best = choice.reduce<{ column: number; cost: number } | null>(
      (b, c) => (!b || c.cost <= b.cost ? c : b),
      null,
    );
    // Without a bar in reach, the next one there is.
    const next = best?.column ?? reach.at(-1) ?? bars.find((c) => c > at) ?? board.columns;
    if (next >= board.columns) break;
    cuts.push(next);
    at = next;
  }
  return cuts.map((from, i) => laneOf(board, from, cuts[i + 1] ?? board.columns, i > 0, i < cuts.length - 1));
}

/** How many rows pass a column without ending there: those that began before it, less those that ended by then. */
function crossingsIn(board: Board): (column: number) => number {
  const long = board.strips.filter((s) => s.left < s.right);
  const lefts = Float64Array.from(long, (s) => s.left).sort();
  const rights = Float64Array.from(long, (s) => s.right).sort();
  return (column) => countUpTo(lefts, column, false) - countUpTo(rights, column, true);
}

/** How many of sorted numbers are below a bound, or at it where that counts. */
function countUpTo(sorted: Float64Array, bound: number, isCounted: boolean): number {
  let [low, high] = [0, sorted.length];
  while (low < high) {
    const middle = (low + high) >> 1;
    if (sorted[middle] < bound || (isCounted && sorted[middle] === bound)) low = middle + 1;
    else high = middle;
  }
  return low;
}

function laneOf(board: Board, from: number, to: number, hasBefore: boolean, hasAfter: boolean): Lane {
  const strips = board.strips.flatMap((strip): LaneStrip[] => {
    const left = Math.max(strip.left, from);
    const right = Math.min(strip.right, to);
    if (right <= left && !(strip.left === strip.right && from <= left && right <= to)) return [];
    return [
      {
        strip,
        left,
        right,
        cutLeft: strip.left < from,
        cutRight: strip.right > to,
        symbol: null,
        hops: strip.hops.filter((c) => left < c && c < right),
      },
    ];
  });
  const bars = board.bars.flatMap((bar): LaneBar[] => {
    if (bar.column < from || bar.column > to) return [];
    const touching = strips.filter(
      ({ strip: s }) => (s.left === bar.column || s.right === bar.column) && bar.top <= s.row && s.row <= bar.bottom,
    );
    if (touching.length === 0) return [];
    const touched = touching.map((s) => s.strip.row);
    const before = hasBefore && bar.column === from;
    const after = hasAfter && bar.column === to;
    return [
      {
        bar,
        top: Math.min(...touched),
        bottom: Math.max(...touched),
        goesOn: before && after ? "both" : before ? "before" : after ? "after" : null,
      },
    ];
  });
  const placed = strips.map((s) => ({ ...s, symbol: symbolIn(s, from, to) }));
  const rows = [...new Set(placed.map((s) => s.strip.row))].sort((a, b) => a - b);
  return { from, to, bars, strips: placed, rows };
}

/** The symbol goes where the longest clear stretch of the strip, cut at the lanes, begins. */
function symbolIn({ strip, left, right, hops }: LaneStrip, from: number, to: number): LaneStrip["symbol"] {
  const middle = (strip.from + strip.to) / 2;
  // Exactly one lane holds the middle of the strip's own room.
  if (middle < from || middle > to || (middle === to && strip.right > to)) return null;
  const stops = [left, ...hops, right];
  const gaps = stops.slice(1).map((end, i) => ({ from: stops[i], to: end }));
  return gaps.reduce((best, gap) => (gap.to - gap.from > best.to - best.from + 1e-9 ? gap : best));
}
