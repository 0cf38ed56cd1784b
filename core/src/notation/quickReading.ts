import { type Circuit, type NodeName, nodesOf, type Part } from "../circuit/index.ts";
import {
  type ChangeOfCircuit,
  type Configuration,
  type Meter,
  meterData,
  type NumericReading,
  type Reading,
  SEEN,
  type Seen,
} from "../record/index.ts";
import { parseQuantity, printQuantity, type Unit } from "../units/index.ts";
import { isChangeWord, readChange, troubleWithLook } from "./quickChange.ts";
import { isNear, type Target, targetOf } from "./quickTarget.ts";

/** What a bare value, or a bare word for what is seen, is taken for. */
export type Proposal =
  | { readonly quantity: "voltage"; readonly from: NodeName; readonly to?: NodeName }
  | { readonly quantity: "resistance"; readonly from: NodeName; readonly to?: NodeName }
  | { readonly quantity: "resistance"; readonly lifted: string }
  | { readonly quantity: "current"; readonly through: string }
  | { readonly quantity: "look"; readonly part: string; readonly alone?: true };

export type QuickReading =
  | { readonly kind: "reading"; readonly reading: Reading; readonly echo: string }
  /** `after`: what was seen right after it. */
  | { readonly kind: "change"; readonly change: ChangeOfCircuit; readonly after?: Reading; readonly echo: string }
  | { readonly kind: "empty" }
  | {
      readonly kind: "mistake";
      readonly message: string;
      /** Column, from 1, of the word it is about. */
      readonly column: number;
      /** What was probably meant, ready to be taken. */
      readonly instead?: readonly string[];
    };

/** How the circuit stands while a line is typed, and the meter it is read with. */
export interface BenchNow {
  readonly standing?: Configuration;
  readonly meter?: Meter;
}

interface Word {
  readonly text: string;
  readonly column: number;
}

/**
 * Understands one line typed with both probes in hand: `B 7.42`, `B-D 3.1`, `R3 12mA`, `R3 lifted 470R`, `B-D OL`.
 * Names match exactly, then regardless of case. Never throws.
 */
export function readQuick(line: string, circuit: Circuit, proposal?: Proposal, now: BenchNow = {}): QuickReading {
  const plain = line.replaceAll("\u2212", "-");
  const words = [...plain.matchAll(/\S+/g)].map((m): Word => ({ text: m[0], column: m.index + 1 }));
  if (words.length === 0) return { kind: "empty" };
  return new Reader(circuit, plain, now).read(words, proposal);
}

class Reader {
  private readonly nodes: NodeName[];

  constructor(
    private readonly circuit: Circuit,
    private readonly line: string,
    private readonly now: BenchNow,
  ) {
    this.nodes = nodesOf(circuit);
    if (!this.nodes.includes(circuit.reference)) this.nodes.push(circuit.reference);
  }

  read(words: Word[], proposal?: Proposal): QuickReading {
    const [first, ...rest] = words;
    if (rest.length === 0) {
      const said = first.text.toLowerCase();
      const isValue = parseQuantity(first.text).kind === "quantity" || /^(ol|beep|nobeep)$/.test(said);
      const isSeen = proposal?.quantity === "look" && said in SEEN;
      if ((isValue || isSeen) && targetOf(this.circuit, this.nodes, first.text) === null)
        return this.bare(first, proposal);
    }
    const target = targetOf(this.circuit, this.nodes, first.text);
    if (target === null && first.text.toLowerCase() === "leads") return this.leads(words);
    if (target === null) return this.unknown(first);
    if (rest.length === 0) return this.wrong(first, `what did ${first.text} read? write the value behind it`);
    const [second] = rest;
    const said = second.text.toLowerCase().replace(/,$/, "");
    if (target.kind === "part") {
      const { part } = target;
      const third = rest[1]?.text.toLowerCase();
      if (said in SEEN && rest.length === 1) return this.seen(part, said as Seen, false, second);
      if (said === "still" && rest.length === 2 && third in SEEN) return this.seen(part, third as Seen, false, rest[1]);
      if (said === "alone" && rest.length === 2 && third in SEEN) return this.seen(part, third as Seen, true, rest[1]);
      if (said === "lifted" && rest.length > 1) return this.measured(target, rest.slice(1), "lifted");
      if (said === "unloaded" && rest.length > 1) return this.unloaded(part, rest.slice(1));
    }
    if (isChangeWord(said)) return this.change(target, said, rest);
    const isLifted =
      target.kind === "part" &&
      (this.now.standing?.lifted ?? []).includes(target.part.designator) &&
      isOhms(rest.map((w) => w.text).join(" "));
    return this.measured(target, rest, isLifted ? "lifted" : "in circuit");
  }

  private bare(word: Word, proposal?: Proposal): QuickReading {
    if (!proposal) return this.wrong(word, `where? write the point first, such as “${this.nodes[0]} ${word.text}”`);
    if (proposal.quantity === "look") return this.bareLook(word, proposal);
    const isLimit = !/\d/.test(word.text);
    if (proposal.quantity === "voltage" && isLimit)
      return this.wrong(word, `${word.text} of what? over a range of volts, or ohms with the power off`, [
        `${proposal.from} OL @20V`,
        `${proposal.from}${proposal.to === undefined ? "" : `-${proposal.to}`} ${word.text}`,
      ]);
    if ("from" in proposal) {
      const points = { kind: "nodes" as const, from: proposal.from, to: proposal.to };
      const isBare = proposal.quantity === "resistance" && /[\d.]$/.test(word.text);
      return this.measured(points, isBare ? [{ ...word, text: `${word.text}ohm` }] : [word], "in circuit");
    }
    const name = proposal.quantity === "current" ? proposal.through : proposal.lifted;
    const target = targetOf(this.circuit, this.nodes, name);
    if (target?.kind !== "part") return this.wrong(word, `where? there is no ${name} in this circuit now`);
    if (proposal.quantity === "resistance") return this.measured(target, [word], "lifted");
    if (/[\d.]$/.test(word.text))
      return this.wrong(word, `${word.text} through ${name}: milliamperes or amperes?`, [
        `${name} ${word.text}mA`,
        `${name} ${word.text}A`,
      ]);
    return this.measured(target, [word], "in circuit");
  }

  private bareLook(word: Word, { part: name, alone }: Extract<Proposal, { quantity: "look" }>): QuickReading {
    const part = this.circuit.parts.find((p) => p.designator === name);
    const said = word.text.toLowerCase();
    if (!part || !(said in SEEN))
      return this.wrong(word, `what does ${name} show? or write the point before the value`);
    return this.seen(part, said as Seen, alone ?? false, word);
  }

  private seen(part: Part, seen: Seen, alone: boolean, word: Word): QuickReading {
    const trouble = troubleWithLook(part, seen);
    if (trouble) return this.wrong(word, trouble);
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

  /** A change, and what was seen after it: `LA1 swapped, still dark`. */
  private change(target: Target, said: string, [word, ...rest]: readonly Word[]): QuickReading {
    const behind = rest.filter((w) => !/^(,|still,?)$/i.test(w.text));
    const seen = behind[0]?.text.toLowerCase().replace(/^,/, "") ?? "";
    const isSeen = said !== "now" && target.kind === "part" && behind.length === 1 && seen in SEEN;
    const read = readChange(target, said, isSeen ? [] : rest.map((w) => w.text));
    if (typeof read === "string") return this.wrong(rest[0] && said !== "now" ? rest[0] : word, read);
    if (!isSeen || target.kind !== "part") return { kind: "change", ...read };
    const trouble = troubleWithLook(target.part, seen as Seen);
    if (trouble) return this.wrong(behind[0], trouble);
    const look = this.look(target.part, seen as Seen, false);
    return { kind: "change", change: read.change, after: look, echo: `${read.echo}; it ${SEEN[seen as Seen]}` };
  }

  /** `leads 0.3ohm`: leads held together. */
  private leads([first, ...rest]: readonly Word[]): QuickReading {
    const read = parseQuantity(rest.map((w) => w.text).join(""));
    if (rest.length === 0 || read.kind === "mistake" || read.value < 0 || (read.unit !== null && read.unit !== "ohm"))
      return this.wrong(rest[0] ?? first, "what do the leads show held together? such as leads 0.3ohm");
    const shown = printQuantity(read.value, "ohm", { digits: 3 });
    return {
      kind: "change",
      change: { change: "leads", value: read.value },
      echo: `${shown} of leads, taken off every ohms reading from here on`,
    };
  }

  private unloaded(part: Part, words: readonly Word[]): QuickReading {
    if (part.kind !== "supply") return this.wrong(words[0], "only a supply is measured unloaded");
    const read = this.measured({ kind: "part", part, branch: part.designator }, words, "in circuit");
    if (read.kind !== "reading" || read.reading.quantity !== "voltage") return read;
    const others = this.circuit.parts.filter((p) => p !== part && (p.from === part.from || p.to === part.from));
    const state = { lifted: others.map((p) => p.designator) };
    return { ...read, reading: { ...read.reading, state }, echo: `${read.echo}, with its load disconnected` };
  }

  /** A value with its extras: `7.42V`, `7.3..7.5`, `OL`, `beep`, `@20V/bench`, `null=0.4`. */
  private measured(target: Target, words: readonly Word[], how: "in circuit" | "lifted"): QuickReading {
    const extras: { range?: string; meter?: string } = {};
    let leads = this.now.standing?.leads ?? 0;
    const values: Word[] = [];
    for (const word of words) {
      if (word.text.startsWith("@")) {
        const [range, meter] = word.text.slice(1).split("/");
        if (range) extras.range = range;
        if (meter) extras.meter = meter;
      } else if (/^null=/i.test(word.text)) {
        const zero = parseQuantity(word.text.slice(5));
        if (zero.kind === "mistake") return this.wrong(word, `null= takes the ohms of the leads: ${zero.why}`);
        leads = zero.value;
      } else values.push(word);
    }
    const [word] = values;
    if (!word) return this.wrong(words[0], "the value is missing");
    if (values.length > 2) return this.wrong(values[2], `“${values[2].text}” is one word too many`);
    const text = values.map((w) => w.text).join("");
    const shared = { ...extras, typed: this.line.trim() };
    const said = text.toLowerCase();
    if (said === "ol" || said === "beep" || said === "nobeep") return this.limit(target, said, how, shared);
    return this.valued(target, text, word, how, leads, shared);
  }

  private limit(
    target: Target,
    said: "ol" | "beep" | "nobeep",
    how: "in circuit" | "lifted",
    shared: { readonly range?: string },
  ): QuickReading {
    const meter = meterData(this.now.meter);
    const range = shared.range === undefined ? null : parseQuantity(shared.range);
    const span = range?.kind === "quantity" && range.value > 0 ? range : null;
    if (said === "ol" && span && (span.unit === "V" || span.unit === "A"))
      return this.over(target, span.unit, span.value, shared);
    const value = said === "ol" ? (span?.value ?? meter.topOhms) : meter.beepsBelow;
    const beyond = said === "beep" ? ("under" as const) : ("over" as const);
    const words = { ol: "over the range (OL)", beep: "the buzzer sounds", nobeep: "the buzzer stays silent" }[said];
    const reading: Reading = { quantity: "resistance", ...this.ohmsPoints(target, how), value, beyond, ...shared };
    return { kind: "reading", reading, echo: `ohms ${this.placeOf(target, how)}: ${words}` };
  }

  /** Volts or amperes over the top of a range that was named. */
  private over(target: Target, unit: "V" | "A", value: number, shared: object): QuickReading {
    const shown = `over ${printQuantity(value, unit, { digits: 4 })}`;
    if (unit === "A") {
      if (target.kind === "nodes")
        return { kind: "mistake", message: "a current goes through a part: write the part, such as R3 OL", column: 1 };
      const reading: NumericReading = { quantity: "current", through: target.branch, value, beyond: "over", ...shared };
      return { kind: "reading", reading, echo: `${shown} through ${target.branch}` };
    }
    const points = target.kind === "nodes" ? target : { from: target.part.from, to: target.part.to };
    const to = points.to === undefined || points.to === this.circuit.reference ? {} : { to: points.to };
    const reading: NumericReading = { quantity: "voltage", from: points.from, ...to, value, beyond: "over", ...shared };
    return { kind: "reading", reading, echo: `${shown} from ${points.from} to ${points.to ?? this.circuit.reference}` };
  }

  private valued(
    target: Target,
    text: string,
    word: Word,
    how: "in circuit" | "lifted",
    leads: number,
    shared: object,
  ): QuickReading {
    const [lowText, highText] = text.split("..");
    const high = highText === undefined ? null : parseQuantity(highText);
    const low = parseQuantity(lowText);
    if (low.kind === "mistake") return this.wrong(word, low.why);
    if (high?.kind === "mistake") return this.wrong(word, high.why);
    const unit = high?.unit ?? low.unit;
    const asked = this.askUnit(target, text, low.prefix, high?.prefix ?? "", unit, word);
    if (asked) return asked;
    const scale =
      high && low.prefix === "" && high.prefix !== "" ? high.value / Number.parseFloat(highText.replace(",", ".")) : 1;
    const value = high ? tidy((low.value * scale + high.value) / 2) : low.value;
    const meant = unit ?? (how === "lifted" ? "ohm" : target.kind === "nodes" ? "V" : null);
    // A whole number of volts or amperes says nothing of how fine the display was.
    const isWhole =
      (meant === "V" || meant === "A") &&
      low.prefix === "" &&
      !high &&
      Number.isInteger(low.value) &&
      !/[.,]/.test(text);
    const details = {
      value: meant === "ohm" ? tidy(value - leads) : value,
      ...(meant === "ohm" && leads > 0 ? { nulled: true } : {}),
      ...(isWhole ? {} : { step: low.step * scale }),
      ...(high ? { wander: tidy(Math.abs(high.value - low.value * scale) / 2) } : {}),
      ...shared,
    };
    if (meant === null) {
      const name = target.kind === "part" ? target.branch : "";
      return this.wrong(word, `volts across ${name}, amperes through it, or ohms? write the unit`, [
        `${name} ${text}V`,
        `${name} ${text}mA`,
        `${name} ${text}R`,
      ]);
    }
    return this.withUnit(target, meant, details, how, word);
  }

  /** A bare m, M or MA could mean two things; asked about, never guessed. */
  private askUnit(
    target: Target,
    text: string,
    lowPrefix: string,
    highPrefix: string,
    unit: Unit | null,
    word: Word,
  ): QuickReading | null {
    const prefix = highPrefix || lowPrefix;
    const head = this.line.slice(0, word.column - 1);
    const number = text.replace(/[mM]\s*[Aa]?$/, "");
    if (unit === null && /^[mM]$/.test(prefix) && /[mM]$/.test(text)) {
      const choices = (prefix === "m" ? ["mV", "mA", "mohm"] : ["MΩ", "mV", "mA"]).filter(
        (u) => u !== "mA" || target.kind === "part",
      );
      return this.wrong(
        word,
        `“${text}”: of what?`,
        choices.map((u) => `${head}${number}${u}`),
      );
    }
    if (unit === "A" && prefix === "M") {
      return this.wrong(word, `“${text}” would be mega-amperes; mA?`, [`${head}${number}mA`]);
    }
    return null;
  }

  private withUnit(
    target: Target,
    unit: Unit,
    details: { value: number; step?: number },
    how: "in circuit" | "lifted",
    word: Word,
  ): QuickReading {
    const shown = printQuantity(details.value, unit, { digits: 5 }).replace(/\.?0+(?=\u00a0)/, "");
    if (how === "lifted" && unit !== "ohm") return this.wrong(word, "a lifted part is measured in ohms");
    if (unit === "ohm") {
      if (details.value < 0) return this.wrong(word, "ohms are not negative; are the leads nulled too far?");
      const reading: NumericReading = { quantity: "resistance", ...this.ohmsPoints(target, how), ...details };
      return { kind: "reading", reading, echo: `${shown} ${this.placeOf(target, how)}, power off` };
    }
    if (unit === "A") {
      if (target.kind === "nodes")
        return this.wrong(word, "a current goes through a part: write the part, such as R3 12mA");
      const out =
        target.part.kind === "supply"
          ? `out of ${target.branch}'s plus`
          : `through ${target.branch}, ${target.part.from} to ${target.part.to}`;
      const reading: NumericReading = {
        quantity: "current",
        through: target.branch,
        ...byOf(target),
        ...details,
      };
      return { kind: "reading", reading, echo: `${shown} ${out}` };
    }
    if (unit !== "V") return this.wrong(word, `${word.text}: a meter reads volts, amperes or ohms`);
    const points = target.kind === "nodes" ? target : { from: target.part.from, to: target.part.to };
    if (points.from === (points.to ?? this.circuit.reference))
      return this.wrong(word, `both leads would be on ${points.from}: name another point`);
    const reading: NumericReading = {
      quantity: "voltage",
      from: points.from,
      ...(points.to === undefined || points.to === this.circuit.reference ? {} : { to: points.to }),
      ...byOf(target),
      ...details,
    };
    const where =
      target.kind === "part"
        ? `across ${target.branch}, ${points.from} to ${points.to}`
        : `from ${points.from} to ${points.to ?? this.circuit.reference}`;
    return { kind: "reading", reading, echo: `${shown} ${where}` };
  }

  private ohmsPoints(
    target: Target,
    how: "in circuit" | "lifted",
  ): { from?: NodeName; to?: NodeName; lifted?: string } {
    if (target.kind === "nodes") return { from: target.from, ...(target.to === undefined ? {} : { to: target.to }) };
    return how === "lifted" ? { lifted: target.branch } : { from: target.part.from, to: target.part.to };
  }

  private placeOf(target: Target, how: "in circuit" | "lifted"): string {
    if (target.kind === "nodes") return `from ${target.from} to ${target.to ?? this.circuit.reference}`;
    return how === "lifted" ? `of ${target.branch} alone, one lead lifted` : `across ${target.branch}, in circuit`;
  }

  private unknown(word: Word): QuickReading {
    const known = [...this.nodes, ...this.circuit.parts.map((p) => p.designator)];
    const near = known.filter((name) => isNear(name.toLowerCase(), word.text.toLowerCase())).slice(0, 3);
    const rest = this.line.slice(word.column - 1 + word.text.length);
    const looksLikePair = /^[A-Za-z0-9_+]+-[A-Za-z0-9_+]+$/.test(word.text);
    const what = looksLikePair
      ? `there are no two nodes ${word.text.replace("-", " and ")}`
      : `there is no node or part ${word.text}`;
    return this.wrong(
      word,
      `${what} in this circuit`,
      near.map((name) => `${name}${rest}`),
    );
  }

  private wrong(word: Word, message: string, instead: readonly string[] = []): QuickReading {
    return { kind: "mistake", message, column: word.column, ...(instead.length > 0 ? { instead } : {}) };
  }
}

/** A meter that is drawn in the circuit is read where it is: no other one loads the circuit. */
function byOf(target: Target): { by?: string } {
  return target.kind === "part" && target.part.kind === "meter" ? { by: target.part.designator } : {};
}

/** True of what an ohmmeter shows: a value in ohms or without a unit, OL, a beep or none. */
function isOhms(text: string): boolean {
  const [value] = text.split(/\s+(?=@|null=)/i);
  if (/^(ol|beep|nobeep)$/i.test(value.trim())) return !/@\S*[VA](\/|$)/.test(text);
  const read = parseQuantity(value.replaceAll(" ", ""));
  return read.kind === "quantity" && (read.unit === "ohm" || read.unit === null);
}

/** Without the dust of binary fractions. */
function tidy(value: number): number {
  return Number(value.toPrecision(12));
}
