import type { Network } from "../circuit/index.ts";

/** One branch of a path, and whether the path runs from its `from` to its `to`. */
export interface PathStep {
  readonly branch: number;
  readonly forward: boolean;
}

/**
 * The path of the largest current through a branch, from a supply round to itself, the supply first: at every node it follows
 * the branch that carries most on. Empty where no current flows there.
 * @param amps amperes of each branch from `from` to `to`
 */
export function currentPath(network: Network, amps: Float64Array, through: number): PathStep[] {
  const least = 1e-12 * amps.reduce((most, i) => Math.max(most, Math.abs(i)), 0);
  if (!(Math.abs(amps[through]) > least)) return [];
  const start: PathStep = { branch: through, forward: amps[through] > 0 };
  const path = [start];
  const used = new Set([through]);
  const end = (step: PathStep) =>
    step.forward ? network.branches[step.branch].to : network.branches[step.branch].from;
  const begin = (step: PathStep) =>
    step.forward ? network.branches[step.branch].from : network.branches[step.branch].to;
  /** Goes on with the largest current until a supply closes the way, or nothing leads on. */
  const grow = (downstream: boolean) => {
    for (;;) {
      const last = downstream ? path[path.length - 1] : path[0];
      if (path.length > 1 && network.branches[last.branch].kind === "supply") return;
      const node = downstream ? end(last) : begin(last);
      let best: PathStep | null = null;
      network.branches.forEach(({ from, to }, branch) => {
        if (used.has(branch) || from === to || Math.abs(amps[branch]) <= least) return;
        const forward = amps[branch] > 0;
        const leaves = downstream ? (forward ? from : to) === node : (forward ? to : from) === node;
        if (leaves && (!best || Math.abs(amps[branch]) > Math.abs(amps[best.branch]))) best = { branch, forward };
      });
      if (!best) return;
      used.add((best as PathStep).branch);
      if (downstream) path.push(best);
      else path.unshift(best);
    }
  };
  grow(true);
  grow(false);
  const isClosed = begin(path[0]) === end(path[path.length - 1]);
  const supply = path.findIndex((s) => network.branches[s.branch].kind === "supply");
  return isClosed && supply > 0 ? [...path.slice(supply), ...path.slice(0, supply)] : path;
}
