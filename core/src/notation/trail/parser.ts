import { aKind, KIND_NAMES, KINDS, type Kind, kindOfDesignator, rowOf } from "../../circuit/index.ts";
import { Lines, type Mistake } from "../mistake.ts";
import { Aliases } from "./aliases.ts";
import { readAttribute } from "./attributes.ts";
import { Complaints } from "./complaints.ts";
import { insertAt, takeOut, writeInstead } from "./fixes.ts";
import { type Token, tokenize } from "./lexer.ts";
import {
  FreeNames,
  guessKind,
  isNamedPart,
  isPartWord,
  mendDesignator,
  NO_SUCH_PART,
  remedyFor,
  remedyForStray,
  thousandsIn,
} from "./remedies.ts";
import {
  beginsStatement,
  isDirective,
  LOOKS_LIKE_DESIGNATOR,
  significant,
  TRAIL_LIMITS,
  tooLong,
} from "./statementLines.ts";
import type { GroupNode, Item, NodeMark, PartNode, SeriesNode, Span, Statement, WrittenPart } from "./tree.ts";

export interface ParsedTrail {
  readonly tokens: readonly Token[];
  readonly statements: readonly Statement[];
  readonly mistakes: readonly Mistake[];
  /** Other names of nodes, by which name they go: of two marks side by side the first. */
  readonly aliases: ReadonlyMap<string, string>;
  /** Parentheses that nobody closed: what was said of each, and where they could end, the likeliest last. */
  readonly unclosed: readonly { readonly mistake: Mistake; readonly places: readonly number[] }[];
}

/** Reads the words of a trail into its tree, going on after every mistake, in linear time. Never throws. */
export function parseTrail(text: string, lines = new Lines(text)): ParsedTrail {
  const tokens = tokenize(text);
  const long = tooLong(text, lines);
  const parser = new Parser(lines, significant(long ? tokens.filter((t) => t.to <= long.from) : tokens));
  const statements = parser.statements();
  const { unclosed, aliases } = parser;
  // Whichever of its names stands there, a node is the one.
  for (const mark of parser.marks) mark.name = aliases.nameOf(mark.name);
  const { mistakes } = parser.said;
  return { tokens, statements, mistakes: long ? [...mistakes, long] : mistakes, aliases: aliases.resolved(), unclosed };
}

/** Bars outside of parentheses that part one item after the other. */
interface StrayBars {
  readonly bar: Token;
  /** Place of the item before the first. */
  readonly from: number;
  /** Those that stand behind another with nothing between. */
  readonly twice: Token[];
}

class Parser {
  readonly said: Complaints;
  readonly unclosed: { mistake: Mistake; places: number[] }[] = [];
  readonly aliases = new Aliases();
  readonly marks: NodeMark[] = [];
  private readonly free: FreeNames;
  private at = 0;
  private depth = 0;
  private parts = 0;
  /** Beyond a limit: nothing is read any more. */
  private isOver = false;

  constructor(
    private readonly lines: Lines,
    private readonly tokens: Token[],
  ) {
    this.said = new Complaints(lines);
    this.free = new FreeNames(tokens);
  }

  statements(): Statement[] {
    const found: Statement[] = [];
    while (this.at < this.tokens.length && !this.isOver) {
      const token = this.tokens[this.at];
      if (token.kind === "newline") this.at += 1;
      else if (isDirective(token)) found.push(this.directive(token));
      else found.push(this.path());
    }
    return found;
  }

  private directive(token: Token): Statement {
    const type = token.kind as "title" | "note" | "reference" | "point";
    this.at += 1;
    const rest = this.peek();
    const value = rest?.kind === "rest" ? rest.text : "";
    if (rest?.kind === "rest") this.at += 1;
    else this.said.add(token, `“${type}” has nothing behind it`, takeOut(token));
    return { type, value, from: token.from, to: rest?.kind === "rest" ? rest.to : token.to };
  }

  private path(): Statement {
    const start = this.at;
    const first = this.tokens[start];
    if (first.kind === "word" && beginsStatement(this.tokens, start) && !this.isValueColon(start)) {
      const named = this.isPart(start) ? null : this.mendedDesignator(first);
      const supply = this.part(first, named ?? undefined);
      const colon = this.tokens[this.at];
      this.at += 1;
      if (supply.kind !== "supply") {
        this.said.add(
          supply.designatorSpan,
          `a loop begins with a supply, and ${supply.designator} is ${aKind(supply.kind)}`,
          { label: "take out the colon", edits: [{ from: colon.from, to: colon.to, insert: "" }] },
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
    /** A | outside of parentheses, until what stands behind it is known; and the items that such parted so far. */
    let bar: Token | null = null;
    let first: StrayBars | null = null;
    for (let token = this.peek(); token && token.kind !== "newline" && !this.isOver; token = this.peek()) {
      if (inGroup && (token.kind === "bar" || token.kind === "close")) break;
      if (token.kind === "bar") {
        first ??= { bar: token, from: Math.max(0, items.length - 1), twice: [] };
        if (bar) first.twice.push(token);
        bar = token;
        this.at += 1;
        continue;
      }
      const item = this.item(token);
      if (!item) continue;
      if (first && !bar) {
        this.strayBars(first, items.slice(first.from));
        first = null;
      }
      bar = null;
      const before = items.at(-1);
      if (item.type === "node" && before?.type === "node") this.twoNames(before, item);
      else items.push(item);
    }
    if (first) this.strayBars(first, items.slice(first.from));
    return { type: "series", items, from: items[0]?.from ?? from, to: items.at(-1)?.to ?? from };
  }

  /** Two marks side by side are one node with two names. */
  private twoNames(mark: NodeMark, other: NodeMark) {
    const wire = insertAt(other.from, `${this.free.part("W")} `, "put a wire between them");
    if (mark.name === other.name)
      this.said.add(other, `[${other.name}] stands twice; is a wire or a part missing between them?`, wire);
    else
      this.said.add(
        other,
        `[${mark.name}] and [${other.name}] side by side are one node, called ${other.name} as well; or is something missing between them?`,
        wire,
        "question",
      );
    this.aliases.join(mark.name, other.name);
    mark.to = other.to;
  }

  private item(token: Token): Item | null {
    switch (token.kind) {
      case "name":
        this.at += 1;
        return this.nodeMark(token);
      case "open":
        return this.group(token);
      case "word":
        return this.isPart(this.at) ? this.part(token) : this.almostPart(token);
      case "plus":
        this.at += 1;
        return null;
      default:
        return this.stray(token);
    }
  }

  /** True of a designator, or of any one word that has one's form where a part is due: with a value, or called by its kind. */
  private isPart(at: number): boolean {
    const [token, next] = [this.tokens[at], this.tokens[at + 1]];
    return LOOKS_LIKE_DESIGNATOR.test(token.text) || isPartWord(token, next);
  }

  /** A colon between a part that begins no loop and its value: `R1: 10k`. */
  private isValueColon(at: number): boolean {
    const [part, colon, value] = [this.tokens[at], this.tokens[at + 1], this.tokens[at + 2]];
    const kind = kindOfDesignator(part.text);
    return colon?.kind === "colon" && value?.kind === "word" && kind !== null && kind !== "supply";
  }

  /** A designator with a slip in it is read on as the part it was meant to be. */
  private almostPart(token: Token): PartNode | null {
    const named = this.mendedDesignator(token);
    return named === null ? this.stray(token) : this.part(token, named);
  }

  /** Complains of a designator with a slip in it. @returns the one that was meant, null where the word is none */
  private mendedDesignator(token: Token): string | null {
    const mended = mendDesignator(token, this.tokens[this.at + 1], this.free);
    if (mended === null) return null;
    const { designator, says, fix, takes } = mended;
    this.said.add({ from: token.from, to: takes.to }, `“${this.textOf(token, takes)}” is no designator${says}`, fix);
    // A number that stands apart belongs to it.
    if (takes !== token) this.tokens.splice(this.at + 1, 1);
    return designator;
  }

  private textOf(first: Token, last: Token): string {
    return first === last ? first.text : `${first.text} ${last.text}`;
  }

  private stray(token: Token): null {
    this.at += 1;
    const fix = takeOut(token);
    if (token.kind === "close") this.said.add(token, "this ) closes nothing", fix);
    else if (token.kind === "colon")
      this.said.add(token, "a colon belongs behind a supply, at the beginning of a line", fix);
    else {
      const { says, fix: better } = remedyForStray(token, this.tokens[this.at]);
      this.said.add(
        token,
        `“${token.text}” is neither a part, a [node] nor a value that belongs to one${says}`,
        better,
      );
    }
    return null;
  }

  /** Items parted by | outside of parentheses: they go round all of them. */
  private strayBars({ bar, twice }: StrayBars, among: readonly Item[]) {
    const [first, last] = [among[0], among[among.length - 1]];
    const isBranches = among.length > 1 && among.every((item) => item.type !== "node") && first.to <= bar.from;
    const fix = isBranches
      ? {
          label: among.length > 2 ? `put ( ) round the ${among.length}` : "put ( ) round the two",
          edits: [
            { from: first.from, to: first.from, insert: "(" },
            ...twice.map(({ from, to }) => ({ from, to, insert: "" })),
            { from: last.to, to: last.to, insert: ")" },
          ],
        }
      : takeOut(bar);
    this.said.add(bar, "a | stands between branches, inside ( )", fix);
  }

  private nodeMark(token: Token): NodeMark {
    const mark: NodeMark = { type: "node", name: this.nameIn(token), from: token.from, to: token.to };
    this.marks.push(mark);
    return mark;
  }

  /** The name in brackets, as well as it can be read. */
  private nameIn(token: Token): string {
    const name = token.text.replace(/^\[\s*|\s*\]$/g, "");
    if (!token.text.endsWith("]")) {
      this.said.add(token, "this [ is not closed", {
        label: "close it",
        edits: [{ from: token.to, to: token.to, insert: "]" }],
      });
    } else if (!/^[A-Za-z0-9_]+$/.test(name)) {
      const better = name.replace(/[^A-Za-z0-9_]+/g, "_").replace(/^_+|_+$/g, "");
      const fix = better === "" ? takeOut(token) : writeInstead(token, `[${better}]`);
      this.said.add(token, "a node's name is made of letters, digits and _", fix);
      return better || "_";
    }
    return name || "_";
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
    this.said.add(token, `${why}; from here on it is not read`);
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
      const mistake = this.said.add(
        after,
        "the parenthesis opened at ".concat(this.place(open), " is not closed"),
        insertAt(end, ")", "close it"),
      );
      if (mistake) this.unclosed.push({ mistake, places: branch.items.map((item) => item.to) });
      return { type: "group", branches, from: open.from, to: end };
    }
  }

  private emptyBranch(open: Token, branch: SeriesNode, next: Token | undefined) {
    const span = branch.items.length > 0 ? branch : { from: branch.from - 1, to: next?.to ?? branch.to };
    const at = next?.kind === "bar" || next?.kind === "close" ? next.from : span.to;
    const wire = insertAt(at, ` ${this.free.part("W")} `, "put a wire there");
    this.said.add(span.from < open.from ? open : span, "this branch is empty; a plain connection is a wire, W1", wire);
  }

  private part(token: Token, designator = token.text): PartNode {
    const before = this.said.found;
    if (this.isValueColon(this.at)) {
      const [colon] = this.tokens.splice(this.at + 1, 1);
      this.said.add(colon, `a value stands behind ${designator} with a space`, takeOut(colon));
    }
    this.at += 1;
    this.parts += 1;
    if (this.parts === TRAIL_LIMITS.parts + 1) this.stop(token, `a circuit has at most ${TRAIL_LIMITS.parts} parts`);
    const words: Token[] = [];
    for (let next = this.peek(); next?.kind === "word" && !this.isNextPart(this.at); next = this.peek()) {
      words.push(next);
      this.at += 1;
    }
    const kind = this.kindOf(token, designator, words);
    const written: WrittenPart = {};
    for (const word of words) {
      const complaint = readAttribute(word.text, designator, kind, written);
      if (complaint) {
        const fix = complaint.instead ? writeInstead(word, complaint.instead) : remedyFor(word, designator, kind);
        this.said.add(word, complaint.message, fix);
        continue;
      }
      const thousands = thousandsIn(word.text);
      if (thousands !== null && written.resistance)
        this.said.add(
          word,
          `${designator}: ${word.text} is read with decimals; or is it ${thousands}?`,
          writeInstead(word, thousands),
          "question",
        );
      if (written.valueSpan === undefined && !/[=%]/.test(word.text)) {
        written.valueSpan = { from: word.from, to: word.to };
      }
    }
    this.checkValue(token, designator, kind, written, this.said.found > before);
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

  /** A word of a designator's form begins the next part, and one whose kind is told; others belong to the part before them. */
  private isNextPart(at: number): boolean {
    const [token, next] = [this.tokens[at], this.tokens[at + 1]];
    if (LOOKS_LIKE_DESIGNATOR.test(token.text) || isNamedPart(token, next)) return true;
    return /^kind=/i.test(next?.text ?? "") && isPartWord(token, next);
  }

  private kindOf(token: Token, designator: string, words: readonly Token[]): Kind {
    const override = words.map((w) => /^kind=(\w+)$/i.exec(w.text)?.[1]).find((k) => k !== undefined);
    if (override && (KIND_NAMES as readonly string[]).includes(override)) return override as Kind;
    const kind = kindOfDesignator(designator);
    if (kind) return kind;
    if (override) return "resistor";
    const letters = designator.replace(/[-_]?\d.*$/, "");
    const never = NO_SUCH_PART[letters.toUpperCase()];
    if (never) {
      const { from } = token;
      const to = words.at(-1)?.to ?? token.to;
      this.said.add(token, `${token.text}: ${never}`, {
        label: `take ${token.text} out`,
        edits: [{ from, to, insert: "" }],
      });
      return "resistor";
    }
    const guess = guessKind(letters, words);
    const { word } = KINDS[guess];
    // Of a designator with a slip in it one thing is asked at a time.
    if (designator !== token.text) return guess;
    this.said.add(
      token,
      `no kind of part goes by ${letters === designator ? "the word" : "the letters"} ${letters}: taken for a ${word} here; is it one? kind=… says what else`,
      { label: `yes, a ${word}`, edits: [{ from: token.to, to: token.to, insert: ` kind=${guess}` }] },
      "question",
    );
    return guess;
  }

  private checkValue(token: Token, designator: string, kind: Kind, written: WrittenPart, isWrong: boolean) {
    const { needs, byRating } = rowOf(kind);
    if (byRating !== undefined) {
      // Volts and amperes of a lamp or a heater are its rating as well.
      if (written.volts != null && !written.resistance && !written.powerRating && written.currentRating) {
        written.powerRating = Number((written.volts * written.currentRating).toPrecision(12));
        delete written.currentRating;
      }
      // A relay by its volts and the ohms of its winding is rated too.
      if (
        byRating === "resistance" &&
        written.volts != null &&
        written.resistance?.by === "ohms" &&
        !written.powerRating
      )
        written.resistance = {
          by: "rating",
          volts: written.volts,
          watts: written.volts ** 2 / written.resistance.ohms,
        };
      if (written.volts != null && !written.resistance && written.powerRating) {
        written.resistance = { by: "rating", volts: written.volts, watts: written.powerRating };
      }
    }
    const missing =
      (needs === "volts" && written.volts === undefined) ||
      ((needs === "ohms" || needs === "ohmsOrRating") && written.resistance === undefined);
    if (needs === "leads" && !isWrong) return this.checkLeads(token, designator, written);
    // What is wrong about its words is said already.
    if (!missing || isWrong) return;
    const next = this.peek();
    const swallowed = next?.kind === "word" ? /^[Rr](\d+)$/.exec(next.text) : null;
    const behind = this.tokens[this.at + 1];
    const valueFollows = behind?.kind === "word" && !this.isNextPart(this.at + 1);
    if (swallowed && next && needs === "ohms" && !valueFollows) {
      const ohms = `0R${swallowed[1]}`;
      this.at += 1;
      this.said.add(
        token,
        `${designator} has no value; for 0.${swallowed[1]} Ω write ${ohms}`,
        writeInstead(next, ohms),
      );
      return;
    }
    const example = { volts: "24V", ohms: "4k7", ohmsOrRating: "12V 5W, 6V 0.3A, or ohms", nothing: "" }[needs];
    const partly =
      written.volts !== undefined || written.powerRating ? "; a rating is volts with watts or amperes" : "";
    const unknown =
      kind === "potentiometer"
        ? insertAt(token.to, " 10k", "write 10k for now")
        : insertAt(token.to, " ?", "leave it unknown for now");
    this.said.add(token, `${designator} has no value; write one behind it, such as ${example}${partly}`, unknown);
  }

  private checkLeads(token: Token, designator: string, written: WrittenPart) {
    const missing = (["plus", "minus"] as const).filter((lead) => written[lead] === undefined);
    if (missing.length === 0) return;
    const isTaken = (name: string) => this.tokens.some((t) => t.text.includes(`[${name}]`));
    const free = (like: string) => (isTaken(like) ? `${like}_${designator}` : like);
    const words = missing.map((lead) => `${lead}=[${free(lead === "plus" ? "P" : "M")}]`).join(" ");
    const why = `${designator} has no ${missing.join(" and ")}; it is walked from one ~ lead to the other, with ${words} behind it`;
    this.said.add(token, why, insertAt(token.to, ` ${words}`, `write ${words}`));
  }

  private peek(): Token | undefined {
    return this.tokens[this.at];
  }

  private place(span: Span): string {
    const { line, column } = this.lines.at(span.from);
    return `line ${line}, column ${column}`;
  }
}
