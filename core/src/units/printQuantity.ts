import type { Unit } from "./parseQuantity.ts";
import { prefixOf } from "./prefixes.ts";

export type DecimalMark = "." | ",";

export interface PrintOptions {
  /** The digits that the limits leave, without the limits. */
  readonly hidesLimits?: boolean;
  /** Significant digits; left out, as many as the number needs to read back equal. */
  readonly digits?: number;
  readonly decimal?: DecimalMark;
}

const SYMBOL: Record<Unit, string> = { ohm: "Ω", V: "V", A: "A", W: "W", "%": "%" };

/** For people: `4.7 kΩ`, `12.4 mA`, `7.42 V`, with a no-break space. Numbers that are not finite print as `∞`. */
export function printQuantity(value: number, unit: Unit, options: PrintOptions = {}): string {
  const symbol = SYMBOL[unit];
  if (Number.isNaN(value)) return `–\u00a0${symbol}`;
  if (!Number.isFinite(value)) return `${value < 0 ? "−" : ""}∞\u00a0${symbol}`;
  if (unit === "%") return `${mark(plain(value, options.digits), options).replace("-", "−")}\u00a0%`;
  const { mantissa, prefix } = engineering(value, options.digits);
  return `${mark(mantissa, options).replace("-", "−")}\u00a0${prefix}${symbol}`;
}

/** Digits of a value beside its limits, at most. */
const MOST_DIGITS = 5;

/**
 * `16.93 ± 0.40 V`: value and limits with one prefix and as many decimals, at the second digit of the limits, so far as
 * the value keeps to five digits and the limits keep one.
 */
export function printWithLimits(value: number, plusMinus: number, unit: Unit, options: PrintOptions = {}): string {
  const size = Math.abs(value);
  const leading = size < plusMinus / 1000 ? plusMinus : size;
  const exponent = unit === "%" || leading === 0 ? 0 : exponentFor(leading);
  const scaled = (x: number) => Number(`${x}e${-exponent}`) || x / 10 ** exponent;
  const [v, limit] = [size < plusMinus / 1000 ? 0 : scaled(value), scaled(plusMinus)];
  const place = Math.floor(Math.log10(limit) + 1e-9);
  const whole = Math.max(1, Math.floor(Math.log10(Math.max(1, Math.abs(v)))) + 1);
  const decimals = Math.min(20, Math.max(0, -place, Math.min(1 - place, MOST_DIGITS - whole)));
  const text = (x: number) => mark(x.toFixed(decimals), options).replace("-", "−");
  const within = options.hidesLimits ? "" : ` ±\u00a0${text(limit)}`;
  return `${text(v)}${within}\u00a0${prefixOf(exponent) ?? ""}${SYMBOL[unit]}`;
}

function exponentFor(size: number): number {
  return Math.min(9, Math.max(-12, Math.floor(Math.log10(size) / 3 + 1e-12) * 3));
}

/** For trails and files: `4.7k`, `470`, `12mA`, without a space; reads back as exactly the same number. */
export function writeQuantity(value: number, unit: Unit | null = null): string {
  const letter = unit === null || unit === "ohm" ? "" : unit;
  if (unit === "%") return `${plain(value)}%`;
  const { mantissa, prefix, exponent } = engineering(value);
  if (exponent !== 0 && prefix === "") return `${mantissa}e${exponent}${letter}`;
  return `${mantissa}${prefix === "µ" ? "u" : prefix}${letter}`;
}

function mark(text: string, options: PrintOptions): string {
  return options.decimal === "," ? text.replace(".", ",") : text;
}

function plain(value: number, digits?: number): string {
  return digits === undefined ? String(value) : String(Number(value.toPrecision(digits)));
}

/** Splits into a mantissa in [1, 1000) and a prefix; digits are moved as text, so nothing is rounded twice. */
function engineering(value: number, digits?: number): { mantissa: string; prefix: string; exponent: number } {
  if (value === 0) return { mantissa: digits ? (0).toFixed(Math.max(0, digits - 1)) : "0", prefix: "", exponent: 0 };
  const [digitText, powerText] = value.toExponential(digits === undefined ? undefined : digits - 1).split("e");
  const power = Number(powerText);
  const wanted = Math.floor(power / 3) * 3;
  const exponent = Math.min(9, Math.max(-12, wanted));
  const prefix = prefixOf(exponent) ?? "";
  return { mantissa: shift(digitText, power - exponent), prefix, exponent };
}

/** Moves the decimal point of `d.ddd` by `places` to the right (left when negative). */
function shift(text: string, places: number): string {
  const sign = text.startsWith("-") ? "-" : "";
  const [whole, decimals = ""] = text.replace("-", "").split(".");
  let digits = whole + decimals;
  let point = whole.length + places;
  if (point <= 0) {
    digits = "0".repeat(1 - point) + digits;
    point = 1;
  }
  digits = digits.padEnd(point, "0");
  const tail = digits.slice(point);
  return `${sign}${digits.slice(0, point)}${tail === "" ? "" : `.${tail}`}`;
}
