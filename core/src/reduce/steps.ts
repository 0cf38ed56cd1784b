import type { Network } from "../circuit/index.ts";
import { type Composite, combine } from "./seriesParallel.ts";
import { parallelOnPaper, type School, seriesOf } from "./sums.ts";

/** A part, or several combined into one resistance, between two nodes. */
export interface Item {
  /** The part's name, or a mark: Ra, Rb, … */
  readonly name: string;
  readonly ohms: number;
  /** Branches in it. */
  readonly branches: readonly number[];
  readonly from: number;
  readonly to: number;
}

/** How figures are carried from step to step. */
export interface Paper {
  readonly round: (value: number) => number;
  readonly school: School;
  /** Equal ones in parallel as R ÷ n. */
  readonly shortcut: boolean;
}

const EXACT: Paper = { round: (v) => v, school: "reciprocals", shortcut: false };

/** One step of a reduction: what is combined, why it may be, and what it makes. */
export interface Step {
  readonly kind: "series" | "parallel";
  readonly parts: readonly Item[];
  readonly result: Item;
  readonly why: string;
}

export interface Reduction {
  /** The supply whose circuit is reduced; −1 where there is none. */
  readonly source: number;
  readonly steps: readonly Step[];
  /** What is left over; one item between the supply's terminals where it reduces all the way. */
  readonly left: readonly Item[];
  /** Branches that carry nothing and are left out, with the reason. */
  readonly idle: readonly { readonly branch: number; readonly why: string }[];
  /** Why it goes no further; null where it reduces all the way. */
  readonly stops: string | null;
}

/**
 * Reduces a network to one resistance between the terminals of its first supply, innermost first, one step at a time.
 * @param ohms of each branch: at the working point, for filaments
 * @param paper how figures are carried on paper: rounded at each step, parallel ones in a school's way; left out, exact
 */
export function reduceNetwork(network: Network, ohms: ArrayLike<number>, paper: Paper = EXACT): Reduction {
  const { branches, nodes } = network;
  const source = branches.findIndex((b) => b.kind === "supply" && b.from !== b.to);
  const terminals = new Set(source >= 0 ? [branches[source].from, branches[source].to] : [network.reference]);
  const idle: { branch: number; why: string }[] = [];
  const isFixed = (item: Item) => item.branches.length === 1 && branches[item.branches[0]].kind === "supply";
  let items: Item[] = [];
  branches.forEach(({ name, law, from, to }, branch) => {
    if (branch === source) return;
    if (law.kind === "open") idle.push({ branch, why: `${name} is open` });
    else if (from === to) idle.push({ branch, why: `both ends of ${name} are at ${nodes[from]}` });
    else items.push({ name, ohms: ohms[branch], branches: [branch], from, to });
  });
  for (let dead = deadEnd(items, terminals); dead; dead = deadEnd(items, terminals)) {
    const { item, at } = dead;
    items = items.filter((i) => i !== item);
    idle.push({ branch: item.branches[0], why: `${item.name} leads to ${nodes[at]} and nowhere else` });
  }
  const fixed = items.filter(isFixed);
  // Nothing is combined across a supply: its nodes stay.
  const kept = new Set([...terminals, ...fixed.flatMap((i) => [i.from, i.to])]);
  const single = new Map(items.map((i) => [i.branches[0], i]));
  const steps: Step[] = [];
  const make = (composite: Composite): Item => {
    if (composite.kind === "branch") return single.get(composite.branch) as Item;
    const parts = composite.parts.map(make);
    const { kind, from, to } = composite;
    const result = combined({ kind, parts, from, to }, markOf(steps.length), paper);
    steps.push({ kind, parts, result, why: whyOf(network, { kind, parts, from, to }) });
    return result;
  };
  const loose = items.filter((i) => !isFixed(i)).map((i) => i.branches[0]);
  items = [...combine(network, loose, kept).map(make), ...fixed];
  const isDone = source >= 0 && items.length === 1 && !items.some(isFixed);
  return { source, steps, left: items, idle, stops: isDone ? null : stopsAt(network, items, source) };
}

/** Ra, Rb, … Rz, Raa, … */
function markOf(index: number): string {
  const letters = "abcdefghijklmnopqrstuvwxyz";
  const tail = letters[index % 26];
  return index < 26 ? `R${tail}` : `R${letters[Math.floor(index / 26) - 1]}${tail}`;
}

/** An item with an end where nothing else joins: no current can flow through it. */
function deadEnd(items: readonly Item[], terminals: ReadonlySet<number>): { item: Item; at: number } | null {
  for (const item of items) {
    for (const at of [item.from, item.to]) {
      if (!terminals.has(at) && !items.some((o) => o !== item && (o.from === at || o.to === at))) return { item, at };
    }
  }
  return null;
}

type Found = Pick<Step, "kind" | "parts"> & { readonly from: number; readonly to: number };

function combined({ kind, parts, from, to }: Found, name: string, paper: Paper): Item {
  const own = parts.map((p) => p.ohms);
  const ohms = kind === "series" ? paper.round(seriesOf(own)) : parallelOnPaper(own, paper);
  return { name, ohms, branches: parts.flatMap((p) => p.branches), from, to };
}

function whyOf({ nodes }: Network, { kind, parts, from, to }: Found): string {
  const names = listed(parts.map((p) => p.name));
  if (kind === "parallel") return `${names} lie between the same two nodes, ${nodes[from]} and ${nodes[to]}`;
  const inner = parts.slice(1).map((p, i) => {
    const before = parts[i];
    return [p.from, p.to].find((n) => n === before.from || n === before.to) as number;
  });
  return `one current runs through ${names}: nothing else joins at ${listed(inner.map((n) => nodes[n]))}`;
}

export function listed(names: readonly string[]): string {
  return names.length <= 1 ? names.join("") : `${names.slice(0, -1).join(", ")} and ${names[names.length - 1]}`;
}

function stopsAt({ branches, nodes }: Network, items: readonly Item[], source: number): string {
  if (source < 0) return "there is no supply whose circuit could be reduced";
  const supplies = items.filter((i) => branches[i.branches[0]].kind === "supply").map((i) => i.name);
  if (supplies.length > 0)
    return `${listed(supplies)} ${supplies.length === 1 ? "is a supply" : "are supplies"} among the rest, and no resistance can stand for a supply`;
  if (items.length === 0) return "no current can flow: nothing leads from plus to minus";
  const nodesLeft = [...new Set(items.flatMap((i) => [i.from, i.to]))].map((n) => nodes[n]);
  return `of ${listed(items.map((i) => i.name))} no two share both nodes, and at each of ${listed(nodesLeft)} more than two meet: a bridge`;
}
