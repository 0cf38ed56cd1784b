import type { Completion, CompletionContext, CompletionResult } from "@codemirror/autocomplete";
import {
  KINDS,
  type Kind,
  type KindRow,
  kindOfDesignator,
  MATERIAL_NAMES,
  MATERIALS,
  rowOf,
} from "@hound/core/circuit";
import { freeDesignators, type Trail } from "@hound/core/notation";
import { valuesOfSeries, writeQuantity } from "@hound/core/units";
import { readOnce } from "./readOnce.ts";

/** What may stand behind a part of a kind, besides its value. */
const ATTRIBUTES: readonly {
  readonly label: string;
  readonly detail: string;
  readonly fits?: (row: KindRow) => boolean;
}[] = [
  { label: "1%", detail: "tolerance" },
  { label: "5%", detail: "tolerance" },
  { label: "10%", detail: "tolerance" },
  { label: "0.25W", detail: "power rating", fits: ({ rating }) => rating === "power" },
  { label: "0.5W", detail: "power rating", fits: ({ rating }) => rating === "power" },
  { label: "1A", detail: "current rating", fits: ({ rating }) => rating === "current" },
  { label: "ri=", detail: "internal resistance", fits: ({ form }) => form === "source" },
  { label: "limit=", detail: "current limit, such as 2A", fits: ({ form }) => form === "source" },
  { label: "ac", detail: "alternating: RMS values", fits: ({ form }) => form === "source" },
  { label: "mains", detail: "from the mains: shock hazard", fits: ({ form }) => form === "source" },
  { label: "open", detail: "position now", fits: ({ form }) => form === "lever" },
  { label: "closed", detail: "position now", fits: ({ form }) => form === "lever" },
  { label: "at=", detail: "wiper's place, such as 40%", fits: ({ form }) => form === "track" },
  { label: "wiper=[", detail: "wiper's node", fits: ({ form }) => form === "track" },
  { label: "rev", detail: "the other way round", fits: ({ isPolar }) => isPolar === true },
  ...MATERIAL_NAMES.map((label) => ({
    label,
    detail: "what it is made of",
    fits: (row: KindRow) => row === rowOf(MATERIALS[label].of),
  })),
  { label: "hot=", detail: "ohms while it works", fits: ({ warms }) => warms === true },
  { label: "pulls=", detail: "share of its volts, such as 70%", fits: (row) => row === rowOf("coil") },
  { label: "drops=", detail: "share of its volts, such as 20%", fits: (row) => row === rowOf("coil") },
  { label: "?", detail: "value unknown", fits: ({ form }) => form === "resistance" || form === "source" },
  { label: 'note="', detail: "a note" },
];

/** What could be written at a place of a trail. */
export function optionsAt(text: string, position: number): { from: number; options: Completion[] } | null {
  const line = text.slice(text.lastIndexOf("\n", position - 1) + 1, position);
  if (/(^|\s)#/.test(line) || /^(title|note)\s/i.test(line)) return null;
  const trail = readOnce(text);
  const node = /\[\s*(\w*)$/.exec(line);
  if (node) {
    const options = nodeNames(trail).map((label) => ({ label, apply: `${label}]`, detail: "node", type: "variable" }));
    return { from: position - node[1].length, options };
  }
  const word = /[^\s()|:[\]+]*$/.exec(line)?.[0] ?? "";
  const from = position - word.length;
  const behind = partBehind(text, from);
  if (/^[\d.,]/.test(word)) return behind ? { from, options: valueOptions(word, behind) } : null;
  const attributes = behind
    ? ATTRIBUTES.filter((a) => !a.fits || a.fits(rowOf(behind))).map((a) => ({ ...a, type: "property" }))
    : [];
  const wanted = word.replace(/\d+$/, "").toUpperCase();
  const parts = freeDesignators(trail)
    .filter(({ kind }) => KINDS[kind].letters.some((l) => l.startsWith(wanted)))
    .map(({ designator, kind }) => ({
      label: designator,
      apply: `${designator} `,
      detail: KINDS[kind].word,
      type: "class",
    }));
  return { from, options: [...parts, ...attributes] };
}

/** Kind of the part that a word at this place would belong to. */
function partBehind(text: string, at: number): Kind | null {
  const stretch =
    text
      .slice(0, at)
      .split(/[()|:[\]\n]|\s\+\s/)
      .at(-1) ?? "";
  const designators = stretch.split(/\s+/).filter((w) => /\d[a-z]?$/.test(w) && kindOfDesignator(w));
  const last = designators.at(-1);
  return last ? kindOfDesignator(last) : null;
}

function nodeNames(trail: Trail): string[] {
  const names = trail.tokens.flatMap((t) => (t.kind === "name" ? [t.text.replace(/[[\]\s]/g, "")] : []));
  return [...new Set([...names, "0"])].filter((n) => n !== "");
}

/** Values of the E24 series that go on as typed, in the decade that the prefix says. */
function valueOptions(word: string, kind: Kind): Completion[] {
  const unit = kind === "supply" ? "V" : kind === "fuse" ? "A" : "";
  const match = /^(\d+)(?:[.,](\d*))?([a-zA-Zµ]?)(\d*)/.exec(word);
  if (!match || unit !== "") return unit ? [{ label: `${word.replace(/[a-z]+$/i, "")}${unit}`, type: "constant" }] : [];
  const letter = /^[kKMmRr]$/.test(match[3]) ? match[3].replace("K", "k").replace(/[Rr]/, "") : null;
  const typed = `${match[1]}${match[2] ?? ""}${match[4]}`;
  const scales =
    letter === null
      ? [10, 100, 1e3, 1e4, 1e5]
      : [1, 10, 100].map((s) => s * ({ k: 1e3, M: 1e6, m: 1e-3 }[letter] ?? 1));
  const digits = valuesOfSeries("E24").filter((v) => v.toFixed(1).replace(".", "").startsWith(typed.slice(0, 2)));
  const values = scales.flatMap((scale) => digits.map((v) => Number((v * scale).toPrecision(3))));
  const shape = (ohms: number) => writeQuantity(ohms).replace(/^(\d+)\.(\d+)([kM])$/, "$1$3$2");
  return [...new Set(values.map(shape))].map((label) => ({ label, detail: "E24", type: "constant" }));
}

export function completeTrail(context: CompletionContext): CompletionResult | null {
  const found = optionsAt(context.state.doc.toString(), context.pos);
  if (!found || (!context.explicit && found.from === context.pos)) return null;
  const isValue = /^[\d.,]/.test(context.state.sliceDoc(found.from, context.pos));
  // 4k → 4k7 and 4 → 47k go on as typed in other letters: the list is made for the word, not filtered by it.
  return { ...found, filter: !isValue };
}
