import { type DecimalMark, type PrintOptions, printQuantity, type Unit } from "@hound/core/units";

let decimal: DecimalMark = ".";

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
