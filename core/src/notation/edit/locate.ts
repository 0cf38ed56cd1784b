import type { NodeName, Part } from "../../circuit/index.ts";
import type { GroupNode, Item, LoopNode, PartNode, RunNode, SeriesNode, Trail } from "../trail/index.ts";

/** One step down the tree: an item of a series, and the group that the series is a branch of. */
export interface Step {
  readonly series: SeriesNode;
  readonly index: number;
  readonly group: GroupNode | null;
}

/** Where a part stands: as the supply that begins a loop, or down a path of series. */
export type Place =
  | { readonly kind: "supply"; readonly part: PartNode; readonly statement: LoopNode }
  | {
      readonly kind: "item";
      readonly part: PartNode;
      readonly statement: LoopNode | RunNode;
      readonly path: readonly Step[];
    };

/** Finds a part in the tree of a trail; null where there is none of that name, or the trail has mistakes. */
export function locate(trail: Trail, designator: string): Place | null {
  if (!trail.circuit) return null;
  for (const statement of trail.statements) {
    if (statement.type !== "loop" && statement.type !== "run") continue;
    if (statement.type === "loop" && statement.supply.designator === designator)
      return { kind: "supply", part: statement.supply, statement };
    const path = pathTo(statement.series, null, designator);
    if (!path) continue;
    const { series, index } = path[path.length - 1];
    return { kind: "item", part: series.items[index] as PartNode, statement, path };
  }
  return null;
}

function pathTo(series: SeriesNode, group: GroupNode | null, designator: string): Step[] | null {
  for (const [index, item] of series.items.entries()) {
    const step = { series, index, group };
    if (item.type === "part" && item.designator === designator) return [step];
    if (item.type !== "group") continue;
    for (const branch of item.branches) {
      const below = pathTo(branch, item, designator);
      if (below) return [step, ...below];
    }
  }
  return null;
}

/** The innermost series that holds several parts, and its items from the first of them to the last. */
export function stretchOf(trail: Trail, designators: readonly string[]): (Step & { readonly last: number }) | null {
  const places = designators.map((d) => locate(trail, d));
  const paths = places.flatMap((p) => (p?.kind === "item" ? [p.path] : []));
  if (paths.length < designators.length || paths.length === 0) return null;
  const depth = Math.min(...paths.map((p) => p.length));
  for (let d = depth - 1; d >= 0; d -= 1) {
    const { series, group } = paths[0][d];
    if (!paths.every((p) => p[d].series === series)) continue;
    const indices = paths.map((p) => p[d].index);
    return { series, group, index: Math.min(...indices), last: Math.max(...indices) };
  }
  return null;
}

export function elementsOf(series: SeriesNode): Item[] {
  return series.items.filter((item) => item.type !== "node");
}

/** The node at which a walk along the trail enters a part, and the one at which it leaves it. */
export function walkedEnds(node: PartNode, part: Part): readonly [NodeName, NodeName] {
  const isAgainst = node.kind === "supply" ? (node.written.volts ?? 0) >= 0 : node.written.isTurned === true;
  return isAgainst ? [part.to, part.from] : [part.from, part.to];
}

/** The nodes between which an item lies, in walking order. */
export function itemEnds(item: Item, trail: Trail): readonly [NodeName, NodeName] {
  if (item.type === "node") return [item.name as NodeName, item.name as NodeName];
  if (item.type === "part") {
    const part = trail.circuit?.parts.find((p) => p.designator === item.designator);
    if (!part) throw new Error(`${item.designator} is not in the circuit`);
    return walkedEnds(item, part);
  }
  const elements = elementsOf(item.branches[0]);
  return [itemEnds(elements[0], trail)[0], itemEnds(elements[elements.length - 1], trail)[1]];
}
