import { KIND_NAMES, KINDS, type Kind, kindOfDesignator } from "../../circuit/index.ts";
import { Lines, type Mistake, type TextEdit } from "../mistake.ts";
import { readAttribute } from "./attributes.ts";
import { type Token, tokenize } from "./lexer.ts";
import type { GroupNode, Item, NodeMark, PartNode, SeriesNode, Span, Statement, WrittenPart } from "./tree.ts";

export interface ParsedTrail {
  readonly tokens: readonly Token[];
  readonly statements: readonly Statement[];
  readonly mistakes: readonly Mistake[];
}

/** What a trail may hold; beyond it the reader stops and says where. */
export const TRAIL_LIMITS = { characters: 100_000, lines: 20_000, parts: 3_000, depth: 100, mistakes: 500 } as const;

const LOOKS_LIKE_DESIGNATOR = /^[A-Za-z]+\d+[a-z]?$/;

/** Reads the words of a trail into its tree, going on after every mistake, in linear time. Never throws. */
export function parseTrail(text: string, lines = new Lines(text)): ParsedTrail {
  const tokens = tokenize(text);
  const long = tooLong(text, lines);
  const parser = new Parser(lines, significant(long ? tokens.filter((t) => t.to <= long.from) : tokens));
  const statements = parser.statements();
  return { tokens, statements, mistakes: long ? [...parser.mistakes, long] : parser.mistakes };
}

/** Where a text goes on beyond what is read; null where all of it is. */
function tooLong(text: string, lines: Lines): Mistake | null {
  const { characters, lines: most } = TRAIL_LIMITS;
  const tooMany = lines.startOf(most + 1);
  const from = Math.min(tooMany ?? Number.POSITIVE_INFINITY, text.length > characters ? characters : text.length + 1);
  if (from > text.length) return null;
  const what = from === tooMany ? `${most} lines` : `${characters} characters`;
  const message = `a trail has at most ${what}; from here on it is not read`;
  return { severity: "mistake", from, to: text.length, ...lines.at(from), message };
}

/**
 * Drops space, comments and those line ends over which a statement goes on: while a parenthesis is open (until the
 * next directive or loop), after `+` or `|`, and before `+`, `|` or `)`.
 */
function significant(tokens: readonly Token[]): Token[] {
  const kept: Token[] = [];
  let depth = 0;
  const solid = tokens.filter((t) => t.kind !== "space" && t.kind !== "comment");
  // The next token that is no line end, seen from every place.
  const nextSolid = new Int32Array(solid.length);
  for (let i = solid.length - 1, next = -1; i >= 0; i -= 1) {
    nextSolid[i] = next;
    if (solid[i].kind !== "newline") next = i;
  }
  solid.forEach((token, i) => {
    if (token.kind === "open") depth += 1;
    if (token.kind === "close") depth = Math.max(0, depth - 1);
    if (token.kind !== "newline") {
      kept.push(token);
      return;
    }
    const next = nextSolid[i] < 0 ? undefined : solid[nextSolid[i]];
    // Of blank lines the last decides.
    if (solid[i + 1]?.kind === "newline") return;
    const begins = next !== undefined && beginsStatement(solid, nextSolid[i]);
    const last = kept.at(-1)?.kind;
    const joins = next && (next.kind === "plus" || next.kind === "bar" || next.kind === "close");
    const goesOn = next !== undefined && !begins && (depth > 0 || last === "plus" || last === "bar" || joins);
    if (goesOn) return;
    depth = 0;
    kept.push(token);
  });
  return kept;
}

function beginsStatement(tokens: readonly Token[], at: number): boolean {
  const first = tokens[at];
  if (first.kind === "title" || first.kind === "note" || first.kind === "reference") return true;
  if (first.kind !== "word" || kindOfDesignator(first.text) === null) return false;
  for (let i = at + 1; i < tokens.length && tokens[i].kind !== "newline"; i += 1) {
    if (tokens[i].kind === "colon") return true;
    if (tokens[i].kind !== "word") return false;
  }
  return false;
}

/** A message that quotes what was written quotes no more than one can read. */
function cut(message: string): string {
  return message.length > 240 ? `${message.slice(0, 160)} … ${message.slice(-60)}` : message;
}

class Parser {
  readonly mistakes: Mistake[] = [];
  private at = 0;
  private depth = 0;
  private parts = 0;
  /** Beyond a limit: nothing is read any more. */
  private isOver = false;
  /** Mistakes found, those that are not listed among them. */
  private found = 0;

  constructor(
    private readonly lines: Lines,
    private readonly tokens: readonly Token[],
  ) {}

  statements(): Statement[] {
    const found: Statement[] = [];
    while (this.at < this.tokens.length && !this.isOver) {
      const token = this.tokens[this.at];
      if (token.kind === "newline") this.at += 1;
      else if (token.kind === "title" || token.kind === "note" || token.kind === "reference")
        found.push(this.directive(token));
      else found.push(this.path());
    }
    return found;
  }

  private directive(token: Token): Statement {
    const type = token.kind as "title" | "note" | "reference";
    this.at += 1;
    const rest = this.peek();
    const value = rest?.kind === "rest" ? rest.text : "";
    if (rest?.kind === "rest") this.at += 1;
    else this.complain(token, `“${type}” has nothing behind it`);
    return { type, value, from: token.from, to: rest?.kind === "rest" ? rest.to : token.to };
  }

  private path(): Statement {
    const start = this.at;
    const first = this.tokens[start];
    if (first.kind === "word" && beginsStatement(this.tokens, start)) {
      const supply = this.part(first);
      const colon = this.tokens[this.at];
      this.at += 1;
      if (supply.kind !== "supply") {
        this.complain(
          supply.designatorSpan,
          `a loop begins with a supply, and ${supply.designator} is a ${KINDS[supply.kind].word}`,
        );
      }
      const series = this.series(colon.to, false);
      return { type: "loop", supply, series, from: first.from, to: series.to };
    }
    const series = this.series(first.from, false);
    return { type: "run", series, from: series.from, to: series.to };
  }

  private series(from: number, inGroup: boolean): SeriesNode {
    const items: Item[] = [];
    for (let token = this.peek(); token && token.kind !== "newline" && !this.isOver; token = this.peek()) {
      if (inGroup && (token.kind === "bar" || token.kind === "close")) break;
      const item = this.item(token);
      if (!item) continue;
      const before = items.at(-1);
      if (item.type === "node" && before?.type === "node") {
        this.complain(
          item,
          `[${before.name}] and [${item.name}] stand side by side; is a wire or a part missing between them?`,
        );
      }
      items.push(item);
    }
    return { type: "series", items, from: items[0]?.from ?? from, to: items.at(-1)?.to ?? from };
  }

  private item(token: Token): Item | null {
    switch (token.kind) {
      case "name":
        this.at += 1;
        return this.nodeMark(token);
      case "open":
        return this.group(token);
      case "word":
        return LOOKS_LIKE_DESIGNATOR.test(token.text) ? this.part(token) : this.stray(token);
      case "plus":
        this.at += 1;
        return null;
      default:
        return this.stray(token);
    }
  }

  private stray(token: Token): null {
    this.at += 1;
    const remove: TextEdit[] = [{ from: token.from, to: token.to, insert: "" }];
    const fix = { label: `take out “${token.text}”`, edits: remove };
    if (token.kind === "close") this.complain(token, "this ) closes nothing", fix);
    else if (token.kind === "bar") this.complain(token, "a | stands between branches, inside ( )", fix);
    else if (token.kind === "colon")
      this.complain(token, "a colon belongs behind a supply, at the beginning of a line", fix);
    else this.complain(token, `“${token.text}” is neither a part, a [node] nor a value that belongs to one`, fix);
    return null;
  }

  private nodeMark(token: Token): NodeMark {
    const name = token.text.replace(/^\[\s*|\s*\]$/g, "");
    if (!token.text.endsWith("]")) {
      this.complain(token, "this [ is not closed", {
        label: "close it",
        edits: [{ from: token.to, to: token.to, insert: "]" }],
      });
    } else if (!/^[A-Za-z0-9_]+$/.test(name)) {
      const better = name.replace(/[^A-Za-z0-9_]+/g, "_").replace(/^_+|_+$/g, "");
      const fix = better === "" ? undefined : this.replace(token, `[${better}]`);
      this.complain(token, "a node's name is made of letters, digits and _", fix);
      return { type: "node", name: better || "_", from: token.from, to: token.to };
    }
    return { type: "node", name: name || "_", from: token.from, to: token.to };
  }

  private group(open: Token): GroupNode {
    if (this.depth === TRAIL_LIMITS.depth) return this.stop(open, `parentheses go at most ${this.depth} deep`);
    this.depth += 1;
    const group = this.groupWithin(open);
    this.depth -= 1;
    return group;
  }

  /** Beyond a limit: says so, and reads no further. */
  private stop(token: Token, why: string): GroupNode {
    this.complain(token, `${why}; from here on it is not read`);
    this.isOver = true;
    return { type: "group", branches: [], from: token.from, to: token.to };
  }

  private groupWithin(open: Token): GroupNode {
    this.at += 1;
    const branches: SeriesNode[] = [];
    for (;;) {
      const branch = this.series(this.tokens[this.at - 1].to, true);
      branches.push(branch);
      if (this.isOver) return { type: "group", branches, from: open.from, to: branch.to };
      const token = this.peek();
      if (!branch.items.some((item) => item.type !== "node")) this.emptyBranch(open, branch, token);
      if (token?.kind === "bar") {
        this.at += 1;
        continue;
      }
      if (token?.kind === "close") {
        this.at += 1;
        return { type: "group", branches, from: open.from, to: token.to };
      }
      const end = branch.to;
      let next = this.at;
      while (this.tokens[next]?.kind === "newline") next += 1;
      const after = this.tokens[next] ?? { from: end, to: end };
      this.complain(after, "the parenthesis opened at ".concat(this.place(open), " is not closed"), {
        label: "close it",
        edits: [{ from: end, to: end, insert: ")" }],
      });
      return { type: "group", branches, from: open.from, to: end };
    }
  }

  private emptyBranch(open: Token, branch: SeriesNode, next: Token | undefined) {
    const span = branch.items.length > 0 ? branch : { from: branch.from - 1, to: next?.to ?? branch.to };
    this.complain(span.from < open.from ? open : span, "this branch is empty; a plain connection is a wire, W1");
  }

  private part(token: Token): PartNode {
    const before = this.found;
    this.at += 1;
    this.parts += 1;
    if (this.parts === TRAIL_LIMITS.parts + 1) this.stop(token, `a circuit has at most ${TRAIL_LIMITS.parts} parts`);
    const designator = token.text;
    const words: Token[] = [];
    for (let next = this.peek(); next?.kind === "word" && !this.isNextPart(next); next = this.peek()) {
      words.push(next);
      this.at += 1;
    }
    const kind = this.kindOf(token, words);
    const written: WrittenPart = {};
    for (const word of words) {
      const complaint = readAttribute(word.text, designator, kind, written);
      if (complaint) {
        this.complain(word, complaint.message, complaint.instead ? this.replace(word, complaint.instead) : undefined);
      } else if (written.valueSpan === undefined && !/[=%]/.test(word.text)) {
        written.valueSpan = { from: word.from, to: word.to };
      }
    }
    this.checkValue(token, kind, written, words.length > 0 && this.found > before);
    return {
      type: "part",
      designator,
      designatorSpan: { from: token.from, to: token.to },
      kind,
      written,
      from: token.from,
      to: words.at(-1)?.to ?? token.to,
    };
  }

  /** A word of a designator's form begins the next part; others belong to the part before them. */
  private isNextPart(token: Token): boolean {
    return LOOKS_LIKE_DESIGNATOR.test(token.text);
  }

  private kindOf(token: Token, words: readonly Token[]): Kind {
    const override = words.map((w) => /^kind=(\w+)$/i.exec(w.text)?.[1]).find((k) => k !== undefined);
    if (override && (KIND_NAMES as readonly string[]).includes(override)) return override as Kind;
    const kind = kindOfDesignator(token.text);
    if (kind) return kind;
    const letters = token.text.replace(/\d.*$/, "");
    if (!override) {
      this.complain(token, `no kind of part goes by the letters ${letters}; add kind=resistor or the like`, {
        label: "call it a resistor",
        edits: [{ from: token.to, to: token.to, insert: " kind=resistor" }],
      });
    }
    return "resistor";
  }

  private checkValue(token: Token, kind: Kind, written: WrittenPart, isWrong: boolean) {
    const { needs } = KINDS[kind];
    if (kind === "lamp" || kind === "coil" || kind === "load") {
      if (written.volts != null && !written.resistance && written.powerRating) {
        written.resistance = { by: "rating", volts: written.volts, watts: written.powerRating };
      }
    }
    const missing =
      (needs === "volts" && written.volts === undefined) ||
      ((needs === "ohms" || needs === "ohmsOrRating") && written.resistance === undefined);
    // What is wrong about its words is said already.
    if (!missing || isWrong) return;
    const next = this.peek();
    const swallowed = next?.kind === "word" ? /^[Rr](\d+)$/.exec(next.text) : null;
    const behind = this.tokens[this.at + 1];
    const valueFollows = behind?.kind === "word" && !this.isNextPart(behind);
    if (swallowed && next && needs === "ohms" && !valueFollows) {
      const ohms = `0R${swallowed[1]}`;
      this.at += 1;
      this.complain(
        token,
        `${token.text} has no value; for 0.${swallowed[1]} Ω write ${ohms}`,
        this.replace(next, ohms),
      );
      return;
    }
    const example = { volts: "24V", ohms: "4k7", ohmsOrRating: "12V 5W, or ohms", nothing: "" }[needs];
    const partly = written.volts !== undefined || written.powerRating ? "; a rating is volts and watts together" : "";
    this.complain(token, `${token.text} has no value; write one behind it, such as ${example}${partly}`);
  }

  private peek(): Token | undefined {
    return this.tokens[this.at];
  }

  private place(span: Span): string {
    const { line, column } = this.lines.at(span.from);
    return `line ${line}, column ${column}`;
  }

  private replace(span: Span, insert: string): NonNullable<Mistake["fix"]> {
    return { label: `write ${insert}`, edits: [{ from: span.from, to: span.to, insert }] };
  }

  private complain(span: Span, message: string, fix?: Mistake["fix"]) {
    const { from, to } = span;
    this.found += 1;
    if (this.found > TRAIL_LIMITS.mistakes) return;
    const isLast = this.found === TRAIL_LIMITS.mistakes;
    this.mistakes.push({
      severity: "mistake",
      from,
      to,
      ...this.lines.at(from),
      message: isLast ? `${cut(message)}; what else is wrong from here on is not listed` : cut(message),
      ...(fix ? { fix } : {}),
    });
  }
}
