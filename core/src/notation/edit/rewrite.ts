import type { NodeName } from "../../circuit/index.ts";
import type { TextEdit } from "../mistake.ts";
import type { NodeMark, SeriesNode, Span } from "../trail/index.ts";
import { pinNode, readTrail, type Trail } from "../trail/index.ts";

/** A trail after an edit, with what was renamed on the way; or why the edit cannot be made. */
export type Edited =
  | {
      readonly kind: "edited";
      readonly text: string;
      readonly nodes: ReadonlyMap<string, string>;
      readonly parts: ReadonlyMap<string, string>;
    }
  | { readonly kind: "refused"; readonly why: string };

export function refused(why: string): Edited {
  return { kind: "refused", why };
}

/** Gathers small changes of a trail. Comments and line ends are never taken out. */
export class Rewrite {
  private readonly edits: TextEdit[] = [];
  readonly nodes = new Map<string, string>();
  readonly parts = new Map<string, string>();
  private readonly pinned = new Map<string, string>();

  constructor(readonly trail: Trail) {}

  insert(at: number, text: string) {
    this.edits.push({ from: at, to: at, insert: text });
  }

  replace({ from, to }: Span, text: string) {
    this.edits.push({ from, to, insert: text });
  }

  /** Takes out the words between two offsets, and the space that would be left over. */
  remove({ from, to }: Span) {
    const { tokens, text } = this.trail;
    const inside = tokens.filter((t) => from <= t.from && t.to <= to);
    let start: number | null = null;
    let end = from;
    const flush = () => {
      if (start === null) return;
      const spaceBefore = text[start - 1] === " ";
      const after = text[end];
      const spaceAfter = after === " " || after === undefined || after === "\n" || after === ")";
      this.edits.push({ from: spaceBefore && spaceAfter ? start - 1 : start, to: end, insert: "" });
      start = null;
    };
    for (const token of inside) {
      if (token.kind === "comment" || token.kind === "newline") flush();
      else {
        if (start === null && token.kind !== "space") start = token.from;
        if (token.kind !== "space") end = token.to;
      }
    }
    flush();
  }

  /** The name under which a node can be written; one that nobody named is named in the trail. */
  name(node: NodeName): string {
    const known = this.pinned.get(node);
    if (known) return known;
    const { name, edits } = pinNode(this.trail, node);
    this.edits.push(...edits);
    this.pinned.set(node, name);
    if (name !== node) this.nodes.set(node, name);
    return name;
  }

  /** Renames every mark of a node, further leads and the reference line too. */
  renameNode(from: string, to: string) {
    for (const token of this.trail.tokens) {
      if (token.kind === "name" && nameIn(token.text) === from) this.replace(token, `[${to}]`);
      const [, lead, node] = (token.kind === "word" && LEAD.exec(token.text)) || [];
      if (node === from) this.replace(token, `${lead}=[${to}]`);
    }
    for (const statement of this.trail.statements) {
      if (statement.type !== "reference" && statement.type !== "point") continue;
      const rest = this.trail.tokens.find((t) => t.kind === "rest" && t.from >= statement.from);
      const [named] = (statement.type === "point" ? /^(?:\[\s*\w+\s*\]|\w+)/.exec(statement.value) : null) ?? [
        statement.value,
      ];
      if (rest && nameIn(named) === from) this.replace({ from: rest.from, to: rest.from + named.length }, to);
    }
    this.nodes.set(from, to);
  }

  /** Writes a line of its own at the trail's end. */
  line(words: string) {
    const { text } = this.trail;
    this.insert(text.length, text === "" || text.endsWith("\n") ? `${words}\n` : `\n${words}`);
  }

  text(): string {
    // What is renamed in one place and taken out in another is gone.
    const removals = this.edits.filter((e) => e.insert === "");
    const isGone = (e: TextEdit) => e.to > e.from && removals.some((r) => r !== e && r.from <= e.from && e.to <= r.to);
    const sorted = this.edits
      .filter((e) => e.insert === "" || !isGone(e))
      .sort((a, b) => a.from - b.from || Number(a.to > a.from) - Number(b.to > b.from));
    let text = "";
    let at = 0;
    for (const { from, to, insert } of sorted) {
      text += this.trail.text.slice(at, Math.max(at, from)) + insert;
      at = Math.max(at, to);
    }
    return text + this.trail.text.slice(at);
  }

  /** The new trail, if it still reads; the reference stays at the node where it was. */
  done(): Edited {
    const { nodes, parts } = this;
    const text = this.text();
    const after = readTrail(text);
    const mistake = after.mistakes.find((m) => m.severity === "mistake");
    if (mistake || !after.circuit) return refused(mistake?.message ?? "nothing would be left of the circuit");
    const before = this.trail.circuit?.reference ?? "0";
    const wanted = nodes.get(before) ?? before;
    const exists = after.circuit.parts.some((p) => p.from === wanted || p.to === wanted);
    if (after.circuit.reference !== wanted && exists && !after.unnamed.has(wanted as NodeName)) {
      const line = after.statements.find((s) => s.type === "reference");
      if (!line) {
        const end = text.endsWith("\n") ? text : `${text}\n`;
        return { kind: "edited", text: `${end}reference ${wanted}\n`, nodes, parts };
      }
    }
    return { kind: "edited", text, nodes, parts };
  }
}

/** The node of a lead that is written behind its part: `wiper=[W]`. */
const LEAD = /^(wiper|plus|minus)=\[\s*(\w+)\s*\]$/i;

export function nameIn(mark: string): string {
  return mark.replace(/^\[\s*|\s*\]$/g, "");
}

/** A node name that is not in use. */
export function freeName(trail: Trail, like: string): string {
  const taken = new Set(
    trail.tokens.map((t) => (t.kind === "name" ? nameIn(t.text) : (LEAD.exec(t.text)?.[2] ?? t.text))),
  );
  let name = like;
  for (let i = 2; taken.has(name); i += 1) name = `${like}${i}`;
  return name;
}

/** The words of a stretch on one line, without comments. */
export function wordsOf(trail: Trail, { from, to }: Span): string {
  return trail.tokens
    .filter((t) => from <= t.from && t.to <= to && t.kind !== "comment")
    .map((t) => (t.kind === "newline" || t.kind === "space" ? " " : t.text))
    .join("")
    .replace(/ +/g, " ")
    .trim();
}

/** Comments between two offsets. */
export function commentsIn(trail: Trail, { from, to }: Span): string[] {
  return trail.tokens.filter((t) => t.kind === "comment" && from <= t.from && t.to <= to).map((t) => t.text);
}

/** The mark at a series' end, where there is one. */
export function markAt(series: SeriesNode, side: "start" | "end"): NodeMark | null {
  const item = side === "start" ? series.items[0] : series.items.at(-1);
  return item?.type === "node" ? item : null;
}
