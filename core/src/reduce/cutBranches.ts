import type { Network } from "../circuit/index.ts";

/** A branch that alone connects what lies beyond it. */
export interface Cut {
  readonly branch: number;
  /** Its end towards the part that the search came from, and the end beyond. */
  readonly near: number;
  readonly far: number;
  /** Nodes beyond it, as numbers in the order of the search: from `first` up to but not including `end`. */
  readonly first: number;
  readonly end: number;
}

/**
 * Branches that lie on no closed way, by one depth-first search in linear time: those over which nothing beyond reaches
 * back. Tarjan, A note on finding the bridges of a graph, Information Processing Letters 2 (1974).
 * @returns the cuts by branch, and for each node its number in the order of the search
 */
export function cutBranches({ nodes, branches }: Network): {
  readonly cuts: ReadonlyMap<number, Cut>;
  readonly order: Int32Array;
} {
  const at: number[][] = nodes.map(() => []);
  branches.forEach(({ from, to }, k) => {
    if (from === to) return;
    at[from].push(k);
    at[to].push(k);
  });
  const order = new Int32Array(nodes.length).fill(-1);
  const low = new Int32Array(nodes.length);
  const next = new Int32Array(nodes.length);
  const cuts = new Map<number, Cut>();
  let count = 0;
  for (let start = 0; start < nodes.length; start += 1) {
    if (order[start] >= 0) continue;
    const path: { node: number; by: number }[] = [{ node: start, by: -1 }];
    order[start] = low[start] = count++;
    while (path.length > 0) {
      const { node, by } = path[path.length - 1];
      if (next[node] < at[node].length) {
        const k = at[node][next[node]++];
        if (k === by) continue;
        const other = branches[k].from === node ? branches[k].to : branches[k].from;
        if (order[other] >= 0) low[node] = Math.min(low[node], order[other]);
        else {
          order[other] = low[other] = count++;
          path.push({ node: other, by: k });
        }
        continue;
      }
      path.pop();
      const parent = path[path.length - 1];
      if (!parent) continue;
      low[parent.node] = Math.min(low[parent.node], low[node]);
      if (low[node] > order[parent.node])
        cuts.set(by, { branch: by, near: parent.node, far: node, first: order[node], end: count });
    }
  }
  return { cuts, order };
}
