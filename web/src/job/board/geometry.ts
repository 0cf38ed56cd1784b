import type { Bar, Board, Strip } from "@hound/core/layout";

/** Pixels of the board's drawing: everything follows from columns and rows. */
export const SIZES = {
  column: 154,
  row: 148,
  left: 76,
  top: 118,
  right: 92,
  bottom: 52,
  symbol: 58,
  barEnd: 15,
} as const;

export function xOf(column: number): number {
  return SIZES.left + column * SIZES.column;
}

export function yOf(row: number): number {
  return SIZES.top + row * SIZES.row;
}

export function sizeOf(board: Board): { width: number; height: number } {
  return { width: xOf(board.columns) + SIZES.right, height: yOf(board.rows - 1) + SIZES.bottom + 24 };
}

export interface BarLine {
  readonly x: number;
  readonly y1: number;
  readonly y2: number;
  /** Centre of the name's badge. */
  readonly badgeY: number;
}

export function barLine(bar: Bar): BarLine {
  return {
    x: xOf(bar.column),
    y1: yOf(bar.top) - SIZES.barEnd,
    y2: yOf(bar.bottom) + SIZES.barEnd,
    badgeY: yOf(bar.top) - 36,
  };
}

/** Centre of a part's symbol: the middle of the longest stretch clear of other bars. */
export function symbolX(strip: Strip): number {
  return (xOf(strip.from) + xOf(strip.to)) / 2;
}

const HOP = 9;

/** The wire of a row: straight, with a hop over each bar it passes, broken where the symbol stands. */
export function wirePath(strip: Strip): string {
  const y = yOf(strip.row);
  const centre = symbolX(strip);
  const [a, b] = [centre - SIZES.symbol / 2, centre + SIZES.symbol / 2];
  const along = (from: number, to: number) => {
    const hops = strip.hops.map(xOf).filter((x) => from < x && x < to);
    const arcs = hops.map((x) => `H${x - HOP} A${HOP} ${HOP} 0 0 1 ${x + HOP} ${y}`);
    return `M${from} ${y} ${arcs.join(" ")} H${to}`;
  };
  return `${along(xOf(strip.left), a)} ${along(b, xOf(strip.right))}`;
}

/** A bow above the board from one node to another, for a bridge that is suspected. */
export function bowPath(a: BarLine, b: BarLine): string {
  const [left, right] = a.x <= b.x ? [a, b] : [b, a];
  const lift = Math.min(left.badgeY, right.badgeY) - 34;
  return `M${left.x} ${left.badgeY - 15} C${left.x} ${lift} ${right.x} ${lift} ${right.x} ${right.badgeY - 15}`;
}
