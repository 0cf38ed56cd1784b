import type { Network, NodeName } from "../circuit/index.ts";
import { type Composite, combine } from "./seriesParallel.ts";
import { armsOf, bridgeIn, sidesOf } from "./starDelta.ts";
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

/** Parts in series or in parallel that become one, and why they may. */
export interface Combined {
  readonly kind: "series" | "parallel";
  readonly parts: readonly Item[];
  readonly result: Item;
  readonly why: string;
}

/** Three parts that form a triangle become a star, or the other way round: what a bridge needs. */
export interface Transformed {
  readonly kind: "star" | "delta";
  /** The three that were there. */
  readonly parts: readonly Item[];
  /** The three that take their place: arm n of a star is at corner n; side n of a triangle lies across from corner n. */
  readonly made: readonly Item[];
  /** The three nodes, in that order, and the star's middle. */
  readonly corners: readonly number[];
  readonly middle: number;
  readonly why: string;
}

/** One step of a reduction. */
export type Step = Combined | Transformed;

/** What stands on the sheet after a step that was not there before. */
export function madeBy(step: Step): readonly Item[] {
  return "result" in step ? [step.result] : step.made;
}

export interface Reduction {
  /** The supply whose circuit is reduced; −1 where it is seen from two nodes, or where there is none. */
  readonly source: number;
  readonly steps: readonly Step[];
  /** What is left over; one item between the two terminals where it reduces all the way. */
  readonly left: readonly Item[];
  /** Branches that carry nothing and are left out, with the reason. */
  readonly idle: readonly { readonly branch: number; readonly why: string }[];
  /** Names of all nodes: the circuit's, then the middles of the stars that were made. */
  readonly nodes: readonly NodeName[];
  /** Why series and parallel alone go no further; null where they do. */
  readonly bridge: string | null;
  /** Why it goes no further at all; null where it reduces all the way. */
  readonly stops: string | null;
}

/** From where a network is seen, other than from its supply. */
export interface Seen {
  /** Node numbers. */
  readonly ends: readonly [number, number];
  /** What becomes of supplies: disconnected, or replaced by their inside resistance. */
  readonly supplies: "out" | "atRest";
}

/**
 * Reduces a network to one resistance between the terminals of its first supply, or between any two nodes, innermost
 * first, one step at a time; a bridge goes on by star and triangle.
 * @param ohms of each branch: at the working point, for filaments
 * @param paper how figures are carried on paper: rounded at each step, parallel ones in a school's way; left out, exact
 */
export function reduceNetwork(
  network: Network,
  ohms: ArrayLike<number>,
  paper: Paper = EXACT,
  seen: Seen | null = null,
): Reduction {
  const { branches } = network;
  const source = seen ? -1 : branches.findIndex((b) => b.kind === "supply" && b.from !== b.to);
  const own = source >= 0 ? [branches[source].from, branches[source].to] : [network.reference];
  const terminals = new Set<number>(seen?.ends ?? own);
  const { items: live, idle } = liveItems(network, ohms, { source, terminals, seen });
  const fixed = live.filter((i) => isFixed(network, i, seen));
  // Nothing is combined across a supply: its nodes stay.
  const kept = new Set([...terminals, ...fixed.flatMap((i) => [i.from, i.to])]);
  const sheet = new Sheet(network, paper);
  const settled = (from: readonly Item[]): Item[] => {
    for (let items = sheet.combine(from, kept); ; items = sheet.combine(items, kept)) {
      // What came together may lead nowhere now, or back to where it began.
      const dead = items.find((i) => i.from === i.to) ?? deadEnd([...items, ...fixed], terminals)?.item;
      if (!dead || !items.includes(dead)) return items;
      for (const branch of dead.branches) idle.push({ branch, why: `${dead.name} leads nowhere else` });
      items = items.filter((i) => i !== dead);
    }
  };
  let items = settled(live.filter((i) => !fixed.includes(i)));
  const isDone = () => fixed.length === 0 && items.length === 1 && terminals.size === 2;
  const bridge = isDone() ? null : stopsAt(network, [...items, ...fixed], { terminals, seen });
  while (!isDone() && fixed.length === 0 && terminals.size === 2) {
    const next = sheet.transform(items, kept);
    if (!next) break;
    items = settled(next);
  }
  const { steps, nodes } = sheet;
  return { source, steps, left: [...items, ...fixed], idle, nodes, bridge, stops: isDone() ? null : bridge };
}

const isFixed = ({ branches }: Network, { branches: [k] }: Item, seen: Seen | null) =>
  seen === null && branches[k].kind === "supply";

interface From {
  readonly source: number;
  readonly terminals: ReadonlySet<number>;
  readonly seen: Seen | null;
}

/** What can carry a current between the terminals, and what cannot, with the reason. */
function liveItems({ branches, nodes }: Network, ohms: ArrayLike<number>, { source, terminals, seen }: From) {
  const idle: { branch: number; why: string }[] = [];
  let items: Item[] = [];
  branches.forEach(({ name, law, kind, from, to }, branch) => {
    if (branch === source) return;
    if (law.kind === "open") idle.push({ branch, why: `${name} is open` });
    else if (seen?.supplies === "out" && kind === "supply") idle.push({ branch, why: `${name} is disconnected` });
    else if (from === to) idle.push({ branch, why: `both ends of ${name} are at ${nodes[from]}` });
    else items.push({ name, ohms: ohms[branch], branches: [branch], from, to });
  });
  for (let dead = deadEnd(items, terminals); dead; dead = deadEnd(items, terminals)) {
    const { item, at } = dead;
    items = items.filter((i) => i !== item);
    idle.push({ branch: item.branches[0], why: `${item.name} leads to ${nodes[at]} and nowhere else` });
  }
  return { items, idle };
}

/** The steps as they are written down, one below the other, each result with a mark of its own. */
class Sheet {
  readonly steps: Step[] = [];
  readonly nodes: NodeName[];
  private marks = 0;

  constructor(
    network: Network,
    private readonly paper: Paper,
  ) {
    this.nodes = [...network.nodes];
  }

  /** Series and parallel, as far as they go. @param kept nodes that stay */
  combine(items: readonly Item[], kept: ReadonlySet<number>): Item[] {
    const make = (composite: Composite): Item => {
      if (composite.kind === "branch") return items[composite.branch];
      const parts = composite.parts.map(make);
      const { kind, from, to } = composite;
      const result = combined({ kind, parts, from, to }, this.mark(), this.paper);
      this.steps.push({ kind, parts, result, why: whyOf(this.nodes, { kind, parts, from, to }) });
      return result;
    };
    return combine({ branches: items }, [...items.keys()], kept).map(make);
  }

  /** A triangle made a star, or a star a triangle, where that lets it go on; null where neither is there. */
  transform(items: readonly Item[], kept: ReadonlySet<number>): Item[] | null {
    const found = bridgeIn(items, kept);
    if (!found) return null;
    const { kind, parts, corners } = found;
    const middle = kind === "star" ? this.nodes.push(this.freeName()) - 1 : found.middle;
    const ohms = (kind === "star" ? armsOf : sidesOf)(parts.map((p) => p.ohms)).map(this.paper.round);
    const branches = [...new Set(parts.flatMap((p) => p.branches))];
    const made = corners.map((corner, n): Item => {
      const [from, to] = kind === "star" ? [corner, middle] : [corners[(n + 1) % 3], corners[(n + 2) % 3]];
      return { name: this.mark(), ohms: ohms[n], branches, from, to };
    });
    const names = listed(parts.map((p) => p.name));
    const at = listed(corners.map((n) => this.nodes[n]));
    const why =
      kind === "star"
        ? `${names} form a triangle of ${at}: a star with its middle at ${this.nodes[middle]} does the same`
        : `${names} meet at ${this.nodes[middle]} and nothing else does: a triangle of ${at} does the same`;
    this.steps.push({ kind, parts, made, corners, middle, why });
    return [...items.filter((i) => !parts.includes(i)), ...made];
  }

  /** Ra, Rb, … */
  private mark(): string {
    this.marks += 1;
    return markOf(this.marks - 1);
  }

  private freeName(): NodeName {
    for (let n = 1; ; n += 1) if (!this.nodes.includes(`Y${n}` as NodeName)) return `Y${n}` as NodeName;
  }
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

type Found = Pick<Combined, "kind" | "parts"> & { readonly from: number; readonly to: number };

function combined({ kind, parts, from, to }: Found, name: string, paper: Paper): Item {
  const own = parts.map((p) => p.ohms);
  const ohms = kind === "series" ? paper.round(seriesOf(own)) : parallelOnPaper(own, paper);
  return { name, ohms, branches: parts.flatMap((p) => p.branches), from, to };
}

function whyOf(nodes: readonly NodeName[], { kind, parts, from, to }: Found): string {
  const names = listed(parts.map((p) => p.name));
  if (kind === "parallel") return `${names} lie between the same two nodes, ${nodes[from]} and ${nodes[to]}`;
  const inner = parts.slice(1).map((p, i) => {
    const before = parts[i];
    return [p.from, p.to].find((n) => n === before.from || n === before.to) as number;
  });
  return `one current runs through ${names}: nothing else joins at ${listed(inner.map((n) => nodes[n]))}`;
}

/** `R1, R2 and R3`. */
export function listed(names: readonly string[]): string {
  return names.length <= 1 ? names.join("") : `${names.slice(0, -1).join(", ")} and ${names[names.length - 1]}`;
}

function stopsAt(network: Network, items: readonly Item[], { terminals, seen }: Omit<From, "source">): string {
  const { nodes } = network;
  if (terminals.size < 2) return "there is no supply whose circuit could be reduced";
  const supplies = items.filter((i) => isFixed(network, i, seen));
  if (supplies.length > 0)
    return `${listed(supplies.map((i) => i.name))} ${supplies.length === 1 ? "is a supply" : "are supplies"} among the rest, and no resistance can stand for a supply`;
  if (items.length === 0)
    return `no current can flow: nothing leads from ${listed([...terminals].map((n) => nodes[n]))}`;
  const nodesLeft = [...new Set(items.flatMap((i) => [i.from, i.to]))].map((n) => nodes[n]);
  return `of ${listed(items.map((i) => i.name))} no two share both nodes, and at each of ${listed(nodesLeft)} more than two meet: a bridge`;
}
