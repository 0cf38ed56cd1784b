import { IDEAL_OHMS } from "../circuit/index.ts";
import { printQuantity } from "../units/index.ts";
import type { Step } from "./steps.ts";

/** How parallel resistances are written: the main schools. */
export const SUMS = {
  reciprocals: "reciprocal sum",
  product: "product over sum",
  conductances: "conductances",
} as const;
export type School = keyof typeof SUMS;

/** Series of resistances; ohms. */
export function seriesOf(ohms: readonly number[]): number {
  return ohms.reduce((sum, r) => sum + r, 0);
}

/** Resistances in parallel: 1/R = Σ 1/Rₖ; ohms. */
export function parallelOf(ohms: readonly number[]): number {
  return 1 / ohms.reduce((sum, r) => sum + 1 / r, 0);
}

/**
 * The sum of a step as one writes it, a line each.
 * @param shortcut equal values in parallel as R ÷ n
 */
export function sumOf({ kind, parts, result }: Step, school: School, shortcut: boolean, digits = 4): string[] {
  // What an ideal contact has is as good as nothing.
  const ohm = (value: number) => printQuantity(value <= IDEAL_OHMS ? 0 : Number(value.toPrecision(digits)), "ohm");
  const names = parts.map((p) => p.name);
  if (kind === "series")
    return [
      `${result.name} = ${names.join(" + ")}`,
      `= ${parts.map((p) => ohm(p.ohms)).join(" + ")} = ${ohm(result.ohms)}`,
    ];
  const [first] = parts;
  if (shortcut && parts.every((p) => Math.abs(p.ohms - first.ohms) <= 1e-9 * first.ohms))
    return [
      `${result.name} = ${first.name} ÷ ${parts.length}`,
      `= ${ohm(first.ohms)} ÷ ${parts.length} = ${ohm(result.ohms)}`,
    ];
  switch (school) {
    case "reciprocals":
      return [
        `1/${result.name} = ${names.map((n) => `1/${n}`).join(" + ")}`,
        `= ${parts.map((p) => siemens(1 / p.ohms, digits)).join(" + ")} = ${siemens(1 / result.ohms, digits)}`,
        `${result.name} = ${ohm(result.ohms)}`,
      ];
    case "conductances":
      return [
        `G = ${names.map((n) => `G(${n})`).join(" + ")}`,
        `= ${parts.map((p) => siemens(1 / p.ohms, digits)).join(" + ")} = ${siemens(1 / result.ohms, digits)}`,
        `${result.name} = 1/G = ${ohm(result.ohms)}`,
      ];
    case "product":
      return productLines(parts, result.name, ohm);
    default:
      return school satisfies never;
  }
}

/** Two at a time: (a × b) ÷ (a + b). */
function productLines(parts: Step["parts"], name: string, ohm: (value: number) => string): string[] {
  let sofar = parts[0].ohms;
  let label = parts[0].name;
  return parts.slice(1).map((part, i) => {
    const next = parallelOf([sofar, part.ohms]);
    const isLast = i === parts.length - 2;
    const line = `${isLast ? name : `${label} with ${part.name}`}: (${ohm(sofar)} × ${ohm(part.ohms)}) ÷ (${ohm(sofar)} + ${ohm(part.ohms)}) = ${ohm(next)}`;
    sofar = next;
    label = `${label}, ${part.name}`;
    return line;
  });
}

function siemens(value: number, digits: number): string {
  return printQuantity(Number(value.toPrecision(digits)), "A").replace(/A$/, "S");
}
