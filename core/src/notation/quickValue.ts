import type { Circuit, NodeName } from "../circuit/index.ts";
import type { ChangeOfCircuit, Configuration } from "../configuration/index.ts";
import {
  type Meter,
  meterData,
  meterOf,
  type NumericReading,
  type Quantity,
  type Reading,
  UNIT_OF,
} from "../record/index.ts";
import { parseQuantity, printQuantity, type Unit } from "../units/index.ts";
import type { Proposal } from "./quickBare.ts";
import type { Target } from "./quickTarget.ts";

export type QuickReading =
  | { readonly kind: "reading"; readonly reading: Reading; readonly echo: string }
  /** `after`: what was seen right after it. */
  | { readonly kind: "change"; readonly change: ChangeOfCircuit; readonly after?: Reading; readonly echo: string }
  /** Asked for by words: it is to be what is read next. */
  | { readonly kind: "asked"; readonly proposal: Proposal; readonly echo: string }
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

export interface Word {
  readonly text: string;
  readonly column: number;
}

export function wrong(word: Word, message: string, instead: readonly string[] = []): QuickReading {
  return { kind: "mistake", message, column: word.column, ...(instead.length > 0 ? { instead } : {}) };
}

/** Ranges that are offered where one must be named. */
const MOST_SPANS = 4;

/** Between the two ends of what wanders. */
export const SPAN = /\s*(?:\.{2,}|…)\s*/;

/** True of words that belong to the same value: a unit behind its number, a group of three digits, a sign before it. */
export function goesOn(before: string, word: string): boolean {
  if (/^[-+]$/.test(before)) return true;
  if (SPAN.test(before) || SPAN.test(word) || /^(to|\.+)$/i.test(before)) return true;
  return /^\d{3}([.,]\d*)?$/.test(word) ? /\d$/.test(before) : !/^[\d.,+-]/.test(word);
}

/** Reads what stands behind a point: a value with its unit and extras, or a limit of the display. */
export class ValueReader {
  constructor(
    private readonly circuit: Circuit,
    private readonly line: string,
    private readonly now: BenchNow,
  ) {}

  /** A value with its extras: `7.42V`, `7.3..7.5`, `OL`, `beep`, `@20V/bench`, `null=0.4`. */
  measured(target: Target, words: readonly Word[], how: "in circuit" | "lifted"): QuickReading {
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
        if (zero.kind === "mistake") return wrong(word, `null= takes the ohms of the leads: ${zero.why}`);
        leads = zero.value;
      } else values.push(word);
    }
    const [word] = values;
    if (!word) return wrong(words[0], "the value is missing");
    const text = values
      .map((w) => w.text)
      .join(" ")
      .replace(/^([-+]) /, "$1");
    const tooMany = values.slice(1).find((w, i) => !goesOn(values[i].text, w.text));
    if (tooMany) {
      const point = /^\d+$/.test(tooMany.text) && /^[-+]?\d+$/.test(values[0].text) && values.length === 2;
      const head = this.line.slice(0, word.column - 1);
      return wrong(
        tooMany,
        `“${tooMany.text}” is one word too many`,
        point ? [`${head}${values[0].text}.${tooMany.text}`, `${head}${values[0].text}`] : [],
      );
    }
    const shared = { ...extras, typed: this.line.trim() };
    const said = text.toLowerCase();
    if (said === "ol" || said === "beep" || said === "nobeep") return this.limit(target, said, how, shared);
    return this.valued(target, text, word, how, leads, shared);
  }

  /** Spans of the meter's ranges that one would be over, as one writes them. */
  spans(quantity: Quantity): string[] {
    return meterData(this.now.meter)
      .ranges[quantity].slice(0, MOST_SPANS)
      .map(({ span }) => printQuantity(span, UNIT_OF[quantity]).replace("\u00a0", ""));
  }

  private limit(
    target: Target,
    said: "ol" | "beep" | "nobeep",
    how: "in circuit" | "lifted",
    shared: { readonly range?: string; readonly meter?: string },
  ): QuickReading {
    const meter = meterOf(shared, meterData(this.now.meter));
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
    const points = target.kind === "nodes" ? target : target.ends;
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
    const [lowText, highText] = text.split(SPAN);
    const fromTo = /^([-+]?[\d.,]+[a-zΩµ]*) ?(?:-|to) ?([\d.,]+ ?[a-zΩµ]*)$/i.exec(text);
    if (fromTo && highText === undefined)
      return wrong(word, `does it wander from ${fromTo[1]} to ${fromTo[2]}?`, [
        `${this.line.slice(0, word.column - 1)}${fromTo[1]}..${fromTo[2]}`,
      ]);
    const high = highText === undefined ? null : parseQuantity(highText);
    const low = parseQuantity(lowText);
    if (low.kind === "mistake") return wrong(word, low.why);
    if (high?.kind === "mistake") return wrong(word, high.why);
    const unit = high?.unit ?? low.unit;
    const asked = this.askUnit(target, text, low.prefix, high?.prefix ?? "", unit, word);
    if (asked) return asked;
    const scale =
      high && low.prefix === "" && high.prefix !== ""
        ? high.value / Number.parseFloat((highText ?? "").replace(",", "."))
        : 1;
    const value = high ? tidy((low.value * scale + high.value) / 2) : low.value;
    // Where nothing drives it there is nothing but ohms to be read.
    const isOhms = how === "lifted" || !this.circuit.parts.some((p) => p.kind === "supply");
    const meant = unit ?? (isOhms ? "ohm" : target.kind === "nodes" ? "V" : null);
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
      return wrong(word, `volts across ${name}, amperes through it, or ohms? write the unit`, [
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
      return wrong(
        word,
        `“${text}”: of what?`,
        choices.map((u) => `${head}${number}${u}`),
      );
    }
    if (unit === "A" && prefix === "M") {
      return wrong(word, `“${text}” would be mega-amperes; mA?`, [`${head}${number}mA`]);
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
    if (how === "lifted" && unit !== "ohm") return wrong(word, "a lifted part is measured in ohms");
    if (unit === "ohm") {
      if (details.value < 0) return wrong(word, "ohms are not negative; are the leads nulled too far?");
      if (target.kind === "nodes" && target.from === (target.to ?? this.circuit.reference))
        return wrong(word, `both leads would be on ${target.from}: name another point`);
      const reading: NumericReading = { quantity: "resistance", ...this.ohmsPoints(target, how), ...details };
      return { kind: "reading", reading, echo: `${shown} ${this.placeOf(target, how)}, power off` };
    }
    if (unit === "A") {
      if (target.kind === "nodes") return wrong(word, "a current goes through a part: write the part, such as R3 12mA");
      const out =
        target.part.kind === "supply"
          ? `out of ${target.branch}'s plus`
          : `through ${target.branch}, ${target.ends.from} to ${target.ends.to}`;
      const reading: NumericReading = {
        quantity: "current",
        through: target.branch,
        ...byOf(target),
        ...details,
      };
      return { kind: "reading", reading, echo: `${shown} ${out}` };
    }
    if (unit !== "V") return wrong(word, `${word.text}: a meter reads volts, amperes or ohms`);
    const points = target.kind === "nodes" ? target : target.ends;
    if (points.from === (points.to ?? this.circuit.reference))
      return wrong(word, `both leads would be on ${points.from}: name another point`);
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
    return how === "lifted" ? { lifted: target.branch } : target.ends;
  }

  private placeOf(target: Target, how: "in circuit" | "lifted"): string {
    if (target.kind === "nodes") return `from ${target.from} to ${target.to ?? this.circuit.reference}`;
    return how === "lifted" ? `of ${target.branch} alone, one lead lifted` : `across ${target.branch}, in circuit`;
  }
}

/** A meter that is drawn in the circuit is read where it is: no other one loads the circuit. */
function byOf(target: Target): { by?: string } {
  return target.kind === "part" && target.part.kind === "meter" ? { by: target.part.designator } : {};
}

/** Without the dust of binary fractions. */
function tidy(value: number): number {
  return Number(value.toPrecision(12));
}
