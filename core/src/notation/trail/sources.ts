import type { TextEdit } from "../mistake.ts";
import { type Fix, insertAt } from "./fixes.ts";
import type { Item, NodeMark, PartNode, SeriesNode, Span } from "./tree.ts";

/** A junction while the trail is walked; its name may come later or never. */
export interface Junction {
  name: string | null;
  /** Where its name would be written. */
  readonly offset: number;
  readonly plus?: boolean;
}

export interface Loop {
  readonly supply: PartNode;
  readonly minus: Junction;
  /** Where its minus is named. */
  readonly mark: NodeMark | null;
  readonly series: SeriesNode;
}

export interface Placed {
  readonly node: PartNode;
  readonly from: Junction;
  readonly to: Junction;
}

interface Said {
  readonly at: Span;
  readonly message: string;
  readonly fix?: Fix;
}

/** A second loop that goes on along what is written already: its source's own line ends where it joins. */
export function secondSource(
  text: string,
  { supply, series, minus }: Loop,
  again: PartNode,
  meets: Junction,
  free: string,
): Required<Said> {
  const name = meets.name ?? free;
  const line = lineOf(
    text,
    supply,
    series.items.filter((item) => item.type !== "node" && item.to <= again.from),
    [minus.name ?? "0", name],
  );
  const edits: TextEdit[] = [{ from: supply.from, to: series.to, insert: line }];
  if (meets.name === null) edits.unshift({ from: meets.offset, to: meets.offset, insert: ` [${name}]` });
  return {
    at: again.designatorSpan,
    message: `${again.designator} is written already; the line of a second source goes from its minus through it to where it joins: ${line}`,
    fix: { label: `write ${line}`, edits },
  };
}

/** A source's line as a run, from its minus through it to where it joins. */
function lineOf(text: string, supply: PartNode, inner: readonly Item[], [from, to]: readonly [string, string]): string {
  return `[${from}] ${[supply, ...inner].map((item) => text.slice(item.from, item.to)).join(" + ")} [${to}]`;
}

/** What is probably meant otherwise of where supplies are put. */
export function doubtsOfSources(
  text: string,
  loops: readonly Loop[],
  placed: readonly Placed[],
  zero: Junction | undefined,
  reference: Junction | null,
): Said[] {
  return [
    ...stackedLoops(loops, placed),
    ...looseLoops(text, loops, placed, zero ?? loops[0]?.minus),
    ...turned(loops, placed, reference),
  ];
}

function stackedLoops(loops: readonly Loop[], placed: readonly Placed[]): Said[] {
  const pluses = new Map(placed.flatMap(({ node, from }) => (node.kind === "supply" ? [[from, node]] : [])));
  return loops.flatMap(({ supply, minus, mark }): Said[] => {
    const other = pluses.get(minus);
    if (!mark || !other || other === supply) return [];
    return [{ at: mark, message: `${supply.designator}'s minus is at ${mark.name}, the plus of ${other.designator}?` }];
  });
}

/** A loop that meets the rest only where its minus is named was meant to join there: `BT2 9V: R3 330 + [A]`. */
function looseLoops(
  text: string,
  loops: readonly Loop[],
  placed: readonly Placed[],
  start: Junction | undefined,
): Said[] {
  return loops.slice(1).flatMap(({ supply, minus, mark, series }): Said[] => {
    const inner = series.items.filter((item) => item.type !== "node");
    if (!mark || series.items.length > inner.length + 1 || inner.length === 0) return [];
    const isOwn = (at: number) => at >= supply.from && at <= series.to;
    const isShared = placed.some((p) => !isOwn(p.node.from) && (p.from === minus || p.to === minus));
    if (!isShared || !start?.name || minus === start) return [];
    const line = lineOf(text, supply, inner, [start.name, mark.name]);
    return [
      {
        at: mark,
        message: `${supply.designator}’s loop meets the rest only at ${mark.name}, with its minus; if it joins there, write ${line}`,
        fix: { label: `write ${line}`, edits: [{ from: supply.from, to: series.to, insert: line }] },
      },
    ];
  });
}

/** A supply in a line that puts its plus to the reference: meant, or walked the other way. */
function turned(loops: readonly Loop[], placed: readonly Placed[], reference: Junction | null): Said[] {
  return placed.flatMap(({ node, from }): Said[] => {
    const { volts, valueSpan } = node.written;
    if (node.kind !== "supply" || from !== reference || !(Number(volts) > 0) || !valueSpan) return [];
    // In a loop that is the way of sources in series.
    if (loops.some((l) => node.from >= l.supply.from && node.to <= l.series.to)) return [];
    return [
      {
        at: node,
        message: `${node.designator} is walked from minus to plus, so its plus is at ${reference?.name ?? "the reference"}; if its minus is there, turn it round`,
        fix: insertAt(valueSpan.from, "-", "turn it round"),
      },
    ];
  });
}

export function hasSupply(item: Item): boolean {
  if (item.type === "group") return item.branches.some((b) => b.items.some(hasSupply));
  return item.type === "part" && item.kind === "supply";
}
