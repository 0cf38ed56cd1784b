import type { Network } from "../circuit/index.ts";
import type { Random } from "../simulate/index.ts";

export interface Point {
  readonly x: number;
  readonly y: number;
}

/** A circuit as sheets draw it: parts at any angle, a node in several dots joined by plain wires, wires that cross. */
export interface Tangle {
  /** All of it, names too: left, top, width, height. */
  readonly box: readonly [number, number, number, number];
  /** Each from the end of its `from` to that of its `to`: branch by branch. */
  readonly parts: readonly TanglePart[];
  readonly wires: readonly Wire[];
  /** Where three or more ends are joined. What crosses without a dot is not joined. */
  readonly dots: readonly Point[];
}

export interface TanglePart {
  readonly branch: number;
  readonly from: Point;
  readonly to: Point;
  /** The middle of its name, beside it where most is free. */
  readonly name: Point;
}

export interface Wire {
  readonly node: number;
  readonly a: Point;
  readonly b: Point;
}

/** Half a part's length, half a symbol's, and how far things keep from each other; in the units of the drawing. */
const HALF = 52;
const SYMBOL = 30;
const CLEAR = 20;
const CELL = { width: 190, height: 150 } as const;
const MARGIN = 24;
/** A name with its value, as large as it may get, and how far it stands from the part. */
const NAME = { width: 112, height: 24, away: 26 } as const;
/** Drawings that are begun with, and changes that are tried on the clearest of them. */
const BEGINNINGS = 40;
const CHANGES = 500;
const ANGLE_STEP = 15;

/** Where each part lies, and which nodes come together at one dot. */
interface Plan {
  readonly places: readonly {
    readonly cell: number;
    readonly dx: number;
    readonly dy: number;
    readonly turn: number;
  }[];
  readonly stars: readonly boolean[];
}

/**
 * Draws a circuit as a tangle; the same random numbers draw the same. The clearest of a few drawings at random is changed
 * part by part, and kept where that makes it clearer.
 */
export function tangleOf(network: Network, random: Random): Tangle {
  const { branches, nodes } = network;
  const columns = Math.max(2, Math.ceil(Math.sqrt(branches.length)));
  const cells = columns * Math.ceil(branches.length / columns);
  const spot = (cell: number) => ({
    cell,
    dx: (random.next() - 0.5) * 40,
    dy: (random.next() - 0.5) * 30,
    turn: Math.floor((random.next() * 360) / ANGLE_STEP),
  });
  const drawn = (plan: Plan) => {
    const tangle = drawPlan(network, plan, columns);
    return { plan, tangle, cost: muddleOf(tangle) };
  };
  const anyPlan = (): Plan => {
    const free = [...Array(cells).keys()];
    const places = branches.map(() => spot(free.splice(Math.floor(random.next() * free.length), 1)[0]));
    return { places, stars: nodes.map(() => random.next() < 0.5) };
  };
  const changed = ({ places, stars }: Plan): Plan => {
    const at = Math.floor(random.next() * places.length);
    const cell = random.next() < 0.4 ? Math.floor(random.next() * cells) : places[at].cell;
    // Whoever lies there comes here.
    const moved = places.map((p, k) => (k !== at && p.cell === cell ? { ...p, cell: places[at].cell } : p));
    return { places: moved.map((p, k) => (k === at ? spot(cell) : p)), stars };
  };
  let best = drawn(anyPlan());
  for (let n = 1; n < BEGINNINGS + CHANGES && best.cost > 0; n += 1) {
    const next = drawn(n < BEGINNINGS ? anyPlan() : changed(best.plan));
    if (next.cost < best.cost) best = next;
  }
  return best.tangle;
}

function drawPlan({ branches, nodes }: Network, { places, stars }: Plan, columns: number): Tangle {
  const parts = places.map(({ cell, dx: right, dy: down, turn }, branch) => {
    const x = CELL.width * ((cell % columns) + 0.5) + right;
    const y = CELL.height * (Math.floor(cell / columns) + 0.5) + down;
    const angle = (turn * ANGLE_STEP * Math.PI) / 180;
    const [dx, dy] = [HALF * Math.cos(angle), HALF * Math.sin(angle)];
    return { branch, from: { x: x - dx, y: y - dy }, to: { x: x + dx, y: y + dy } };
  });
  const wires: Wire[] = [];
  const dots: Point[] = [];
  for (const node of nodes.keys()) {
    const ends = parts.flatMap(({ branch, from, to }) => [
      ...(branches[branch].from === node ? [from] : []),
      ...(branches[branch].to === node ? [to] : []),
    ]);
    // Now and then all come together at one dot, where wires cross; else from end to end.
    const own = ends.length > 3 && stars[node] ? star(node, ends) : tree(node, ends);
    wires.push(...own);
    dots.push(...dotsOf(ends, own));
  }
  const named = parts.map((part) => ({ ...part, name: nameBeside(part, parts, wires) }));
  return { box: boxOf(named, wires), parts: named, wires, dots };
}

type Placed = Omit<TanglePart, "name">;

/** On which side of a part its name has most room. */
function nameBeside(part: Placed, parts: readonly Placed[], wires: readonly Wire[]): Point {
  const { from, to } = part;
  const [dx, dy] = [to.x - from.x, to.y - from.y];
  const long = Math.hypot(dx, dy);
  const middle = { x: (from.x + to.x) / 2, y: (from.y + to.y) / 2 };
  const across = (side: number) => {
    const [nx, ny] = [(side * dy) / long, (-side * dx) / long];
    // A name lies flat: beside an upright part it stands farther off.
    const away = NAME.away + Math.abs(nx) * (NAME.width / 2 - 4);
    return { x: middle.x + nx * away, y: middle.y + ny * away };
  };
  const others = [
    ...wires.map((w) => [w.a, w.b] as const),
    ...parts.filter((p) => p !== part).map((p) => symbolOf(p.from, p.to)),
  ];
  const roomAt = (at: Point) => {
    const [left, right] = flat(at);
    return others.reduce((least, [a, b]) => Math.min(least, apart(left, right, a, b)), Number.POSITIVE_INFINITY);
  };
  const [one, other] = [across(1), across(-1)];
  return roomAt(one) >= roomAt(other) ? one : other;
}

/** A name as the stretch that it covers. */
const flat = ({ x, y }: Point): [Point, Point] => [
  { x: x - NAME.width / 2, y },
  { x: x + NAME.width / 2, y },
];

function boxOf(parts: readonly TanglePart[], wires: readonly Wire[]): Tangle["box"] {
  const names = parts.flatMap(({ name: { x, y } }) => [
    { x: x - NAME.width / 2, y: y - NAME.height },
    { x: x + NAME.width / 2, y: y + NAME.height },
  ]);
  const all = [...names, ...parts.flatMap((p) => [p.from, p.to]), ...wires.flatMap((w) => [w.a, w.b])];
  const [xs, ys] = [all.map((p) => p.x), all.map((p) => p.y)];
  const [left, top] = [Math.min(...xs) - MARGIN, Math.min(...ys) - MARGIN];
  return [left, top, Math.max(...xs) + MARGIN - left, Math.max(...ys) + MARGIN - top];
}

function star(node: number, ends: readonly Point[]): Wire[] {
  const mean = (of: "x" | "y") => ends.reduce((sum, p) => sum + p[of], 0) / ends.length;
  const middle = { x: mean("x"), y: mean("y") };
  return ends.map((b) => ({ node, a: middle, b }));
}

/** The shortest wires that join all ends (Prim). */
function tree(node: number, ends: readonly Point[]): Wire[] {
  const [first, ...rest] = ends;
  const wires: Wire[] = [];
  const joined = first ? [first] : [];
  const open = [...rest];
  while (open.length > 0) {
    const all = joined.flatMap((a) => open.map((b) => ({ node, a, b, far: distance(a, b) })));
    const { a, b } = all.reduce((m, w) => (w.far < m.far ? w : m));
    wires.push({ node, a, b });
    joined.push(b);
    open.splice(open.indexOf(b), 1);
  }
  return wires;
}

/** Where three or more ends meet: a part's lead counts as one. */
function dotsOf(ends: readonly Point[], wires: readonly Wire[]): Point[] {
  const places = [...new Set([...ends, ...wires.flatMap((w) => [w.a, w.b])])];
  return places.filter((p) => {
    const leads = ends.includes(p) ? 1 : 0;
    return leads + wires.filter((w) => w.a === p || w.b === p).length > 2;
  });
}

const distance = (a: Point, b: Point) => Math.hypot(a.x - b.x, a.y - b.y);

/** How hard it is to tell what is joined: what must not be counts most, crossings a little. */
function muddleOf({ parts, wires, dots }: Tangle): number {
  let cost = 0;
  const symbols = parts.map(({ from, to }) => symbolOf(from, to));
  for (const [i, wire] of wires.entries()) {
    cost += distance(wire.a, wire.b) / 400;
    for (const [k, { from, to }] of parts.entries()) {
      const own = [from, to].some((p) => p === wire.a || p === wire.b);
      // Across a symbol, or along its own part.
      if (apart(wire.a, wire.b, ...symbols[k]) < (own ? 15 : CLEAR)) cost += 120;
      // Past the end of a part that it does not belong to: it would look joined.
      for (const end of [from, to])
        if (end !== wire.a && end !== wire.b && toSegment(end, wire.a, wire.b) < CLEAR * 0.7) cost += 30;
    }
    for (const dot of dots)
      if (dot !== wire.a && dot !== wire.b && toSegment(dot, wire.a, wire.b) < CLEAR * 0.7) cost += 30;
    for (const other of wires.slice(i + 1)) {
      const shares = [other.a, other.b].some((p) => p === wire.a || p === wire.b);
      const angle = between(wire, other);
      if (shares) cost += angle < 0.25 ? 25 : 0;
      else if (apart(wire.a, wire.b, other.a, other.b) === 0) {
        // Two of one node that cross would be joined there.
        cost += wire.node === other.node ? 25 : 1 + (Math.min(angle, Math.PI - angle) < 0.4 ? 12 : 0);
      } else if (apart(wire.a, wire.b, other.a, other.b) < CLEAR / 2) cost += 12;
    }
  }
  for (const { name, branch } of parts) {
    const [left, right] = flat(name);
    for (const wire of wires) if (apart(left, right, wire.a, wire.b) < NAME.height / 2) cost += 20;
    for (const [k, symbol] of symbols.entries())
      if (k !== branch && apart(left, right, ...symbol) < NAME.height) cost += 20;
    for (const other of parts)
      if (other.branch > branch && apart(left, right, ...flat(other.name)) < NAME.height) cost += 30;
  }
  for (const [i, one] of symbols.entries())
    for (const other of symbols.slice(i + 1)) if (apart(...one, ...other) < CLEAR * 1.5) cost += 40;
  return cost;
}

/** The middle of a part, where its symbol is. */
function symbolOf(from: Point, to: Point): [Point, Point] {
  const share = SYMBOL / HALF / 2;
  const at = (t: number) => ({ x: from.x + (to.x - from.x) * t, y: from.y + (to.y - from.y) * t });
  return [at(0.5 - share), at(0.5 + share)];
}

/** Angle between two wires as lines, seen from where they meet or cross: 0 where they lie upon each other. */
function between(one: Wire, other: Wire): number {
  const shared = [one.a, one.b].find((p) => p === other.a || p === other.b);
  const along = ({ a, b }: Wire) => {
    const [p, q] = shared === b ? [b, a] : [a, b];
    return Math.atan2(q.y - p.y, q.x - p.x);
  };
  const by = Math.abs(along(one) - along(other)) % (2 * Math.PI);
  return Math.min(by, 2 * Math.PI - by);
}

/** How far two stretches are apart; 0 where they cross. */
function apart(a: Point, b: Point, c: Point, d: Point): number {
  const side = (p: Point, q: Point, r: Point) => Math.sign((q.x - p.x) * (r.y - p.y) - (q.y - p.y) * (r.x - p.x));
  if (side(a, b, c) !== side(a, b, d) && side(c, d, a) !== side(c, d, b)) return 0;
  return Math.min(toSegment(a, c, d), toSegment(b, c, d), toSegment(c, a, b), toSegment(d, a, b));
}

function toSegment(p: Point, a: Point, b: Point): number {
  const [dx, dy] = [b.x - a.x, b.y - a.y];
  const long = dx * dx + dy * dy;
  const t = long === 0 ? 0 : Math.max(0, Math.min(1, ((p.x - a.x) * dx + (p.y - a.y) * dy) / long));
  return distance(p, { x: a.x + t * dx, y: a.y + t * dy });
}
