import type { Network } from "../circuit/index.ts";
import { type Composite, combine } from "./seriesParallel.ts";
import { listed } from "./steps.ts";

/** How two parts lie to each other, with the reason in words. */
export interface Relation {
  readonly kind: "series" | "parallel" | "neither";
  readonly why: string;
}

/**
 * Why two branches are in series, in parallel, or neither. Parallel: both nodes shared. Series: one current, as the
 * nodes between join nothing else, or everything between them comes together again.
 * @param a, b numbers of branches
 */
export function relationOf(network: Network, a: number, b: number): Relation {
  const { branches, nodes } = network;
  const [p, q] = [branches[a], branches[b]];
  const name = (node: number) => nodes[node];
  const shared = [p.from, p.to].filter((n) => n === q.from || n === q.to);
  if (p.from !== p.to && shared.length === 2)
    return {
      kind: "parallel",
      why: `${p.name} and ${q.name} are parallel: both lie between ${name(p.from)} and ${name(p.to)}, so they have the same voltage`,
    };
  const at = (node: number) => branches.filter((x, k) => k !== a && k !== b && (x.from === node || x.to === node));
  const [meeting] = shared;
  const others = meeting === undefined ? [] : at(meeting);
  if (meeting !== undefined && others.length === 0)
    return {
      kind: "series",
      why: `${p.name} and ${q.name} are in series: at ${name(meeting)} they meet and nothing else joins, so the same current runs through both`,
    };
  const between = joinedBetween(network, a, b);
  if (between)
    return {
      kind: "series",
      why: `${p.name} and ${q.name} are in series: what branches off between them (${between.join(", ")}) comes together again before the other, so the same current runs through both`,
    };
  const why =
    meeting === undefined
      ? `${p.name} and ${q.name} share no node, and no single current is bound to run through both`
      : `${p.name} and ${q.name} meet at ${name(meeting)}, where ${listed(others.map((x) => x.name))} also ${others.length === 1 ? "joins" : "join"}: their currents can differ; their other ends are apart, so their voltages can differ too`;
  return { kind: "neither", why };
}

/** Parts between two branches whose current is the same for want of any other way round; null where it is not. */
function joinedBetween(network: Network, a: number, b: number): string[] | null {
  const { branches } = network;
  const others = branches.map((_, k) => k).filter((k) => k !== a && k !== b);
  const ends = [branches[a].from, branches[a].to, branches[b].from, branches[b].to];
  // Cutting both must leave two sides, each holding one end of either.
  const group = new Map<number, number>();
  const root = (n: number): number => (group.has(n) && group.get(n) !== n ? root(group.get(n) as number) : n);
  for (const k of others) group.set(root(branches[k].from), root(branches[k].to));
  const [a1, a2, b1, b2] = ends.map(root);
  const isCut = a1 !== a2 && b1 !== b2 && ((a1 === b1 && a2 === b2) || (a1 === b2 && a2 === b1));
  if (!isCut) return null;
  const sideOf = (node: number) => others.filter((k) => root(branches[k].from) === node).map((k) => branches[k]);
  const sides = [a1, a2].map(sideOf);
  const side = sides.find((s) => s.length > 0 && !s.some((x) => x.kind === "supply")) ?? sides[0];
  return side.map((x) => x.name);
}

/** `R2 parallel to (R3 in series with R4)`. */
export function compositeWords(network: Network, c: Composite): string {
  if (c.kind === "branch") return network.branches[c.branch].name;
  const words = c.parts.map((p) =>
    p.kind === "branch" ? compositeWords(network, p) : `(${compositeWords(network, p)})`,
  );
  return words.join(c.kind === "series" ? " in series with " : " parallel to ");
}

/** How a stretch of parts comes together: its composites in words, or what keeps them apart. */
export function describeStretch(network: Network, branches: readonly number[]): string {
  if (branches.length === 2) return relationOf(network, branches[0], branches[1]).why;
  const inside = new Set(branches);
  const count = new Map<number, number>();
  network.branches.forEach((b, k) => {
    if (inside.has(k)) return;
    for (const node of [b.from, b.to]) count.set(node, (count.get(node) ?? 0) + 1);
  });
  const own = new Set(branches.flatMap((k) => [network.branches[k].from, network.branches[k].to]));
  const terminals = new Set([...own].filter((node) => (count.get(node) ?? 0) > 0));
  const left = combine(network, branches, terminals);
  const say = (c: Composite) => compositeWords(network, c);
  if (left.length === 1)
    return `one stretch from ${network.nodes[left[0].from]} to ${network.nodes[left[0].to]}: ${say(left[0])}`;
  return `these are neither series nor parallel as a whole: ${left.map(say).join("; ")} are joined to other parts at ${listed([...terminals].map((n) => network.nodes[n]))}`;
}
