import type { Network } from "../circuit/index.ts";
import { type Composite, combine, firstBranch, startingAt } from "../reduce/index.ts";

/** A node: one vertical bar, over the rows of its parts. Columns may be fractions. */
export interface Bar {
  readonly node: number;
  readonly column: number;
  readonly top: number;
  readonly bottom: number;
}

/** A branch in its row, between the bars of its two nodes; left is the end at the smaller column. */
export interface Strip {
  readonly branch: number;
  readonly row: number;
  readonly left: number;
  readonly right: number;
  /** Column range in which the part's symbol has room, clear of bars that the row hops. */
  readonly from: number;
  readonly to: number;
  /** True where the branch runs from right to left. */
  readonly backward: boolean;
  /** Columns of bars that the row hops. */
  readonly hops: readonly number[];
}

export interface Board {
  readonly columns: number;
  readonly rows: number;
  readonly bars: readonly Bar[];
  readonly strips: readonly Strip[];
  readonly hopCount: number;
}

/**
 * Lays a network out with every node as a vertical bar and every branch in a row between two bars: plus at the left,
 * the reference at the right, the first supply in the bottom row. Series–parallel stretches nest; what is left over is
 * placed in trail order, improved to cut hops. Geometry only, in columns and rows; values never move it.
 */
export function layoutBoard(network: Network): Board {
  const main = network.branches.findIndex((b) => b.kind === "supply" && b.from !== b.to);
  const [left, right] = terminalsOf(network, main);
  const others = network.branches.map((_, k) => k).filter((k) => k !== main);
  const edges = combine(network, others, new Set([left, right]));
  const order = bestOrder(edges, left, right);
  const placed = place(edges, order);
  const strips = [...placed.strips];
  if (main >= 0) strips.push(stripOf(network, main, placed.rows, placed.columnOf));
  return finish(network, strips, placed.columnOf, placed.rows + (main >= 0 ? 1 : 0));
}

function terminalsOf(network: Network, main: number): [number, number] {
  const supply = network.branches[main];
  if (supply) return [supply.from, supply.to];
  const first = network.branches[0];
  if (!first) return [network.reference, network.reference];
  return [first.from === network.reference ? first.to : first.from, network.reference];
}

interface Placed {
  readonly columnOf: Map<number, number>;
  readonly strips: { branch: number; row: number; a: number; b: number }[];
  readonly rows: number;
}

/** Puts the nodes between which composites are left in a row, and each composite into the lowest rows that are free. */
function place(edges: readonly Composite[], order: readonly number[]): Placed {
  const rank = new Map(order.map((node, i) => [node, i]));
  const oriented = edges
    .map((edge) => ((rank.get(edge.from) ?? 0) <= (rank.get(edge.to) ?? 0) ? edge : startingAt(edge, edge.to)))
    .sort((a, b) => firstBranch(a) - firstBranch(b));
  const columnOf = coreColumns(oriented, order);
  const strips: Placed["strips"] = [];
  const taken: { from: number; to: number }[][] = [];
  for (const edge of oriented) {
    const from = columnOf.get(edge.from) as number;
    const to = Math.max(columnOf.get(edge.to) as number, from + 1);
    const height = heightOf(edge);
    let row = 0;
    while (!isFree(taken, row, height, from, to)) row += 1;
    for (let r = row; r < row + height; r += 1) {
      taken[r] = [...(taken[r] ?? []), { from, to }];
    }
    const passed = order.map((node) => columnOf.get(node) as number).filter((c) => from < c && c < to);
    spread(edge, from, to, row, columnOf, strips, passed);
  }
  return { columnOf, strips, rows: taken.length };
}

function isFree(
  taken: readonly (readonly { from: number; to: number }[] | undefined)[],
  row: number,
  height: number,
  from: number,
  to: number,
): boolean {
  for (let r = row; r < row + height; r += 1) {
    if (taken[r]?.some((t) => t.from < to && from < t.to)) return false;
  }
  return true;
}

/** Columns of the nodes between composites: each gets its own width, and room to keep clear of bars that it passes. */
function coreColumns(edges: readonly Composite[], order: readonly number[]): Map<number, number> {
  const columnOf = new Map<number, number>();
  order.forEach((node, i) => {
    let column = i === 0 ? 0 : (columnOf.get(order[i - 1]) as number) + (i > 0 ? 1 : 0);
    for (const edge of edges) {
      const start = columnOf.get(edge.from);
      if (edge.to !== node || edge.from === node || start === undefined) continue;
      const width = widthOf(edge);
      const passes = width > 1 && order.indexOf(edge.from) < i - 1;
      column = Math.max(column, start + width + (passes ? 1 : 0));
    }
    columnOf.set(node, column);
  });
  return columnOf;
}

function widthOf(edge: Composite): number {
  if (edge.kind === "branch") return 1;
  const widths = edge.parts.map(widthOf);
  return edge.kind === "series" ? widths.reduce((a, b) => a + b, 0) : Math.max(...widths);
}

function heightOf(edge: Composite): number {
  if (edge.kind === "branch") return 1;
  const heights = edge.parts.map(heightOf);
  return edge.kind === "parallel" ? heights.reduce((a, b) => a + b, 0) : Math.max(...heights);
}

/**
 * Lays a composite into its block: series from left to right, in proportion to width, clear of the columns `passed`;
 * branches downwards.
 */
function spread(
  edge: Composite,
  from: number,
  to: number,
  row: number,
  columnOf: Map<number, number>,
  strips: Placed["strips"],
  passed: readonly number[],
) {
  if (edge.kind === "branch") {
    strips.push({ branch: edge.branch, row, a: from, b: to });
    return;
  }
  if (edge.kind === "parallel") {
    let at = row;
    for (const part of edge.parts) {
      spread(part, from, to, at, columnOf, strips, passed);
      at += heightOf(part);
    }
    return;
  }
  const total = widthOf(edge);
  let at = from;
  let even = from;
  edge.parts.forEach((part, i) => {
    even += (widthOf(part) * (to - from)) / total;
    const end = i === edge.parts.length - 1 ? to : clearOf(even, passed);
    if (i < edge.parts.length - 1) columnOf.set(part.to, end);
    spread(part, at, end, row, columnOf, strips, passed);
    at = end;
  });
}

/** Half way between two columns where the row passes bars, all of which stand at whole ones. */
function clearOf(column: number, passed: readonly number[]): number {
  return passed.length > 0 ? Math.floor(column) + 0.5 : column;
}

/** Most inner nodes for which every order is tried; beyond, neighbours are swapped while that helps. */
const TRY_ALL = 6;

/** Trail order of the nodes between composites, improved to cut hops. */
function bestOrder(edges: readonly Composite[], left: number, right: number): number[] {
  const inner: number[] = [];
  for (const edge of [...edges].sort((a, b) => firstBranch(a) - firstBranch(b))) {
    for (const node of [edge.from, edge.to])
      if (node !== left && node !== right && !inner.includes(node)) inner.push(node);
  }
  const wrap = (nodes: readonly number[]) => (left === right ? [left, ...nodes] : [left, ...nodes, right]);
  const cost = (nodes: readonly number[]) => costOf(edges, wrap(nodes));
  let best = { nodes: inner, cost: cost(inner) };
  const consider = (nodes: readonly number[]) => {
    const c = cost(nodes);
    if (c < best.cost) best = { nodes: [...nodes], cost: c };
  };
  if (inner.length <= TRY_ALL) permute(inner, consider);
  else {
    for (let before = Number.POSITIVE_INFINITY; best.cost < before; ) {
      before = best.cost;
      const { nodes } = best;
      for (let i = 0; i < nodes.length; i += 1) {
        for (let k = i + 1; k < Math.min(nodes.length, i + 4); k += 1) {
          const moved = [...nodes];
          moved.splice(k, 0, ...moved.splice(i, 1));
          consider(moved);
        }
      }
    }
  }
  return wrap(best.nodes);
}

function permute(items: readonly number[], visit: (order: readonly number[]) => void, done: readonly number[] = []) {
  if (items.length === 0) visit(done);
  items.forEach((item, i) => {
    permute([...items.slice(0, i), ...items.slice(i + 1)], visit, [...done, item]);
  });
}

/** Hops first, then rows, then columns: what makes a board harder to read. */
function costOf(edges: readonly Composite[], order: readonly number[]): number {
  const { columnOf, strips, rows } = place(edges, order);
  const spans = new Map<number, { top: number; bottom: number }>();
  const nodeAt = new Map(order.map((node) => [columnOf.get(node) as number, node]));
  for (const { row, a, b } of strips) {
    for (const column of [a, b]) {
      const node = nodeAt.get(column);
      if (node === undefined) continue;
      const span = spans.get(node) ?? { top: row, bottom: row };
      spans.set(node, { top: Math.min(span.top, row), bottom: Math.max(span.bottom, row) });
    }
  }
  let hops = 0;
  for (const [node, span] of spans) {
    const column = columnOf.get(node) as number;
    for (const { row, a, b } of strips)
      if (a < column && column < b && span.top <= row && row <= span.bottom) hops += 1;
  }
  return hops * 1000 + rows * 10 + Math.max(...columnOf.values());
}

function stripOf(
  network: Network,
  branch: number,
  row: number,
  columnOf: ReadonlyMap<number, number>,
): Placed["strips"][number] {
  const { from, to } = network.branches[branch];
  const [a, b] = [columnOf.get(from) ?? 0, columnOf.get(to) ?? 1].sort((x, y) => x - y);
  return { branch, row, a, b };
}

function finish(
  network: Network,
  placed: Placed["strips"],
  columnOf: ReadonlyMap<number, number>,
  rows: number,
): Board {
  const spans = new Map<number, { top: number; bottom: number }>();
  for (const { branch, row } of placed) {
    const { from, to } = network.branches[branch];
    for (const node of [from, to]) {
      const span = spans.get(node) ?? { top: row, bottom: row };
      spans.set(node, { top: Math.min(span.top, row), bottom: Math.max(span.bottom, row) });
    }
  }
  const bars = [...spans].map(([node, span]): Bar => ({ node, column: columnOf.get(node) ?? 0, ...span }));
  let hopCount = 0;
  const strips = placed.map(({ branch, row, a, b }): Strip => {
    const hops = bars
      .filter((bar) => a < bar.column && bar.column < b && bar.top <= row && row <= bar.bottom)
      .map((bar) => bar.column)
      .sort((x, y) => x - y);
    hopCount += hops.length;
    const stops = [a, ...hops, b];
    const gaps = stops.slice(1).map((end, i) => ({ from: stops[i], to: end }));
    const room = gaps.reduce((best, gap) => (gap.to - gap.from > best.to - best.from + 1e-9 ? gap : best));
    const backward =
      (columnOf.get(network.branches[branch].from) ?? 0) > (columnOf.get(network.branches[branch].to) ?? 0);
    return { branch, row, left: a, right: b, ...room, backward, hops };
  });
  const columns = Math.max(1, ...bars.map((bar) => bar.column), ...strips.map((s) => s.right));
  return { columns, rows, bars, strips, hopCount };
}
