import { parseQuantity, type Unit, writeQuantity } from "@hound/core/units";
import { printNumber } from "../words/print.ts";
import { withLimits } from "../words/quantities.ts";

export interface Field {
  readonly key: string;
  readonly label: string;
  readonly hint: string;
  readonly optional?: true;
  /** Several lines. */
  readonly lines?: true;
}

/** One line of a result. */
export interface Result {
  readonly label: string;
  readonly text: string;
  /** What a trail or a reading line takes. */
  readonly copy?: string;
  /** Parts that can be put into a circuit. */
  readonly part?: string;
  /** What a reading line takes behind the point that it was read at. */
  readonly reading?: string;
  readonly tone?: "good" | "wrong";
}

export type Worked =
  | { readonly kind: "results"; readonly list: readonly Result[] }
  | { readonly kind: "wrong"; readonly field: string; readonly why: string };

export interface Sum {
  readonly id: string;
  readonly title: string;
  readonly about: string;
  readonly fields: readonly Field[];
  /** Null while a field that is needed is empty. */
  readonly work: (fields: Readonly<Record<string, string>>) => Worked | null;
}

/** What a field says makes no sense. */
export class Wrong extends Error {
  constructor(
    readonly field: string,
    readonly why: string,
  ) {
    super(why);
  }
}
/** A field that is needed is empty. */
export class Missing extends Error {}

/** Wraps a sum: a field that is wrong says so beside it, one that is missing waits. */
export const working =
  (work: (read: Reader) => Result[]) =>
  (fields: Readonly<Record<string, string>>): Worked | null => {
    try {
      return { kind: "results", list: work(new Reader(fields)) };
    } catch (error) {
      if (error instanceof Missing) return null;
      if (error instanceof Wrong) return { kind: "wrong", field: error.field, why: error.why };
      throw error;
    }
  };

export class Reader {
  constructor(private readonly fields: Readonly<Record<string, string>>) {}

  /** The quantity in a field, in base units; undefined where an optional one is empty. */
  maybe(key: string, unit: Unit): number | undefined {
    const text = this.fields[key]?.trim() ?? "";
    if (text === "") return undefined;
    const read = parseQuantity(text.replace(/\s+/g, ""));
    if (read.kind === "mistake") throw new Wrong(key, read.why);
    if (read.unit !== null && read.unit !== unit) throw new Wrong(key, `this takes ${NAMES[unit]}`);
    return unit === "%" ? read.value / 100 : read.value;
  }

  /** A quantity in whatever unit it is written. */
  any(key: string): { readonly value: number; readonly unit: Unit | null } {
    const text = this.text(key);
    if (text === "") throw new Missing();
    const read = parseQuantity(text.replace(/\s+/g, ""));
    if (read.kind === "mistake") throw new Wrong(key, read.why);
    return read;
  }

  need(key: string, unit: Unit): number {
    const value = this.maybe(key, unit);
    if (value === undefined) throw new Missing();
    return value;
  }

  positive(key: string, unit: Unit): number {
    const value = this.need(key, unit);
    if (!(value > 0)) throw new Wrong(key, "more than zero");
    return value;
  }

  text(key: string): string {
    return this.fields[key]?.trim() ?? "";
  }
}

const NAMES: Readonly<Record<Unit, string>> = { ohm: "ohms", V: "volts", A: "amperes", W: "watts", "%": "percent" };

/** `1k 5%; 2,2k 470 1%`: resistances, each with its own tolerance or the usual 5 %; a comma between digits is decimal. */
export function resistances(read: Reader, key: string): { ohms: number; words: string }[] {
  const words = read
    .text(key)
    .split(/[\s;+|]+|,(?!\d)|(?<!\d),/)
    .filter((w) => w !== "");
  if (words.length === 0) throw new Missing();
  const list: { ohms: number; words: string }[] = [];
  for (const word of words) {
    const found = parseQuantity(word);
    if (found.kind === "mistake") throw new Wrong(key, `${word}: ${found.why}`);
    const last = list[list.length - 1];
    if (found.unit === "%" && last) list[list.length - 1] = { ...last, words: `${last.words} ${asTyped(word)}` };
    else if (found.unit !== null && found.unit !== "ohm") throw new Wrong(key, `${word} is no resistance`);
    else if (!(found.value > 0)) throw new Wrong(key, `${word}: more than zero`);
    else list.push({ ohms: found.value, words: asTyped(word) });
  }
  return list;
}

/** A figure without the dust of binary fractions, as a trail or a reading line takes it. */
export const copied = (value: number, unit?: Unit) => writeQuantity(Number(value.toPrecision(6)), unit);

/** `+8.94 %`; what is but dust is nothing. */
export function shareWords(share: number, digits = 3): string {
  const percent = Math.abs(share) < 1e-9 ? 0 : share * 100;
  return `${percent > 0 ? "+" : ""}${printNumber(percent, digits)}\u00a0%`;
}

/** A word as it was typed, with the point that a trail has. */
const asTyped = (word: string) => word.replace(",", ".");

export const ohmResult = (label: string, value: number, plusMinus = 0): Result => ({
  label,
  text: withLimits(value, plusMinus, "ohm"),
  ...ohmPart(Number(value.toPrecision(6))),
});

/** A resistance to be copied, or put in as a part. */
export const ohmPart = (ohms: number, more = "") => ({
  copy: writeQuantity(ohms),
  part: `R1 ${writeQuantity(ohms)}${more}`,
});

/** A stretch of trail to be copied, or put in. */
export const stretch = (words: string) => ({ copy: words, part: words });
