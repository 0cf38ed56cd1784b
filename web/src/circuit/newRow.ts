import { type Edited, joinNodes, readParts, readTrail, type Trail, writePart } from "@hound/core/notation";
import { EDITABLE, type Editable } from "./partRows.ts";

/** What is typed into the empty row of the parts table. */
export type NewRow = Readonly<Record<Editable, string>>;

export const EMPTY_ROW: NewRow = { designator: "", from: "", to: "", value: "", tolerance: "", rating: "", note: "" };

/** True once a row says enough to be a part: its name and both nodes. */
export function isWhole(row: NewRow): boolean {
  return [row.designator, row.from, row.to].every((text) => text.trim() !== "");
}

/** The trail with one part more, read as a row of a parts table would be. */
export function addRow(trail: Trail, row: NewRow): Edited & { readonly asks?: readonly string[] } {
  const cells = EDITABLE.map((column) => row[column].replace(/[\t\n"]/g, " ").trim());
  const head = ["Part", "From", "To", "Value", "Tol", "Rating", "Note"];
  const { circuit, mistakes } = readParts(`${head.join("\t")}\n${cells.join("\t")}`);
  const [part] = circuit?.parts ?? [];
  if (!part) {
    const wrong = mistakes.find((m) => m.severity === "mistake");
    return { kind: "refused", why: wrong?.message ?? "this is no part" };
  }
  if (trail.places.has(part.designator)) return { kind: "refused", why: `${part.designator} is used already` };
  // A supply in a line is walked from minus to plus; the nodes that have no name yet may be meant by theirs.
  const named = (given: string, read: string) =>
    trail.unnamed.has(given as typeof part.from) ? given : writable(read);
  const [from, to] = [named(row.from.trim(), part.from), named(row.to.trim(), part.to)] as (typeof part.from)[];
  const [first, last] = part.kind === "supply" ? [to, from] : [from, to];
  const asks = mistakes.map((m) => m.message);
  if (trail.circuit) return { ...joinNodes(trail, first, last, writePart(part)), asks };
  const text = `${trail.text}${trail.text === "" || trail.text.endsWith("\n") ? "" : "\n"}[${first}] ${writePart(part)} [${last}]\n`;
  const wrong = readTrail(text).mistakes.find((m) => m.severity === "mistake");
  return wrong
    ? { kind: "refused", why: wrong.message }
    : { kind: "edited", text, nodes: new Map(), parts: new Map(), asks };
}

/** “+” is no name one can write. */
function writable(node: string): string {
  return node.startsWith("+") ? `P${node.slice(1)}` : node;
}
