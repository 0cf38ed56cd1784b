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
const MARGIN = 5;
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

/** Figures are this high on the screen where they have the room: 16 minutes of arc from 70 cm. */
const FIGURE_PX = 18.5;

/** How much larger figures are written where the board is drawn small: as far as the room between bars goes. */
export function enlargement(scale: number): number {
  return Math.min(1.6, Math.max(1, FIGURE_PX / (16 * scale)));
}

/** Sizes between `k` times the usual one and the usual one, the largest first. */
function sizesFrom(usual: number, k: number): number[] {
  const steps = Math.ceil((k - 1) / 0.08);
  return Array.from({ length: steps + 1 }, (_, i) => usual * Math.max(1, k - 0.08 * i));
}

/** Texts beside a part's symbol: what it is above, what the stage shows below; `k` times their usual size. */
export function partTexts(at: { x: number; y: number; room: number }, facts: BranchFacts, k = 1): BoardText[] {
  const { x, y } = at;
  const room = at.room - 2 * MARGIN;
  const { imagined } = facts;
  const label: BoardText = {
    ...written(imagined?.mark ?? facts.label, room, 17, k, true),
    x,
    y: y - 31,
    tone: imagined?.mark ? "suspect" : "ink",
  };
  const isSuspect = facts.suspicion >= 0.01;
  const below: Pick<BoardText, "text" | "bold" | "tone">[] = [];
  if (isSuspect)
    below.push({ text: facts.suspicionText, bold: true, tone: facts.suspicion >= 0.5 ? "suspect" : "doubt" });
  if (imagined) {
    below.push({ text: imagined.text, bold: true, tone: "suspect" });
    if (facts.expected && facts.expected !== imagined.text)
      below.push({ text: facts.expected, bold: false, tone: "faint" });
  } else if (facts.read) below.push({ text: facts.read, bold: true, tone: "copper" });
  else if (facts.expected && !isSuspect) below.push({ text: facts.expected, bold: false, tone: "faint" });
  const first = y + 40 + 13 * (k - 1);
  // What matters is the larger one.
  const sizeFor = (b: { bold: boolean }, size: number) =>
    b.bold || below.length === 1 ? size : Math.max(16, 0.8 * size);
  const beside = (size: number) => below.map((b) => widthOf(b.text, sizeFor(b, size), b.bold));
  const sumOf = (widths: readonly number[]) => widths.reduce((s, w) => s + w, 0) + GAP * (widths.length - 1);
  const size = sizesFrom(16, k).find((s) => sumOf(beside(s)) <= room);
  // Two that do not fit beside each other stand one below the other.
  if (size === undefined)
    return [
      label,
      ...below.map((b, i) => ({
        ...b,
        ...written(b.text, room, 16, i === 0 ? Math.min(k, 1.2) : 1, b.bold),
        x,
        y: y + 42 + 17 * i,
      })),
    ];
  const widths = beside(size);
  let left = x - sumOf(widths) / 2;
  const placed = below.map((b, i) => {
    const text = { ...b, x: left + widths[i] / 2, y: first, size: sizeFor(b, size) };
    left += widths[i] + GAP;
    return text;
  });
  return [label, ...placed];
}

/** A node's name in its badge, and what it should read and what was read above; `k` times their usual size. */
export function nodeTexts(
  { x, badgeY, room }: BarLine,
  facts: NodeFacts,
  k = 1,
): { name: BoardText; values: BoardText[] } {
  const shownName = facts.name.endsWith(".tap") ? "" : facts.name;
  const badge: BoardText = {
    ...written(shownName, SIZES.column - 46, 16, Math.min(k, 1.5), true),
    x,
    y: badgeY,
    tone: "ink",
  };
  const name = { ...badge, y: badgeY + badge.size * 0.35 };
  const values: BoardText[] = [];
  if (facts.expected) {
    // Closer than in a table; where that is too long still, the figure by itself: its window stands in the chart.
    const close = facts.expected.replace(/ ±\s/, " ±");
    const isLong = widthOf(close, 16 * k, false) > room;
    const short = facts.expected.replace(/ ±\s\S+/, "");
    values.push({ ...written(isLong ? short : close, room, 16, k, false), x, y: badgeY - 26, tone: "faint" });
  }
  const strong = facts.imagined?.text ?? facts.read;
  if (strong)
    values.push({
      ...written(strong, room, 19, k, true),
      x,
      y: badgeY - (values.length > 0 ? 26 + 17 * k : 26),
      tone: facts.imagined ? "suspect" : "copper",
    });
  return { name, values };
}

/** A text as large as wanted where it has the room, else in its usual size, cut where that is too long. */
function written(text: string, room: number, size: number, k: number, bold: boolean) {
  const large = sizesFrom(size, k).find((s) => widthOf(text, s, bold) <= room);
  return large ? { text, size: large, bold } : { text: fitted(text, room, size, bold), size, bold };
}

/** Half the width of a node's badge. */
export function halfBadge(name: BoardText): number {
  return Math.max(SIZES.halfBadge, widthOf(name.text, name.size, name.bold) / 2 + 8);
}

/** A suspected bridge's words, beside the badge of its left node; null where names leave no room for them. */
export function bridgeText(
  text: string,
  [a, b]: readonly [BarLine, BarLine],
  names: readonly BoardText[],
): BoardText | null {
  const [left, halves] = [a.x <= b.x ? a : b, names.map(halfBadge)];
  // A lead or a mark of how far a reading is off stands beside a badge.
  const beside = 20;
  const from = left.x + (a.x <= b.x ? halves[0] : halves[1]) + beside;
  const to = left.x + left.column - Math.max(...halves) - beside;
  const size = 15;
  return to - from < widthOf(text, size, true)
    ? null
    : { text, x: (from + to) / 2, y: left.badgeY + 7, size, bold: true, tone: "suspect" };
}
