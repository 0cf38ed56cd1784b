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
  [/^(?:Ω|Ω|ohms?|Ohms?|OHM|R|r)$/, "ohm"],
  [/^[Vv]$/, "V"],
  [/^[Aa]$/, "A"],
  [/^[Ww]$/, "W"],
  [/^%$/, "%"],
];

const NUMBER = /^([+\-−]?)(\d+(?:[.,]\d*)?|[.,]\d+)(?:[eE]([+-]?\d+))?/;
/** IEC 60062: the letter stands where the decimal mark would. */
const RKM = /^([+\-−]?)(\d+)([RrVvkKMGmuµμnp])(\d+)(.*)$/;

/**
 * Reads a number with an optional engineering prefix and unit: `4k7`, `4.7k`, `2R2`, `12mA`, `0,47`, `5%`.
 * Decimal point and comma are alike; U+2212 is a minus. Codes such as `4k7` are those of IEC 60062.
 */
export function parseQuantity(text: string): ParsedQuantity {
  const source = text.trim();
  if (source === "") return { kind: "mistake", why: "there is no number here" };
  return readCode(source) ?? readPlain(source);
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

function readPlain(source: string): ParsedQuantity {
  const match = NUMBER.exec(source);
  if (!match) return { kind: "mistake", why: `“${source}” is not a number` };
  const [matched, sign, digits, power] = match;
  const tail = source.slice(matched.length).trim();
  const exponent = power ? Number(power) : 0;
  const mantissa = digits.replace(",", ".");
  if (tail === "") return quantity(sign, mantissa, exponent, null, "");
  const whole = unitOf(tail);
  if (whole !== undefined) return quantity(sign, mantissa, exponent, whole, "");
  const prefix = tail[0];
  const shift = exponentOf(prefix);
  const unit = tail.length === 1 ? null : unitOf(tail.slice(1).trim());
  if (shift === undefined || unit === undefined || unit === "%") {
    return { kind: "mistake", why: `“${tail}” is no unit or prefix known here` };
  }
  return quantity(sign, mantissa, exponent + shift, unit, prefix);
}

function unitOf(text: string): Unit | undefined {
  return UNITS.find(([pattern]) => pattern.test(text))?.[1];
}

function quantity(sign: string, mantissa: string, exponent: number, unit: Unit | null, prefix: string): ParsedQuantity {
  const value = Number(`${sign === "-" || sign === "−" ? "-" : ""}${mantissa}e${exponent}`);
  if (!Number.isFinite(value)) return { kind: "mistake", why: "the number is too large" };
  const decimals = mantissa.includes(".") ? mantissa.length - mantissa.indexOf(".") - 1 : 0;
  return { kind: "quantity", value, unit, prefix, step: Number(`1e${exponent - decimals}`) };
}
