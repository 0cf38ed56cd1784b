import type { NodeName } from "../../circuit/index.ts";
import { readTrail, type Trail } from "../trail/index.ts";
import { elementsOf, locate, stretchOf } from "./locate.ts";
import { type Edited, freeName, markAt, Rewrite, refused } from "./rewrite.ts";

/**
 * What is wrong with the words of what is put in, or null: a part, or several in series and parallel, with designators
 * still free and no nodes of their own.
 */
export function troubleWith(trail: Trail, words: string): string | null {
  const { statements, mistakes, circuit, tokens, places } = readTrail(`[x1] ${words.trim()} [x2]`);
  const wrong = mistakes.find((m) => m.severity === "mistake");
  if (wrong) return wrong.message;
  const [only] = statements;
  const isStretch = statements.length === 1 && only.type === "run" && elementsOf(only.series).length > 0;
  const nodes = tokens.filter((t) => t.kind === "name").length - 2;
  if (!circuit || !isStretch || nodes > 0 || words.includes("\n"))
    return "write a part, its designator and its value, or several in series and parallel";
  const used = [...places.keys()].find((designator) => trail.places.has(designator));
  return used ? `${used} is used already` : null;
}

/**
 * Puts a new part, or a stretch of them, in series with a part, or with a stretch that several belong to (a whole fork,
 * where they stand in different branches of it), before or after it in the direction of the trail.
 * Whatever else hangs on the node between stays on the far side of what is new. Behind a loop's supply is its plus side,
 * before it its minus.
 */
export function insertInSeries(
  trail: Trail,
  beside: readonly string[],
  side: "before" | "after",
  words: string,
): Edited {
  const trouble = troubleWith(trail, words);
  if (trouble) return refused(trouble);
  const rewrite = new Rewrite(trail);
  const part = words.trim();
  if (beside.length > 1) {
    const stretch = stretchOf(trail, beside);
    if (!stretch) return refused(`${beside.join(" and ")} are not in one stretch of the trail`);
    const { items } = stretch.series;
    if (side === "before") rewrite.insert(items[stretch.index].from, `${part} + `);
    else rewrite.insert(items[stretch.last].to, ` + ${part}`);
    return rewrite.done();
  }
  const place = locate(trail, beside[0]);
  if (!place) return refused(`there is no ${beside[0]}`);
  if (place.kind === "supply") {
    const { series } = place.statement;
    const colon = trail.text.indexOf(":", place.part.to) + 1;
    // The minus terminal gets a name of its own: what hangs on the old one stays there.
    const minus = markAt(series, "end") ? "" : " [0]";
    if (side === "after") rewrite.insert(colon, ` ${part} +`);
    else rewrite.insert(series.to, `${minus} + ${part} + [${freeName(trail, "M")}]`);
  } else if (side === "before") rewrite.insert(place.part.from, `${part} + `);
  else rewrite.insert(place.part.to, ` + ${part}`);
  return rewrite.done();
}

/**
 * Puts a new part, or a stretch of them, in parallel with one part, or with a stretch of neighbours from the first of
 * them to the last.
 */
export function insertInParallel(trail: Trail, beside: readonly string[], words: string): Edited {
  const trouble = troubleWith(trail, words);
  if (trouble) return refused(trouble);
  const part = words.trim();
  const only = beside.length === 1 ? locate(trail, beside[0]) : null;
  if (only?.kind === "supply") {
    const supply = trail.circuit?.parts.find((p) => p.designator === beside[0]);
    return supply ? joinNodes(trail, supply.from, supply.to, words) : refused(`there is no ${beside[0]}`);
  }
  const stretch = stretchOf(trail, beside);
  if (!stretch) return refused(`${beside.join(" and ")} are not in one stretch of the trail`);
  const { series, index, last, group } = stretch;
  const rewrite = new Rewrite(trail);
  const elements = elementsOf(series);
  const whole = elements[0] === series.items[index] && elements.at(-1) === series.items[last];
  if (group && whole) rewrite.insert(series.to, ` | ${part}`);
  else {
    rewrite.insert(series.items[index].from, "(");
    rewrite.insert(series.items[last].to, ` | ${part})`);
  }
  return rewrite.done();
}

/** Joins two nodes with a new part, on a line of its own. */
export function joinNodes(trail: Trail, from: NodeName, to: NodeName, words: string): Edited {
  const trouble = troubleWith(trail, words);
  if (trouble) return refused(trouble);
  if (from === to) return refused("both ends would be the same node");
  const rewrite = new Rewrite(trail);
  rewrite.line(`[${rewrite.name(from)}] ${words.trim()} [${rewrite.name(to)}]`);
  return rewrite.done();
}
