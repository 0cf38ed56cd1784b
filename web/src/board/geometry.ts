import type { Lane, LaneBar, LaneStrip } from "@hound/core/layout";

/** Pixels of the board's drawing at full size: everything follows from columns and rows. */
export const SIZES = {
  /** The least from a column to the next; where the pane is wider they stand further apart, up to the widest. */
  column: 130,
  widest: 190,
  /** From a row to the next: one whose nodes have their names above it needs more. */
  namedRow: 214,
  plainRow: 116,
  left: 62,
  top: 154,
  right: 70,
  bottom: 66,
  symbol: 58,
  barEnd: 15,
  /** Above a bar's end: its name. */
  badge: 72,
  /** Half the height of that badge. */
  halfBadge: 17,
  /** Below a lane: its stretch of the staircase. */
  staircase: 210,
} as const;

/** A lane with its place in the drawing. */
export interface Frame {
  readonly lane: Lane;
  readonly top: number;
  /** Heights of its rows, from the top of the drawing. */
  readonly rowY: ReadonlyMap<number, number>;
  readonly height: number;
  readonly width: number;
  /** From a column to the next. */
  readonly column: number;
}

/** Lanes one below the other, each with its stretch of staircase where that is wanted; in the drawing's own units. */
export function framesOf(lanes: readonly Lane[], staircase = false, column: number = SIZES.column): Frame[] {
  let top = 0;
  return lanes.map((lane) => {
    const named = new Set(lane.bars.map((b) => b.top));
    const rowY = new Map<number, number>();
    let y = top + SIZES.top;
    lane.rows.forEach((row, i) => {
      if (i > 0) y += named.has(row) ? SIZES.namedRow : SIZES.plainRow;
      rowY.set(row, y);
    });
    const height = y + SIZES.bottom - top + (staircase ? SIZES.staircase : 0);
    const width = SIZES.left + (lane.to - lane.from) * column + SIZES.right;
    const frame = { lane, top, rowY, height, width, column };
    top += height;
    return frame;
  });
}

export function sizeOf(frames: readonly Frame[]): { width: number; height: number } {
  const last = frames[frames.length - 1];
  return { width: Math.max(...frames.map((f) => f.width)), height: last.top + last.height };
}

/** Columns that fit into a width. */
export function columnsIn(width: number): number {
  return Math.max(2, Math.floor((width - SIZES.left - SIZES.right) / SIZES.column));
}

/** How far apart the columns of these lanes can stand in a width. */
export function columnFor(lanes: readonly Lane[], width: number): number {
  const most = Math.max(1, ...lanes.map((lane) => lane.to - lane.from));
  return Math.min(SIZES.widest, Math.max(SIZES.column, (width - SIZES.left - SIZES.right) / most));
}

export function xOf(frame: Frame, column: number): number {
  return SIZES.left + (column - frame.lane.from) * frame.column;
}

export function yOf(frame: Frame, row: number): number {
  return frame.rowY.get(row) ?? frame.top + SIZES.top;
}

export interface BarLine {
  readonly x: number;
  readonly y1: number;
  readonly y2: number;
  /** Centre of the name's badge. */
  readonly badgeY: number;
  /** To the next bar. */
  readonly column: number;
  /** How wide its figures may be: they reach neither another bar's nor out of the picture. */
  readonly room: number;
}

/** Between the figures of two bars. */
const GAP = 12;

export function barLine(frame: Frame, { bar, top, bottom }: LaneBar): BarLine {
  const y = yOf(frame, top);
  const x = xOf(frame, bar.column);
  return {
    x,
    y1: y - SIZES.barEnd,
    y2: yOf(frame, bottom) + SIZES.barEnd,
    badgeY: y - SIZES.badge,
    column: frame.column,
    room: Math.min(frame.column - GAP, 2 * Math.min(x, frame.width - x) - GAP / 2),
  };
}

/** Where a part's symbol stands, and how wide the clear stretch round it is; null where another lane has it. */
export function symbolAt(frame: Frame, { symbol, strip }: LaneStrip): { x: number; y: number; room: number } | null {
  if (!symbol) return null;
  const [a, b] = [xOf(frame, symbol.from), xOf(frame, symbol.to)];
  return { x: (a + b) / 2, y: yOf(frame, strip.row), room: b - a };
}

const HOP = 9;
/** How far a row that goes on in another lane reaches beyond the lane's last bar. */
const CUT = 34;

/** The wire of a row: straight, with a hop over each bar it passes, broken where the symbol stands. */
export function wirePath(frame: Frame, strip: LaneStrip): string {
  const y = yOf(frame, strip.strip.row);
  const at = symbolAt(frame, strip);
  const along = (from: number, to: number) => {
    const hops = strip.hops.map((c) => xOf(frame, c)).filter((x) => from < x && x < to);
    const arcs = hops.map((x) => `H${x - HOP} A${HOP} ${HOP} 0 0 1 ${x + HOP} ${y}`);
    return `M${from} ${y} ${arcs.join(" ")} H${to}`;
  };
  const left = xOf(frame, strip.left) - (strip.cutLeft ? CUT : 0);
  const right = xOf(frame, strip.right) + (strip.cutRight ? CUT : 0);
  if (!at) return along(left, right);
  return `${along(left, at.x - SIZES.symbol / 2)} ${along(at.x + SIZES.symbol / 2, right)}`;
}

/** Ends of a strip that go on in another lane, where an arrow says so. */
export function cutsOf(frame: Frame, strip: LaneStrip): { x: number; y: number; direction: 1 | -1 }[] {
  const y = yOf(frame, strip.strip.row);
  return [
    ...(strip.cutLeft ? [{ x: xOf(frame, strip.left) - CUT, y, direction: -1 as const }] : []),
    ...(strip.cutRight ? [{ x: xOf(frame, strip.right) + CUT, y, direction: 1 as const }] : []),
  ];
}

/** A bow from one node to another, for a bridge that is suspected: beneath the figures where the two are neighbours. */
export function bowPath(a: BarLine, b: BarLine): string {
  const [left, right] = a.x <= b.x ? [a, b] : [b, a];
  const isNear = left.badgeY === right.badgeY && right.x - left.x < 1.5 * left.column;
  const lift = Math.min(left.badgeY, right.badgeY) - (isNear ? 16 : 38);
  const y = isNear ? -8 : -SIZES.halfBadge;
  return `M${left.x} ${left.badgeY + y} C${left.x} ${lift} ${right.x} ${lift} ${right.x} ${right.badgeY + y}`;
}
