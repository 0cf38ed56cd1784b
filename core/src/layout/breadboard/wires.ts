import { COLUMNS, type Column, type Hole, mirrored, OUTWARD, type Place, placeOf, type Side, sideOf } from "./holes.ts";
import type { Lead } from "./seats.ts";

export const JUMPER_COLOURS = ["yellow", "green", "blue", "orange", "white"] as const;

export interface Jumper {
  readonly node: number;
  readonly from: Hole;
  readonly to: Hole;
  readonly colour: (typeof JUMPER_COLOURS)[number];
  /** How it is drawn: a line through these places, from the one hole to the other. */
  readonly way: readonly Place[];
}

/** A wire that is wanted, from strip to strip. */
interface Wanted {
  readonly node: number;
  readonly from: Lead;
  readonly to: Lead;
}

/**
 * Joins what each node has in rows of its own: strips at a rail's node with the rail beside them, others one to the next
 * down their side, and once across the gap where a node is on both sides. Lines of different nodes never lie upon each
 * other and never run over a hole in use.
 * @returns null where a side has more wires beside each other than there is room for
 */
export function wireUp(leads: readonly Lead[], plus: number, minus: number): Jumper[] | null {
  const wires = new Wires(leads);
  const nodes = [...new Set(leads.map((l) => l.node))].filter((n) => n >= 0);
  const rightRails = ([plus, minus] as const).filter((node) =>
    leads.some((l) => l.node === node && sideOf(l.hole.column) === "right"),
  );
  for (const node of rightRails) wires.linkRails(node, node === plus ? "+" : "-");
  const between: Wanted[] = [];
  for (const node of nodes) {
    const own = leads.filter((l) => l.node === node);
    if (node === plus || node === minus) {
      for (const lead of own) wires.toRail(lead, node === plus ? "+" : "-");
    } else between.push(...chain(node, own));
  }
  const spans = between.sort(
    (a, b) => Math.min(a.from.hole.row, a.to.hole.row) - Math.min(b.from.hole.row, b.to.hole.row),
  );
  return spans.every((wanted) => wires.join(wanted)) ? wires.jumpers : null;
}

/** Down each side from strip to strip, and across where the two sides are nearest. */
function chain(node: number, own: readonly Lead[]): Wanted[] {
  const on = (side: Side) => own.filter((l) => sideOf(l.hole.column) === side).sort((a, b) => a.hole.row - b.hole.row);
  const [left, right] = [on("left"), on("right")];
  const down = [left, right].flatMap((list) => list.slice(1).map((to, i) => ({ node, from: list[i], to })));
  const pairs = left.flatMap((from) => right.map((to) => ({ node, from, to })));
  const apart = (w: Wanted) => Math.abs(w.from.hole.row - w.to.hole.row);
  const across = pairs.sort((a, b) => apart(a) - apart(b))[0];
  return across ? [...down, across] : down;
}

/** Two lines fit between two columns, one on either side of the middle. */
const BESIDE = 0.17;
/** A line that crosses the gap passes below its part, above the next row's holes. */
const BELOW = [0.6, 0.74] as const;

/** Lines down one side, from the gap outward: [from the outer edge, rows taken]. */
class Tracks {
  private readonly taken: { readonly x: number; readonly spans: (readonly [number, number])[] }[];

  constructor() {
    const columns = OUTWARD.left.map((column) => placeOf({ on: "strip", row: 1, column }).x);
    this.taken = columns.flatMap((x) => [-0.5 + BESIDE, -0.5 - BESIDE].map((off) => ({ x: x + off, spans: [] })));
  }

  take(top: number, bottom: number): number | null {
    const track = this.taken.find(({ spans }) => spans.every(([a, b]) => b < top || bottom < a));
    track?.spans.push([top, bottom]);
    return track?.x ?? null;
  }
}

class Wires {
  readonly jumpers: Jumper[] = [];
  private readonly used = new Set<string>();
  private readonly tracks = { left: new Tracks(), right: new Tracks() };
  private readonly crossings = new Map<number, number>();
  private readonly colours = new Map<number, Jumper["colour"]>();

  constructor(private readonly leads: readonly Lead[]) {
    for (const { hole } of leads) this.used.add(`${hole.column}${hole.row}`);
  }

  /** Above the first part: the plus rails in row 1, the minus rails in row 2. */
  linkRails(node: number, rail: "+" | "-") {
    const row = rail === "+" ? 1 : 2;
    const ends = (["left", "right"] as const).map((side) => ({ on: "rail", rail, side, row }) as const);
    this.add(node, ends[0], ends[1], []);
  }

  toRail({ node, hole }: Lead, rail: "+" | "-") {
    const side = sideOf(hole.column);
    const column = OUTWARD[side][4];
    this.used.add(`${column}${hole.row}`);
    this.add(node, { on: "rail", rail, side, row: hole.row }, { on: "strip", row: hole.row, column }, []);
  }

  join({ node, from, to }: Wanted): boolean {
    const sides = [sideOf(from.hole.column), sideOf(to.hole.column)] as const;
    const rows = [from.hole.row, to.hole.row] as const;
    if (sides[0] === sides[1]) {
      const x = this.tracks[sides[0]].take(Math.min(...rows), Math.max(...rows));
      if (x === null) return false;
      const ends = rows.map((row) => this.hole(sides[0], row, x));
      const line = mirrored(sides[0], x);
      this.add(
        node,
        ends[0],
        ends[1],
        rows.map((y) => ({ x: line, y })),
      );
      return true;
    }
    const last = Math.max(...this.leads.filter((l) => l.part === from.part).map((l) => l.hole.row));
    const nth = this.crossings.get(last) ?? 0;
    const level = last + BELOW[nth];
    this.crossings.set(last, nth + 1);
    const xs = rows.map((row, i) => this.tracks[sides[i]].take(Math.min(row, level), Math.max(row, level)));
    if (xs[0] === null || xs[1] === null || BELOW[nth] === undefined) return false;
    const ends = [this.hole(sides[0], rows[0], xs[0]), this.hole(sides[1], rows[1], xs[1])];
    const lines = [mirrored(sides[0], xs[0]), mirrored(sides[1], xs[1])];
    this.add(node, ends[0], ends[1], [
      { x: lines[0], y: rows[0] },
      { x: lines[0], y: level },
      { x: lines[1], y: level },
      { x: lines[1], y: rows[1] },
    ]);
    return true;
  }

  /** The free hole of a strip nearest to a line down its side. */
  private hole(side: Side, row: number, x: number): Hole {
    const from = (column: Column) => Math.abs(placeOf({ on: "strip", row, column }).x - mirrored(side, x));
    const column = COLUMNS.filter((c) => sideOf(c) === side && !this.used.has(`${c}${row}`)).sort(
      (a, b) => from(a) - from(b),
    )[0];
    this.used.add(`${column}${row}`);
    return { on: "strip", row, column };
  }

  private add(node: number, from: Hole, to: Hole, between: readonly Place[]) {
    const colour = this.colours.get(node) ?? JUMPER_COLOURS[this.colours.size % JUMPER_COLOURS.length];
    this.colours.set(node, colour);
    this.jumpers.push({ node, from, to, colour, way: [placeOf(from), ...between, placeOf(to)] });
  }
}
