import type { Network } from "../circuit/index.ts";

/** One branch on a way round a loop: passed from `from` to `to`, or the other way. */
export interface LoopStep {
  readonly branch: number;
  readonly forward: boolean;
}

/**
 * Independent loops, one for each branch that is not in the spanning tree, found breadth-first so that loops are
 * short. Open branches are left out.
 */
export function loopsOf(network: Network): LoopStep[][] {
  const { branches, nodes } = network;
  const live = branches.flatMap((b, k) => (b.law.kind !== "open" && b.from !== b.to ? [k] : []));
  const parent = new Map<number, LoopStep | null>();
  const inTree = new Set<number>();
  for (const start of [network.reference, ...nodes.keys()]) {
    if (parent.has(start)) continue;
    parent.set(start, null);
    const queue = [start];
    for (let at = queue.shift(); at !== undefined; at = queue.shift()) {
      for (const branch of live) {
        const { from, to } = branches[branch];
        const next = from === at ? to : to === at ? from : -1;
        if (next < 0 || parent.has(next)) continue;
        parent.set(next, { branch, forward: from === at });
        inTree.add(branch);
        queue.push(next);
      }
    }
  }
  const toRoot = (node: number): LoopStep[] => {
    const path: LoopStep[] = [];
    for (let step = parent.get(node); step; ) {
      path.unshift(step);
      const { from, to } = branches[step.branch];
      step = parent.get(step.forward ? from : to);
    }
    return path;
  };
  return live
    .filter((k) => !inTree.has(k))
    .map((k) => {
      const { from, to } = branches[k];
      const [down, up] = [toRoot(from), toRoot(to)];
      let common = 0;
      while (common < down.length && common < up.length && down[common].branch === up[common].branch) common += 1;
      const back = up
        .slice(common)
        .reverse()
        .map(({ branch, forward }) => ({ branch, forward: !forward }));
      return [...down.slice(common), { branch: k, forward: true }, ...back];
    });
}

/** A junction's equation: the currents that leave it, each by its part. */
export interface NodeEquation {
  readonly node: number;
  /** Amperes leaving through each branch that meets here. */
  readonly terms: readonly { readonly branch: number; readonly leaves: boolean }[];
}

/** One equation for every node but the reference: what flows in flows out. */
export function nodeEquations({ branches, nodes, reference }: Network): NodeEquation[] {
  return nodes.flatMap((_, node): NodeEquation[] => {
    if (node === reference) return [];
    const terms = branches.flatMap((b, branch) =>
      b.from === b.to || b.law.kind === "open" || (b.from !== node && b.to !== node)
        ? []
        : [{ branch, leaves: b.from === node }],
    );
    return terms.length > 0 ? [{ node, terms }] : [];
  });
}
