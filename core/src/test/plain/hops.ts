import type { Network } from "../../circuit/index.ts";

/** The fewest rows that pass a bar of their own rows, over every order of the inner nodes and many orders of the parts. */
export function fewestHops(network: Network): number {
  const count = network.nodes.length;
  const supply = network.branches.findIndex((b) => b.kind === "supply");
  const { from: left, to: right } = network.branches[supply];
  const inner = network.nodes.map((_, n) => n).filter((n) => n !== left && n !== right);
  const edges = network.branches.filter((_, k) => k !== supply);
  let best = Number.POSITIVE_INFINITY;
  const column = new Int32Array(count);
  const visit = (rest: readonly number[], done: readonly number[]) => {
    if (rest.length > 0) {
      for (const node of rest)
        visit(
          rest.filter((n) => n !== node),
          [...done, node],
        );
      return;
    }
    [left, ...done, right].forEach((node, i) => {
      column[node] = i;
    });
    for (let turn = 0; turn < edges.length && best > 0; turn += 1)
      best = Math.min(best, hopsOf([...edges.slice(turn), ...edges.slice(0, turn)], column, count));
  };
  visit(inner, []);
  return best;
}

function hopsOf(edges: readonly { from: number; to: number }[], column: Int32Array, count: number): number {
  const rows: { a: number; b: number }[][] = [];
  const top = new Int32Array(count).fill(1e6);
  const bottom = new Int32Array(count).fill(-1);
  const placed = edges.map(({ from, to }) => {
    const [a, b] = [Math.min(column[from], column[to]), Math.max(column[from], column[to])];
    let row = 0;
    while (rows[row]?.some((r) => r.a < b && a < r.b)) row += 1;
    rows[row] = [...(rows[row] ?? []), { a, b }];
    for (const node of [from, to]) {
      top[node] = Math.min(top[node], row);
      bottom[node] = Math.max(bottom[node], row);
    }
    return { a, b, row };
  });
  let hops = 0;
  for (const { a, b, row } of placed)
    for (let node = 0; node < count; node += 1)
      if (a < column[node] && column[node] < b && top[node] <= row && row <= bottom[node]) hops += 1;
  return hops;
}
