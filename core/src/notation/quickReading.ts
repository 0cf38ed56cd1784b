import { type Circuit, type NodeName, nodesOf, type Part } from "../circuit/index.ts";
import { clipped, type Reading, SEEN, type Seen } from "../record/index.ts";
import { foldCharacters, parseQuantity, printQuantity } from "../units/index.ts";
import { readAsked } from "./quickAsk.ts";
import { bareReading, type Proposal } from "./quickBare.ts";
import { isChangeWord, readChange } from "./quickChange.ts";
import { isDiodeWord, readDiodeTest } from "./quickDiode.ts";
import { seenIn, seenOf, troubleWithLook, whatOneSees } from "./quickLook.ts";
import { isNear, partTarget, type Target, targetOf, whichOf } from "./quickTarget.ts";
import { type BenchNow, goesOn, type QuickReading, SPAN, ValueReader, type Word, wrong } from "./quickValue.ts";

export type { Proposal } from "./quickBare.ts";

/**
 * Understands one line typed with both probes in hand: `B 7.42`, `B-D 3.1`, `R3 12mA`, `R3 lifted 470R`, `B-D OL`.
 * Names match exactly, then regardless of case. Never throws.
 */
export function readQuick(line: string, circuit: Circuit, proposal?: Proposal, now: BenchNow = {}): QuickReading {
  // What stands behind a # is a note on the reading: `B 7.42 # S2 off`.
  const [, value, note] = /^(.*?)(?:(?:^|\s)#\s*(.*))?$/s.exec(line) as RegExpExecArray;
  const plain = foldCharacters(value);
  const words = [...plain.matchAll(/\S+/g)].map((m): Word => ({ text: m[0], column: m.index + 1 }));
  if (words.length === 0) return { kind: "empty" };
  const read = askedOfWhole(new Reader(circuit, plain, now).read(words, proposal), circuit, words[0]);
  if (!note?.trim()) return read;
  const noted = { note: clipped(note.trim(), NOTE_LIMIT) };
  if (read.kind === "reading") return { ...read, reading: { ...read.reading, ...noted } };
  return read.kind === "change" && read.after ? { ...read, after: { ...read.after, ...noted } } : read;
}

/** What only one diode of several has is asked of one of them. */
function askedOfWhole(read: QuickReading, circuit: Circuit, word: Word): QuickReading {
  const which = whichOf(circuit, askedName(read));
  return which === null ? read : wrong(word, which);
}

function askedName(read: QuickReading): string | undefined {
  if (read.kind === "change")
    return "part" in read.change && ALONE.has(read.change.change) ? read.change.part : undefined;
  const said = read.kind === "reading" ? read.reading : read.kind === "asked" ? read.proposal : null;
  if (said === null) return undefined;
  if (said.quantity === "current") return said.through;
  return said.quantity !== "observation" && said.quantity !== "look" && "lifted" in said ? said.lifted : undefined;
}
const ALONE: ReadonlySet<string> = new Set(["now", "metered"]);

const NOTE_LIMIT = 2000;
/** Ways to say it that are offered where a word is not known. */
const MOST_NEAR = 4;
/** Kinds that show by themselves whether they get what they need. */
const SHOWING: ReadonlySet<Part["kind"]> = new Set(["lamp", "coil", "load"]);

const textOf = (words: readonly Word[]) => words.map((w) => w.text).join(" ");
/** True of parts that are moved by hand: `open` and `off` are what is done to them. */
const isMoved = ({ kind }: Part) => kind === "switch" || kind === "supply";

class Reader {
  private readonly nodes: NodeName[];
  private readonly values: ValueReader;

  constructor(
    private readonly circuit: Circuit,
    private readonly line: string,
    private readonly now: BenchNow,
  ) {
    this.values = new ValueReader(circuit, line, now);
    this.nodes = nodesOf(circuit);
    if (!this.nodes.includes(circuit.reference)) this.nodes.push(circuit.reference);
  }

  read(given: Word[], proposal?: Proposal): QuickReading {
    if (isBare(given) && !this.isPointFirst(given)) {
      const bare = { text: given.map((w) => w.text).join(" "), column: given[0].column };
      return bareReading(bare, proposal, this.circuit, this.nodes, this.values);
    }
    const asked = readAsked(given, this.circuit, this.nodes, this.now);
    if (asked) return asked;
    const words = joinPoints(given, this.circuit, this.nodes);
    const [first, ...rest] = words;
    const said = first.text.toLowerCase();
    const target = targetOf(this.circuit, this.nodes, first.text);
    const bare = proposal?.quantity === "look" && target === null ? this.bareLook(given, proposal) : null;
    if (bare) return bare;
    if (target === null && said === "leads") return this.leads(words);
    if (target === null) return this.unknown(first);
    if (rest.length === 0) return wrong(first, `what did ${first.text} read? write the value behind it`);
    return this.at(target, rest);
  }

  /** A point may be called what also begins a value, `+` or `5`: with a whole value behind it, it is the point. */
  private isPointFirst([first, ...rest]: readonly Word[]): boolean {
    if (rest.length === 0 || !this.nodes.some((n) => n === first.text)) return false;
    return isBare(rest);
  }

  /** What is said of a point or a part. */
  private at(target: Target, rest: readonly Word[]): QuickReading {
    const [second] = rest;
    const said = second.text.toLowerCase().replace(/,$/, "");
    const other = rest.length === 1 && target.kind === "nodes" ? targetOf(this.circuit, this.nodes, second.text) : null;
    if (target.kind === "nodes" && other?.kind === "nodes" && parseQuantity(second.text).kind === "mistake")
      return wrong(second, `what was read from ${target.from} to ${other.from}? write the value behind it`);
    if (isDiodeWord(said)) return this.diode(target, rest, false);
    if (target.kind === "part") {
      const { part } = target;
      const look = this.lookAt(part, rest);
      if (look) return look;
      if (said === "lifted" && isDiodeWord(rest[1]?.text.toLowerCase() ?? ""))
        return this.diode(target, rest.slice(1), true);
      if (said === "lifted" && rest.length > 1) return this.values.measured(target, rest.slice(1), "lifted");
      if (said === "unloaded" && rest.length > 1) return this.unloaded(part, rest.slice(1));
    }
    // `S1 switched open` is what the line itself answers.
    if (said === "switched" && isChangeWord(rest[1]?.text.toLowerCase() ?? "")) return this.at(target, rest.slice(1));
    if (isChangeWord(said)) return this.change(target, said, rest);
    if (target.kind === "part" && isWordsOnly(rest)) return this.unknownLook(target.part, rest);
    const isLifted =
      target.kind === "part" &&
      (this.now.standing?.lifted ?? []).includes(target.part.designator) &&
      isOhms(rest.map((w) => w.text).join(" "));
    return this.values.measured(target, rest, isLifted ? "lifted" : "in circuit");
  }

  /** By the meter's diode test; of a part whose lead is lifted by itself. */
  private diode(target: Target, [word, ...rest]: readonly Word[], isLifted: boolean): QuickReading {
    const stands = target.kind === "part" && (this.now.standing?.lifted ?? []).includes(target.part.designator);
    return readDiodeTest(target, word, rest, this.circuit, { line: this.line, isLifted: isLifted || stands });
  }

  private bareLook(words: readonly Word[], { part: name, alone }: Extract<Proposal, { quantity: "look" }>) {
    const part = this.circuit.parts.find((p) => p.designator === name);
    const seen = part && seenIn(textOf(words), part);
    return part && seen ? this.seen(part, seen, alone ?? false, words[0]) : null;
  }

  /** What is seen of a part, `alone` on the supply or in its circuit; null where that is not what is said. */
  private lookAt(part: Part, words: readonly Word[]): QuickReading | null {
    const isAlone = words.length > 1 && /^alone,?$/i.test(words[0].text);
    const said = isAlone ? words.slice(1) : words;
    const text = textOf(said);
    // A supply or a lever is moved by words that a lamp answers with.
    if (!isAlone && words.length === 1 && isChangeWord(text.toLowerCase()) && isMoved(part)) return null;
    const seen = seenIn(text, part);
    return seen && this.seen(part, seen, isAlone, said[0]);
  }

  private unknownLook(part: Part, words: readonly Word[]): QuickReading {
    const { designator } = part;
    const near = seenOf(part).slice(0, MOST_NEAR);
    return wrong(
      words[0],
      `“${textOf(words)}” is not known of ${designator}; ${whatOneSees(part)}`,
      near.map((seen) => `${designator} ${seen}`),
    );
  }

  private seen(part: Part, seen: Seen, alone: boolean, word: Word): QuickReading {
    const trouble = troubleWithLook(part, seen);
    if (trouble) return wrong(word, trouble);
    const reading = this.look(part, seen, alone);
    return {
      kind: "reading",
      reading,
      echo: `${part.designator} ${SEEN[seen]}${alone ? ", alone on the supply" : ""}`,
    };
  }

  private look(part: Part, seen: Seen, alone: boolean): Reading {
    return {
      quantity: "observation",
      part: part.designator,
      seen,
      ...(alone ? { alone } : {}),
      typed: this.line.trim(),
    };
  }

  /** A change, and what was seen after it: `LA1 swapped, still dark`; also of the one part that can show it, `W1 swapped, still dark`. */
  private change(target: Target, said: string, [word, ...rest]: readonly Word[]): QuickReading {
    const behind = rest.map((w) => w.text.replaceAll(",", "")).filter((text) => text !== "");
    const after = said !== "now" && target.kind === "part" && behind.length > 0 ? behind.join(" ") : null;
    const shown = after === null || target.kind !== "part" ? null : this.shownBy(target.part, after);
    if (typeof shown === "string") return wrong(rest[0], shown);
    const read = readChange(target, said, shown ? [] : rest.map((w) => w.text));
    if (typeof read === "string") return wrong(rest[0] && said !== "now" ? rest[0] : word, read);
    if (!shown) return { kind: "change", ...read };
    const { part, seen } = shown;
    const look = this.look(part, seen, false);
    const isSame = target.kind === "part" && part === target.part;
    return {
      kind: "change",
      change: read.change,
      after: look,
      echo: `${read.echo}; ${isSame ? "it" : part.designator} ${SEEN[seen]}`,
    };
  }

  /**
   * The part of which something is seen after a change of another: the one that is named, that one, or the only one that
   * can show it.
   * @returns what is wrong with it as a text; null where nothing of the kind is said
   */
  private shownBy(changed: Part, said: string): { readonly part: Part; readonly seen: Seen } | string | null {
    const [first, ...rest] = said.split(" ");
    const named = rest.length > 0 ? targetOf(this.circuit, this.nodes, first) : null;
    if (named?.kind === "part") {
      const seen = seenIn(rest.join(" "), named.part);
      return seen && (troubleWithLook(named.part, seen) ?? { part: named.part, seen });
    }
    const own = seenIn(said, changed);
    if (own && troubleWithLook(changed, own) === null) return { part: changed, seen: own };
    const others = this.circuit.parts.flatMap((part) => {
      const seen = SHOWING.has(part.kind) ? seenIn(said, part) : null;
      return seen && troubleWithLook(part, seen) === null ? [{ part, seen }] : [];
    });
    if (others.length === 1) return others[0];
    if (others.length > 1) {
      const [{ part, seen }] = others;
      return `which one ${SEEN[seen]}? ${others.map((o) => o.part.designator).join(", ")} could: name it, such as ${changed.designator} …, ${part.designator} ${seen}`;
    }
    return own && troubleWithLook(changed, own);
  }

  /** `leads 0.3ohm`: leads held together. */
  private leads([first, ...rest]: readonly Word[]): QuickReading {
    const read = parseQuantity(rest.map((w) => w.text).join(""));
    if (rest.length === 0 || read.kind === "mistake" || read.value < 0 || (read.unit !== null && read.unit !== "ohm"))
      return wrong(rest[0] ?? first, "what do the leads show held together? such as leads 0.3ohm");
    const shown = printQuantity(read.value, "ohm", { digits: 3 });
    return {
      kind: "change",
      change: { change: "leads", value: read.value },
      echo: `${shown} of leads, taken off every ohms reading from here on`,
    };
  }

  private unloaded(part: Part, words: readonly Word[]): QuickReading {
    if (part.kind !== "supply") return wrong(words[0], "only a supply is measured unloaded");
    const read = this.values.measured(partTarget(part, part.designator), words, "in circuit");
    if (read.kind !== "reading" || read.reading.quantity !== "voltage") return read;
    const others = this.circuit.parts.filter((p) => p !== part && (p.from === part.from || p.to === part.from));
    const state = { lifted: others.map((p) => p.designator) };
    return { ...read, reading: { ...read.reading, state }, echo: `${read.echo}, with its load disconnected` };
  }

  private unknown(word: Word): QuickReading {
    if (/^[-+]?[\d.,]/.test(word.text)) {
      const read = parseQuantity(word.text);
      const [whole, ...decimals] = this.line.trim().split(/[\s.,]+/);
      const meant = /^[-+]?[\d\s.,]+$/.test(this.line) && decimals.length > 0 ? [`${whole}.${decimals.join("")}`] : [];
      return wrong(word, read.kind === "mistake" ? read.why : `“${this.line.trim()}” is not one value`, meant);
    }
    const known = [...this.nodes, ...this.circuit.parts.map((p) => p.designator)];
    const near = known.filter((name) => isNear(name.toLowerCase(), word.text.toLowerCase())).slice(0, 3);
    const rest = this.line.slice(word.column - 1 + word.text.length);
    const looksLikePair = /^[A-Za-z0-9_+]+-[A-Za-z0-9_+]+$/.test(word.text);
    const what = looksLikePair
      ? `there are no two nodes ${word.text.replace("-", " and ")}`
      : `there is no node or part ${word.text}`;
    return wrong(
      word,
      `${what} in this circuit`,
      near.map((name) => `${name}${rest}`),
    );
  }
}

/** True of a value, or a limit of the display, with no point before it; a node's name in digits is none without a value. */
function isBare(words: readonly Word[]): boolean {
  const [value, ...extras] = words
    .map((w) => w.text)
    .join(" ")
    .split(/ (?=@|null=)/i);
  if (/^(ol|beep|nobeep)$/i.test(value)) return true;
  const valueWords = words.slice(0, words.length - extras.length);
  const goOn = valueWords.slice(1).every((w, i) => goesOn(valueWords[i].text, w.text));
  return goOn && isValue(value);
}

function isValue(text: string): boolean {
  const [low, ...more] = text.replace(/^([-+]) /, "$1").split(SPAN);
  return parseQuantity(low).kind === "quantity" && more.every((high) => parseQuantity(high).kind === "quantity");
}

/** `B D 3.1`, `B - D 3.1`, `B to D 3.1`: two points as one word; `B = 7.4` and `B: 7.4` without what joins them. */
function joinPoints(words: readonly Word[], circuit: Circuit, nodes: readonly NodeName[]): Word[] {
  const [first, second, third] = words;
  const isNode = (word: Word | undefined) =>
    word !== undefined && targetOf(circuit, nodes, word.text)?.kind === "nodes";
  if (words.length > 3 && /^(-|→|to|and|\/|,)$/i.test(second.text) && isNode(first) && isNode(third))
    return [{ text: `${first.text}-${third.text}`, column: first.column }, ...words.slice(3)];
  if (words.length > 2 && isNode(first) && isNode(second) && !/^(ohms?|r|v|a|w)$/i.test(third.text))
    return [{ text: `${first.text}-${second.text}`, column: first.column }, ...words.slice(2)];
  if (words.length > 2 && /^[=:]$/.test(second.text)) return [first, ...words.slice(2)];
  const [, name, value] = /^([^=:]+)[=:](.*)$/.exec(first.text) ?? [];
  if (name === undefined || /^null$/i.test(name)) return [...words];
  const behind = value === "" ? [] : [{ text: value, column: first.column + first.text.length - value.length }];
  return [{ text: name, column: first.column }, ...behind, ...words.slice(1)];
}

/** True of words that hold no value, and no limit of a display. */
function isWordsOnly(words: readonly Word[]): boolean {
  const said = textOf(words);
  return (
    /^[a-z' ]+$/i.test(said) && !isValue(said) && !isOhms(said) && !/^(lifted|unloaded|alone)$/i.test(words[0].text)
  );
}

/** True of what an ohmmeter shows: a value in ohms or without a unit, OL, a beep or none. */
function isOhms(text: string): boolean {
  const [value] = text.split(/\s+(?=@|null=)/i);
  if (/^(ol|beep|nobeep)$/i.test(value.trim())) return !/@\S*[VA](\/|$)/.test(text);
  const read = parseQuantity(value.replaceAll(" ", ""));
  return read.kind === "quantity" && (read.unit === "ohm" || read.unit === null);
}
