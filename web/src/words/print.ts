import { type DecimalMark, type PrintOptions, printQuantity, printWithLimits, type Unit } from "@hound/core/units";

let decimal: DecimalMark = ".";

/** The decimal sign that the workshop has agreed on. */
export const currentDecimal = () => decimal;

/** The decimal sign of everything printed from now on; the pages are drawn anew when it changes. */
export function setDecimal(mark: DecimalMark) {
  decimal = mark;
}

/** A quantity for people, with the decimal sign that the workshop has agreed on. */
export function print(value: number, unit: Unit, options: PrintOptions = {}): string {
  return printQuantity(value, unit, { decimal, ...options });
}

/** A bare number in the same manner. */
export function printNumber(value: number, digits = 4): string {
  return String(Number(value.toPrecision(digits)))
    .replace("-", "−")
    .replace(".", decimal);
}

/** With so many decimals. */
export function printFixed(value: number, decimals: number): string {
  return value.toFixed(decimals).replace("-", "−").replace(".", decimal);
}

/** Value and limits with one prefix and as many decimals. */
export function printLimits(value: number, plusMinus: number, unit: Unit, hidesLimits = false): string {
  return printWithLimits(value, plusMinus, unit, { decimal, hidesLimits });
}

/** A whole number; thousands stand apart by a space, which nobody takes for a decimal sign. */
export function printCount(value: number): string {
  return String(Math.round(value)).replace(/\B(?=(\d{3})+$)/g, "\u00a0");
}

/** `1 part`, `3 parts`. */
export function count(value: number, thing: string): string {
  return `${printCount(value)} ${thing}${value === 1 ? "" : "s"}`;
}

/** A sentence from elsewhere with its numbers in the decimal sign agreed on. */
export function inWords(text: string): string {
  return decimal === "." ? text : text.replace(/(\d)\.(?=\d)/g, `$1${decimal}`);
}
