import { DESIGNATOR_FORM, furtherLeads, kindOfDesignator, type NodeName } from "../../circuit/index.ts";
import { readTrail, type Trail } from "../trail/index.ts";
import { insertInSeries, joinNodes } from "./insert.ts";
import { elementsOf, locate } from "./locate.ts";
import { removePart } from "./remove.ts";
import { type Edited, Rewrite, refused, wordsOf } from "./rewrite.ts";

/** What one word behind a designator says. */
export type WordRole =
  | "value"
  | "tolerance"
  | "power"
  | "current"
  | "internalResistance"
  | "limit"
  | "position"
  | "safety"
  | "at"
  | "lead"
  | "kind"
  | "note";

/** The role of a word of a part, by its form. */
export function roleOf(word: string, isRated: boolean): WordRole {
  const key = /^([a-z]+)=/i.exec(word)?.[1].toLowerCase();
  if (key)
    return ({
      ri: "internalResistance",
      limit: "limit",
      at: "at",
      wiper: "lead",
      plus: "lead",
      minus: "lead",
      kind: "kind",
      hot: "value",
      pulls: "value",
      drops: "value",
    }[key] ?? "note") as WordRole;
  if (/%$/.test(word)) return "tolerance";
  if (/^(open|closed)$/i.test(word)) return "position";
  if (/^(ac|mains)$/i.test(word)) return "safety";
  if (/W$/.test(word)) return isRated ? "value" : "power";
  if (/A$/.test(word)) return "current";
  return "value";
}

/** The words behind a part's designator, each with its role and where it stands. */
export function wordsOfPart(trail: Trail, designator: string) {
  const node = trail.places.get(designator);
  if (!node) return [];
  const isRated = node.written.resistance?.by === "rating";
  return trail.tokens
    .filter((t) => t.kind === "word" && t.from >= node.designatorSpan.to && t.to <= node.to)
    .map(({ from, to, text }) => ({ from, to, text, role: roleOf(text, isRated) }));
}

/** Writes, replaces or (with "") takes out one thing a part says of itself; nothing else in the trail changes. */
export function setWord(trail: Trail, designator: string, role: WordRole, word: string): Edited {
  const node = trail.places.get(designator);
  if (!node) return refused(`there is no ${designator}`);
  const rewrite = new Rewrite(trail);
  const mine = wordsOfPart(trail, designator).filter((w) => w.role === role);
  const text = word.trim();
  if (text.includes("\n")) return refused("a value stands on one line");
  if (mine.length === 0) {
    if (text !== "") rewrite.insert(role === "value" ? node.designatorSpan.to : node.to, ` ${text}`);
  } else if (text === "") for (const one of mine) rewrite.remove(one);
  else rewrite.replace({ from: mine[0].from, to: mine[mine.length - 1].to }, text);
  const edited = rewrite.done();
  if (edited.kind === "refused") return edited;
  const after = readTrail(edited.text);
  return after.places.size === trail.places.size && after.places.has(designator)
    ? edited
    : refused(`“${text}” is not a value`);
}

/** Gives a part another designator of the same kind. */
export function renamePart(trail: Trail, designator: string, to: string): Edited {
  const node = trail.places.get(designator);
  if (!node) return refused(`there is no ${designator}`);
  if (!DESIGNATOR_FORM.test(to))
    return refused("a designator is one word of letters, digits, _ and -, such as R7 or LEFT_LAMP");
  if (trail.places.has(to)) return refused(`${to} is used already`);
  const spelled = wordsOfPart(trail, designator).some((w) => w.role === "kind");
  if (!spelled && kindOfDesignator(to) !== node.kind) return refused(`${to} would be another kind of part`);
  const rewrite = new Rewrite(trail);
  rewrite.replace(node.designatorSpan, to);
  rewrite.parts.set(designator, to);
  return rewrite.done();
}

/** Names a node, or gives it another name. */
export function nameNode(trail: Trail, node: NodeName, to: string): Edited {
  if (!/^\w+$/.test(to)) return refused("a node's name is made of letters, digits and _");
  if (to === node) return refused(`it is called ${to} already`);
  const taken = trail.circuit?.parts.some(
    (p) => p.from === to || p.to === to || furtherLeads(p).some(({ node }) => node === to),
  );
  if (taken && !trail.unnamed.has(to as NodeName))
    return refused(`[${to}] is another node; to join the two, put a wire between them`);
  if (trail.places.has(to)) return refused(`${to} is the name of a part`);
  const rewrite = new Rewrite(trail);
  const offset = trail.unnamed.get(node);
  if (offset !== undefined) {
    rewrite.insert(offset, ` [${to}]`);
    rewrite.nodes.set(node, to);
    return rewrite.done();
  }
  rewrite.renameNode(node, to);
  // A loop's minus that nobody wrote down goes by the name 0.
  if (node === "0") {
    for (const statement of trail.statements) {
      if (
        statement.type !== "loop" ||
        (statement.series.items.length > 1 && statement.series.items.at(-1)?.type === "node")
      )
        continue;
      rewrite.insert(statement.series.to, ` [${to}]`);
    }
  }
  return rewrite.done();
}

/** Puts a part between two other nodes; of a supply `from` is the plus. */
export function setEnds(trail: Trail, designator: string, from: string, to: string): Edited {
  const node = trail.places.get(designator);
  if (!node) return refused(`there is no ${designator}`);
  for (const name of [from, to])
    if (!/^\w+$/.test(name) && !trail.unnamed.has(name as NodeName))
      return refused("a node's name is made of letters, digits and _");
  const words = wordsOf(trail, node);
  const out = removePart(trail, designator, "open");
  if (out.kind === "refused") return out;
  const rest = readTrail(out.text);
  const now = (name: string) => (out.nodes.get(name) ?? name) as NodeName;
  const isAgainst = node.kind === "supply" || node.written.isTurned === true;
  const [first, last] = isAgainst ? [now(to), now(from)] : [now(from), now(to)];
  const put = joinNodes(rest, first, last, words);
  return put.kind === "refused" ? put : { ...put, nodes: new Map([...out.nodes, ...put.nodes]) };
}

/** Two parts change places, with their values. */
export function swapParts(trail: Trail, one: string, other: string): Edited {
  const [a, b] = [locate(trail, one), locate(trail, other)];
  if (!a || !b) return refused(`there is no ${a ? other : one}`);
  if (one === other) return refused("a part cannot change places with itself");
  if (a.kind !== b.kind && (a.part.kind !== "supply" || b.part.kind !== "supply"))
    return refused("a loop begins with its supply: it changes places with another supply only");
  const rewrite = new Rewrite(trail);
  rewrite.replace(a.part, wordsOf(trail, b.part));
  rewrite.replace(b.part, wordsOf(trail, a.part));
  return rewrite.done();
}

/** Takes a part from where it is, closing the gap (or giving up its branch), and puts it in series with another. */
export function movePart(trail: Trail, designator: string, beside: string, side: "before" | "after"): Edited {
  const place = locate(trail, designator);
  if (!place || place.kind === "supply")
    return refused(place ? "a loop's supply stays where its loop begins" : `there is no ${designator}`);
  if (designator === beside) return refused("a part cannot be moved beside itself");
  const words = wordsOf(trail, place.part);
  const { series, group } = place.path[place.path.length - 1];
  const isAlone = elementsOf(series).length === 1;
  const out = removePart(trail, designator, isAlone && group ? "open" : "close");
  if (out.kind === "refused") return out;
  const put = insertInSeries(readTrail(out.text), [beside], side, words);
  return put.kind === "refused" ? put : { ...put, nodes: new Map([...out.nodes, ...put.nodes]) };
}
