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
  const grow = (downstream: boolean) => {
    for (;;) {
      const last = downstream ? path[path.length - 1] : path[0];
      const closed = begin(path[0]) === end(path[path.length - 1]);
      if (closed) return;
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
  const supply = path.findIndex((s) => network.branches[s.branch].kind === "supply");
  return supply > 0 ? [...path.slice(supply), ...path.slice(0, supply)] : path;
}
