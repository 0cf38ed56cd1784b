import type { NodeName } from "../../circuit/index.ts";
import type { GroupNode, Item, LoopNode, PartNode, RunNode, SeriesNode, Span } from "../trail/index.ts";
import { readTrail, type Trail } from "../trail/index.ts";
import { elementsOf, itemEnds, locate, type Place, type Step, walkedEnds } from "./locate.ts";
import { commentsIn, type Edited, markAt, Rewrite, refused, wordsOf } from "./rewrite.ts";

/**
 * Takes a part out. `close`: its two nodes become one. `open`: they are no longer joined by it, and what it held
 * together is written as lines of its own.
 */
export function removePart(trail: Trail, designator: string, gap: "close" | "open"): Edited {
  const place = locate(trail, designator);
  if (!place) return refused(`there is no ${designator}`);
  return gap === "close" ? closeGap(trail, place) : leaveOpen(trail, place);
}

/** The innermost step at which a part shares its series with others, or is one of several branches. */
function shared(path: readonly Step[]): Step {
  for (let at = path.length - 1; at > 0; at -= 1) {
    const { series, group } = path[at];
    if (elementsOf(series).length > 1 || (group?.branches.length ?? 0) > 1) return path[at];
  }
  return path[0];
}

function closeGap(trail: Trail, place: Place): Edited {
  const { designator } = place.part;
  if (place.kind === "supply")
    return refused(`closing the gap where ${designator} was would short everything between its terminals`);
  const { series, index, group } = shared(place.path);
  if (elementsOf(series).length === 1)
    return refused(`${designator} is all there is on its branch: closing the gap would short what lies beside it`);
  const rewrite = new Rewrite(trail);
  const [before, after] = [series.items[index - 1], series.items[index + 1]];
  rewrite.remove(withOnePlus(trail, series.items[index], after !== undefined));
  const [u, v] = itemEnds(series.items[index], trail);
  if (u === v) return rewrite.done();
  const [uNamed, vNamed] = [!trail.unnamed.has(u), !trail.unnamed.has(v)];
  // At a branch's edge the merged node is where the branches meet, which is named outside of the parenthesis.
  const edge = before === undefined || before.type === "node" ? index <= 1 : false;
  const startMark = before?.type === "node" ? before : null;
  const endMark = after?.type === "node" ? after : null;
  const atStart = group !== null && edge && endMark !== null;
  const atEnd = group !== null && startMark !== null && (after === undefined || after.type === "node");
  if (uNamed && vNamed) {
    const [kept, gone] = trail.circuit?.reference === v ? [v, u] : [u, v];
    rewrite.renameNode(gone, kept);
    if (startMark && endMark) rewrite.remove(withOnePlus(trail, endMark, true));
    else if (atStart && endMark) rewrite.remove(withOnePlus(trail, endMark, true));
    else if (atEnd && startMark) rewrite.remove(withOnePlus(trail, startMark, false));
    return rewrite.done();
  }
  if (atStart && endMark && !uNamed) {
    rewrite.remove(withOnePlus(trail, endMark, true));
    rewrite.insert(trail.unnamed.get(u) as number, ` [${endMark.name}]`);
  } else if (atEnd && startMark && !vNamed) {
    rewrite.remove(withOnePlus(trail, startMark, false));
    rewrite.insert(trail.unnamed.get(v) as number, ` [${startMark.name}]`);
  }
  return rewrite.done();
}

/** A stretch with one of the plus signs beside it: the one behind, or else the one before. */
function withOnePlus(trail: Trail, { from, to }: Span, preferBehind: boolean): Span {
  const solid = trail.tokens.filter((t) => t.kind !== "space" && t.kind !== "comment" && t.kind !== "newline");
  const behind = solid.find((t) => t.from >= to);
  const before = solid.findLast((t) => t.to <= from);
  if (preferBehind && behind?.kind === "plus") return { from, to: behind.to };
  if (before?.kind === "plus") return { from: before.from, to };
  return behind?.kind === "plus" ? { from, to: behind.to } : { from, to };
}

function leaveOpen(trail: Trail, place: Place): Edited {
  if (place.kind === "supply") return withoutSupply(trail, place.statement);
  const step = shared(place.path);
  if (step.group) return openInBranch(trail, step, step.group);
  if (place.statement.type === "loop") {
    const apart = supplyApart(trail, place.statement);
    const again = locate(readTrail(apart.text), place.part.designator);
    if (again?.kind !== "item" || again.statement.type !== "run")
      return refused("the loop cannot be written as a line");
    const left = openInRun(readTrail(apart.text), again.statement, shared(again.path).index);
    return left.kind === "refused" ? left : keepReference(trail, left, apart.nodes);
  }
  return openInRun(trail, place.statement, step.index);
}

/** A loop whose supply is gone: a line between its terminals. */
function withoutSupply(trail: Trail, loop: LoopNode): Edited {
  const { supply, series } = loop;
  const ends = loopEnds(trail, supply);
  const rewrite = new Rewrite(trail);
  const colon = trail.text.indexOf(":", supply.to) + 1;
  const plus = rewrite.name(ends[0]);
  const isMarked = markAt(series, "start") !== null || trail.unnamed.has(ends[0]);
  rewrite.replace({ from: supply.from, to: colon + (trail.text[colon] === " " && isMarked ? 1 : 0) }, "");
  if (!isMarked) rewrite.insert(supply.from, `[${plus}]`);
  if (!markAt(series, "end")) rewrite.insert(series.to, ` [${rewrite.name(ends[1])}]`);
  return rewrite.done();
}

/** The trail with a loop's supply on a line of its own and the rest on another. */
function supplyApart(trail: Trail, { supply, series }: LoopNode): { text: string; nodes: ReadonlyMap<string, string> } {
  const [plusNode, minusNode] = loopEnds(trail, supply);
  const rewrite = new Rewrite(trail);
  const colon = trail.text.indexOf(":", supply.to);
  const minus = rewrite.name(minusNode);
  const unnamed = trail.unnamed.has(plusNode);
  const plus = rewrite.name(plusNode);
  rewrite.insert(supply.from, `[${minus}] `);
  rewrite.replace({ from: supply.to, to: colon + 1 }, ` [${plus}]\n`);
  if (!unnamed && !markAt(series, "start")) rewrite.insert(colon + 1, `[${plus}]`);
  if (!markAt(series, "end")) rewrite.insert(series.to, ` [${minus}]`);
  return { text: rewrite.text(), nodes: rewrite.nodes };
}

/** The nodes at which a loop's series begins and ends: its supply's plus and minus, unless a sign turns it round. */
function loopEnds(trail: Trail, supply: PartNode): readonly [NodeName, NodeName] {
  const part = trail.circuit?.parts.find((p) => p.designator === supply.designator);
  if (!part) throw new Error(`${supply.designator} is not in the circuit`);
  const [end, start] = walkedEnds(supply, part);
  return [start, end];
}

/** Writing a loop apart can move the default reference: it is written down then. */
function keepReference(trail: Trail, edited: Extract<Edited, { kind: "edited" }>, nodes: ReadonlyMap<string, string>) {
  const merged = new Map([...nodes, ...edited.nodes]);
  const before = trail.circuit?.reference ?? "0";
  const wanted = merged.get(before) ?? before;
  const after = readTrail(edited.text);
  const moved = after.circuit?.reference !== wanted && !after.statements.some((s) => s.type === "reference");
  const exists = after.circuit?.parts.some((p) => p.from === wanted || p.to === wanted);
  const text = moved && exists ? `${edited.text.replace(/\n*$/, "\n")}reference ${wanted}\n` : edited.text;
  return { ...edited, text, nodes: merged };
}

/** Splits a line in two where a part was. */
function openInRun(trail: Trail, { series }: RunNode, index: number): Edited {
  const { items } = series;
  const [u, v] = itemEnds(items[index], trail);
  const left = items.slice(0, index);
  const right = items.slice(index + 1);
  const goesLeft = left.some((i) => i.type !== "node");
  const goesRight = right.some((i) => i.type !== "node");
  const rewrite = new Rewrite(trail);
  if (!goesLeft && !goesRight) {
    rewrite.remove(series);
    return rewrite.done();
  }
  const from = goesLeft ? (left.at(-1) as Item).to : items[0].from;
  const to = goesRight ? right[0].from : (items.at(-1) as Item).to;
  const comments = commentsIn(trail, { from, to });
  const close = goesLeft && left.at(-1)?.type !== "node" ? ` [${u}]` : "";
  const open = goesRight && right[0].type !== "node" ? `[${v}] ` : "";
  const gap = comments.length > 0 ? comments.map((c) => ` ${c}\n`).join("") : "\n";
  const between = goesLeft && goesRight ? gap : goesRight ? gap.trimStart() : gap.trimEnd();
  rewrite.replace({ from, to }, close + between + open);
  return rewrite.done();
}

/** Takes a branch out of its parenthesis; what is left of it on either side goes on lines of its own. */
function openInBranch(trail: Trail, { series, index }: Step, group: GroupNode): Edited {
  const { items } = series;
  const rewrite = new Rewrite(trail);
  const elements = elementsOf(series);
  const [start, end] = [itemEnds(elements[0], trail)[0], itemEnds(elements[elements.length - 1], trail)[1]];
  const [u, v] = itemEnds(items[index], trail);
  const lefts = items.slice(0, index);
  const rights = items.slice(index + 1);
  const stretch = (list: readonly Item[]) => wordsOf(trail, { from: list[0].from, to: (list.at(-1) as Item).to });
  if (lefts.some((i) => i.type !== "node")) {
    const first = lefts[0].type === "node" ? "" : `[${rewrite.name(start)}] `;
    rewrite.line(`${first}${stretch(lefts)}${lefts.at(-1)?.type === "node" ? "" : ` [${u}]`}`);
  }
  if (rights.some((i) => i.type !== "node")) {
    const last = rights.at(-1)?.type === "node" ? "" : ` [${rewrite.name(end)}]`;
    rewrite.line(`${rights[0].type === "node" ? "" : `[${v}] `}${stretch(rights)}${last}`);
  }
  removeBranch(trail, rewrite, group, series);
  return rewrite.done();
}

function removeBranch(trail: Trail, rewrite: Rewrite, group: GroupNode, branch: SeriesNode) {
  const at = group.branches.indexOf(branch);
  const solid = trail.tokens.filter((t) => t.kind === "bar" && group.from < t.from && t.to < group.to);
  const bar = at === 0 ? solid.find((t) => t.from >= branch.to) : solid.findLast((t) => t.to <= branch.from);
  rewrite.remove({ from: branch.from, to: branch.to });
  if (bar) rewrite.remove(bar);
  const rest = group.branches.filter((b) => b !== branch);
  const isOneLine = !trail.text.slice(group.from, group.to).includes("\n");
  if (rest.length !== 1 || !isOneLine || markAt(rest[0], "start") || markAt(rest[0], "end")) return;
  rewrite.replace({ from: group.from, to: group.from + 1 }, "");
  rewrite.replace({ from: group.to - 1, to: group.to }, "");
}
