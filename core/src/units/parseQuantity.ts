import { foldCharacters } from "./fold.ts";
import { exponentOf } from "./prefixes.ts";

/** Units a technician writes behind a number. `null`: a bare number. */
export type Unit = "ohm" | "V" | "A" | "W" | "%";

export type ParsedQuantity =
  | {
      readonly kind: "quantity";
      /** Base SI units; a percentage stays in percent. */
      readonly value: number;
      readonly unit: Unit | null;
      /** The prefix letter as typed, "" where none was. */
      readonly prefix: string;
      /** Weight of the last digit typed, in base units: 7.40 → 0.01. */
      readonly step: number;
    }
  | { readonly kind: "mistake"; readonly why: string };

const UNITS: readonly (readonly [RegExp, Unit])[] = [
  [/^(?:Ω|ohms?|r)$/i, "ohm"],
  [/^(?:v|volts?)(?: ?dc)?$/i, "V"],
  [/^(?:a|amps?|amperes?)(?: ?dc)?$/i, "A"],
  [/^(?:w|watts?)$/i, "W"],
  [/^(?:%|percent|per cent)$/i, "%"],
];
/** Prefixes written out, as in `3 milliamps` or `1 Meg`; behind them a unit or nothing. */
const SPELLED: readonly (readonly [RegExp, string])[] = [
  [/^micro[ -]?/i, "µ"],
  [/^milli[ -]?/i, "m"],
  [/^kil(?:o(?!hm)|(?=ohm))[ -]?/i, "k"],
  [/^meg(?:a(?!\w*mp)|(?=ohm)|(?![a-z]))[ -]?/i, "M"],
];

const NUMBER = /^([+-]?)(\d+(?:[.,]\d*)?|[.,]\d+)(?:[eE]([+-]?\d+))?/;
/** Thousands in groups, where the sign between them cannot be a decimal one: `1 234,5`, `1,234.5`, `1.234.567`, `1'000`. */
const GROUPED =
  /^[+-]?(?:\d{1,3}(?:[ '’]\d{3})+(?:[.,]\d+)?|\d{1,3}(?:,\d{3})+\.\d+|\d{1,3}(?:\.\d{3})+,\d+|\d{1,3}(?:,\d{3}){2,}|\d{1,3}(?:\.\d{3}){2,})(?!\d)/;
/** IEC 60062: the letter stands where the decimal mark would. */
const RKM = /^([+-]?)(\d+)([RrVvkKMGmuµnp])(\d+)(.*)$/;

/**
 * Reads a number with an optional engineering prefix and unit: `4k7`, `4.7k`, `2R2`, `12mA`, `0,47`, `5%`, `23.8 volts`.
 * Decimal point and comma are alike; a sign between groups of three digits that cannot be a decimal one is passed over.
 * Every dash is a minus, full-width digits are digits. Codes such as `4k7` are those of IEC 60062.
 */
export function parseQuantity(text: string): ParsedQuantity {
  const source = withoutGroups(foldCharacters(text).trim());
  if (source === "") return { kind: "mistake", why: "there is no number here" };
  return readCode(source) ?? readPlain(source);
}

function withoutGroups(source: string): string {
  const [grouped] = GROUPED.exec(source) ?? [];
  if (grouped === undefined) return source;
  const whole = grouped.replace(/[ '’]/g, "");
  const marks = whole.match(/[.,]/g) ?? [];
  const hasDecimals = marks.length === 1 || new Set(marks).size === 2;
  const at = hasDecimals ? whole.search(/[.,]\d*$/) : whole.length;
  return whole.slice(0, at).replace(/[.,]/g, "") + whole.slice(at) + source.slice(grouped.length);
}

function readCode(source: string): ParsedQuantity | undefined {
  const match = RKM.exec(source);
  if (!match) return undefined;
  const [, sign, whole, letter, decimals, rest] = match;
  const isUnit = /[RrVv]/.test(letter);
  const unit = rest === "" ? (/[Rr]/.test(letter) ? "ohm" : isUnit ? "V" : null) : unitOf(rest);
  if (unit === undefined || (isUnit && rest !== "" && unit !== unitOf(letter))) return undefined;
  const exponent = isUnit ? 0 : (exponentOf(letter) ?? 0);
  return quantity(sign, `${whole}.${decimals}`, exponent, unit, isUnit ? "" : letter);
}

/** Watts are sold in fractions: `1/4 W`. */
const FRACTION = /^(\d+)\/(\d+)\s*(W|watts?)$/i;

function readPlain(source: string): ParsedQuantity {
  const [, over, under] = FRACTION.exec(source) ?? [];
  if (Number(under) > 0) {
    const value = Number(over) / Number(under);
    return { kind: "quantity", value, unit: "W", prefix: "", step: value };
  }
  const match = NUMBER.exec(source);
  if (!match) return { kind: "mistake", why: `“${source}” is not a number` };
  const [matched, sign, digits, power] = match;
  const tail = source.slice(matched.length).trim();
  const exponent = power ? Number(power) : 0;
  const mantissa = digits.replace(",", ".");
  if (tail === "") return quantity(sign, mantissa, exponent, null, "");
  if (/^[.,\d]/.test(tail)) return { kind: "mistake", why: `“${source}” is not a number` };
  const whole = unitOf(tail);
  if (whole !== undefined) return quantity(sign, mantissa, exponent, whole, "");
  const [spelled, letter] = SPELLED.find(([pattern]) => pattern.test(tail)) ?? [];
  const prefix = letter ?? tail[0];
  const behind = spelled ? tail.replace(spelled, "") : tail.slice(1).trim();
  const shift = exponentOf(prefix);
  const unit = behind === "" ? null : unitOf(behind);
  if (shift === undefined || unit === undefined || unit === "%") {
    return { kind: "mistake", why: `“${tail}” is no unit or prefix known here` };
  }
  return quantity(sign, mantissa, exponent + shift, unit, prefix);
}

function unitOf(text: string): Unit | undefined {
  return UNITS.find(([pattern]) => pattern.test(text))?.[1];
}

function quantity(sign: string, mantissa: string, exponent: number, unit: Unit | null, prefix: string): ParsedQuantity {
  // Nought has no sign.
  const value = Number(`${sign === "-" ? "-" : ""}${mantissa}e${exponent}`) + 0;
  if (!Number.isFinite(value)) return { kind: "mistake", why: "the number is too large" };
  const decimals = mantissa.includes(".") ? mantissa.length - mantissa.indexOf(".") - 1 : 0;
  return { kind: "quantity", value, unit, prefix, step: Number(`1e${exponent - decimals}`) };
}
