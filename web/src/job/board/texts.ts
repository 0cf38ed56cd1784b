import type { BranchFacts, NodeFacts } from "./boardFacts.ts";
import { type BarLine, SIZES } from "./geometry.ts";

/** A line of text on the board, centred on x with its baseline at y. */
export interface BoardText {
  readonly text: string;
  readonly x: number;
  readonly y: number;
  readonly size: number;
  readonly bold: boolean;
  readonly tone: "ink" | "faint" | "copper" | "suspect" | "doubt";
}

/** Room that a part's row leaves beside the bars. */
const MARGIN = 10;
const GAP = 12;

const NARROW = /[ .,:;|!'ijl\u00a0]/;
const WIDE = /[MWmw%ΩΔ@—…]/;

/** Width of a text in the shipped font, measured generously: a test holds the browser's own measure against it. */
export function widthOf(text: string, size: number, bold: boolean): number {
  let em = 0;
  for (const char of text) em += NARROW.test(char) ? 0.34 : WIDE.test(char) ? 0.92 : 0.6;
  return em * size * (bold ? 1.04 : 1);
}

/** A text cut to a width, with an ellipsis. */
export function fitted(text: string, room: number, size: number, bold: boolean): string {
  if (widthOf(text, size, bold) <= room) return text;
  let cut = text;
  while (cut.length > 1 && widthOf(`${cut}…`, size, bold) > room) cut = cut.slice(0, -1);
  return `${cut.trimEnd()}…`;
}

/** Texts beside a part's symbol: what it is above, what the stage shows below. */
export function partTexts(at: { x: number; y: number; room: number }, facts: BranchFacts): BoardText[] {
  const { x, y } = at;
  const room = at.room - 2 * MARGIN;
  const label: BoardText = {
    text: fitted(facts.label, room, 17, true),
    x,
    y: y - 29,
    size: 17,
    bold: true,
    tone: "ink",
  };
  const isSuspect = facts.suspicion >= 0.01;
  const below: Pick<BoardText, "text" | "bold" | "tone">[] = [];
  if (isSuspect)
    below.push({ text: facts.suspicionText, bold: true, tone: facts.suspicion >= 0.5 ? "suspect" : "doubt" });
  if (facts.read) below.push({ text: facts.read, bold: true, tone: "copper" });
  else if (facts.expected && !isSuspect) below.push({ text: facts.expected, bold: false, tone: "faint" });
  const widths = below.map((b) => widthOf(b.text, 16, b.bold));
  const sum = widths.reduce((s, w) => s + w, 0) + GAP * (below.length - 1);
  // Two that do not fit beside each other stand one below the other.
  if (sum > room)
    return [
      label,
      ...below.map((b, i) => ({ ...b, text: fitted(b.text, room, 16, b.bold), x, y: y + 40 + 17 * i, size: 16 })),
    ];
  let left = x - sum / 2;
  const placed = below.map((b, i) => {
    const text = { ...b, x: left + widths[i] / 2, y: y + 40, size: 16 };
    left += widths[i] + GAP;
    return text;
  });
  return [label, ...placed];
}

/** A node's name in its badge, and what it should read and what was read above. */
export function nodeTexts({ x, badgeY }: BarLine, facts: NodeFacts): { name: BoardText; values: BoardText[] } {
  const room = SIZES.column - GAP;
  const shownName = facts.name.endsWith(".tap") ? "" : facts.name;
  const name: BoardText = {
    text: fitted(shownName, room - 34, 16, true),
    x,
    y: badgeY + 5.5,
    size: 16,
    bold: true,
    tone: "ink",
  };
  const values: BoardText[] = [];
  if (facts.expected)
    values.push({
      text: fitted(facts.expected, room, 15, false),
      x,
      y: badgeY - 21,
      size: 15,
      bold: false,
      tone: "faint",
    });
  if (facts.read)
    values.push({
      text: fitted(facts.read, room, 19, true),
      x,
      y: badgeY - (values.length > 0 ? 39 : 21),
      size: 19,
      bold: true,
      tone: "copper",
    });
  return { name, values };
}

/** Half the width of a node's badge. */
export function halfBadge(name: BoardText): number {
  return Math.max(15, widthOf(name.text, name.size, name.bold) / 2 + 8);
}
