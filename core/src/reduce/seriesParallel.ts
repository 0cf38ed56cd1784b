/** A branch, or several combined; `from` and `to` are node numbers, along which a series is listed. */
export type Composite =
  | { readonly kind: "branch"; readonly branch: number; readonly from: number; readonly to: number }
  | { readonly kind: "series"; readonly parts: readonly Composite[]; readonly from: number; readonly to: number }
  | { readonly kind: "parallel"; readonly parts: readonly Composite[]; readonly from: number; readonly to: number };

/**
 * Combines branches in series and in parallel as far as they go, keeping the terminals. Series: the node between joins
 * nothing else. Parallel: both nodes shared. Branches of a group stay in the order given.
 * @returns what is left: one composite where the network is series–parallel between two terminals
 */
export function combine(
  network: { readonly branches: readonly { readonly from: number; readonly to: number }[] },
  branches: readonly number[],
  terminals: ReadonlySet<number>,
): Composite[] {
  let edges = branches.map((branch): Composite => {
    const { from, to } = network.branches[branch];
    return { kind: "branch", branch, from, to };
  });
  for (;;) {
    const merged = mergeSeries(mergeParallel(edges), terminals);
    if (merged.length === edges.length) return merged;
    edges = merged;
  }
}

/** Number of the first branch of a composite, in trail order. */
export function firstBranch(composite: Composite): number {
  return composite.kind === "branch" ? composite.branch : Math.min(...composite.parts.map(firstBranch));
}

/** The same composite, walked the other way. */
export function reversed(composite: Composite): Composite {
  const { from, to } = composite;
  switch (composite.kind) {
    case "branch":
      return { ...composite, from: to, to: from };
    case "series":
      return { ...composite, from: to, to: from, parts: composite.parts.map(reversed).reverse() };
    case "parallel":
      return { ...composite, from: to, to: from, parts: composite.parts.map(reversed) };
    default:
      return composite satisfies never;
  }
}

/** The composite seen from one of its ends. */
export function startingAt(composite: Composite, node: number): Composite {
  return composite.from === node ? composite : reversed(composite);
}

function mergeParallel(edges: readonly Composite[]): Composite[] {
  const groups = new Map<string, Composite[]>();
  for (const edge of edges) {
    const key =
      edge.from === edge.to ? `loop ${firstBranch(edge)}` : [edge.from, edge.to].sort((a, b) => a - b).join(" ");
    groups.set(key, [...(groups.get(key) ?? []), edge]);
  }
  return [...groups.values()].map((group) => {
    if (group.length === 1) return group[0];
    const [{ from, to }] = group;
    const parts = group
      .map((edge) => startingAt(edge, from))
      .flatMap((edge) => (edge.kind === "parallel" ? edge.parts : [edge]))
      .sort((a, b) => firstBranch(a) - firstBranch(b));
    return { kind: "parallel", parts, from, to };
  });
}

function mergeSeries(edges: readonly Composite[], terminals: ReadonlySet<number>): Composite[] {
  const live = [...edges];
  const nodes = new Set(edges.flatMap((e) => [e.from, e.to]));
  for (const node of nodes) {
    if (terminals.has(node)) continue;
    const at = live.filter((e) => e.from === node || e.to === node);
    if (at.length !== 2 || at.some((e) => e.from === e.to)) continue;
    const [a, b] = at.sort((p, q) => firstBranch(p) - firstBranch(q));
    const before = a.to === node ? a : reversed(a);
    const after = startingAt(b, node);
    if (before.from === after.to) continue;
    const flat = (e: Composite) => (e.kind === "series" ? e.parts : [e]);
    live.splice(live.indexOf(a), 1, {
      kind: "series",
      parts: [...flat(before), ...flat(after)],
      from: before.from,
      to: after.to,
    });
    live.splice(live.indexOf(b), 1);
  }
  return live;
}
