import { IDEAL_OHMS } from "../circuit/index.ts";
import { printQuantity } from "../units/index.ts";
import type { Combined, Paper, Step, Transformed } from "./steps.ts";

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

/** The same with every figure rounded that is written down on the way, in a school's way of writing it. */
export function parallelOnPaper(ohms: readonly number[], { round, school, shortcut }: Paper): number {
  if (shortcut && areEqual(ohms)) return round(ohms[0] / ohms.length);
  if (school === "product") return ohms.slice(1).reduce((sofar, r) => round((sofar * r) / (sofar + r)), ohms[0]);
  return round(1 / sumOfReciprocals(ohms, round));
}

function sumOfReciprocals(ohms: readonly number[], round: Paper["round"]): number {
  return round(ohms.reduce((sum, r) => sum + round(1 / r), 0));
}

function areEqual([first, ...others]: readonly number[]): boolean {
  return others.every((r) => Math.abs(r - first) <= 1e-9 * first);
}

/** The sum of a step as one writes it, a line each; figures are shown to so many digits. */
export function sumOf(step: Step, paper: Paper, digits = 4): string[] {
  if (!("result" in step)) return starDeltaLines(step, digits);
  const { kind, parts, result } = step;
  // What an ideal contact has is as good as nothing.
  const ohm = (value: number) => printQuantity(value <= IDEAL_OHMS ? 0 : Number(value.toPrecision(digits)), "ohm");
  const names = parts.map((p) => p.name);
  const ohms = parts.map((p) => p.ohms);
  if (kind === "series")
    return [`${result.name} = ${names.join(" + ")}`, `= ${ohms.map(ohm).join(" + ")} = ${ohm(result.ohms)}`];
  const [first] = parts;
  if (paper.shortcut && areEqual(ohms))
    return [
      `${result.name} = ${first.name} ÷ ${parts.length}`,
      `= ${ohm(first.ohms)} ÷ ${parts.length} = ${ohm(result.ohms)}`,
    ];
  const { school } = paper;
  const sum = sumOfReciprocals(ohms, paper.round);
  const inSiemens = `= ${ohms.map((r) => siemens(1 / r, digits)).join(" + ")} = ${siemens(sum, digits)}`;
  switch (school) {
    case "reciprocals":
      return [
        `1/${result.name} = ${names.map((n) => `1/${n}`).join(" + ")}`,
        `= ${ohms.map((r) => decimals(1 / r, digits)).join(" + ")} = ${decimals(sum, digits)} (${siemens(sum, digits)})`,
        `${result.name} = 1 ÷ ${decimals(sum, digits)} = ${ohm(result.ohms)}`,
      ];
    case "conductances":
      return [
        `G = ${names.map((n) => `G(${n})`).join(" + ")}`,
        inSiemens,
        `${result.name} = 1/G = ${ohm(result.ohms)}`,
      ];
    case "product":
      return productLines(parts, result.name, ohm, paper.round);
    default:
      return school satisfies never;
  }
}

/** Triangle to star: two sides over the sum of all three; star to triangle: the products of the arms over the arm across. */
function starDeltaLines({ kind, parts, made }: Transformed, digits: number): string[] {
  const print = (value: number) => printQuantity(Number(value.toPrecision(digits)), "ohm");
  const own = parts.map((p) => p.ohms);
  const after = (n: number, by: number) => parts[(n + by) % 3];
  if (kind === "star") {
    const sum = print(seriesOf(own));
    return [
      `sum = ${parts.map((p) => p.name).join(" + ")} = ${own.map(print).join(" + ")} = ${sum}`,
      ...made.map(
        ({ name, ohms }, n) =>
          `${name} = ${after(n, 1).name} × ${after(n, 2).name} ÷ sum = ${print(after(n, 1).ohms)} × ${print(after(n, 2).ohms)} ÷ ${sum} = ${print(ohms)}`,
      ),
    ];
  }
  const products = own.reduce((sum, arm, n) => sum + arm * own[(n + 1) % 3], 0);
  const square = `${Number(products.toPrecision(digits))} Ω²`;
  return [
    `N = ${parts.map((p, n) => `${p.name} × ${after(n, 1).name}`).join(" + ")} = ${square}`,
    ...made.map(
      ({ name, ohms }, n) => `${name} = N ÷ ${parts[n].name} = ${square} ÷ ${print(own[n])} = ${print(ohms)}`,
    ),
  ];
}

/** Two at a time: (a × b) ÷ (a + b). */
function productLines(
  parts: Combined["parts"],
  name: string,
  ohm: (value: number) => string,
  round: Paper["round"],
): string[] {
  let sofar = parts[0].ohms;
  let label = parts[0].name;
  return parts.slice(1).map((part, i) => {
    const next = round((sofar * part.ohms) / (sofar + part.ohms));
    const isLast = i === parts.length - 2;
    const line = `${isLast ? name : `${label} with ${part.name}`}: (${ohm(sofar)} × ${ohm(part.ohms)}) ÷ (${ohm(sofar)} + ${ohm(part.ohms)}) = ${ohm(next)}`;
    sofar = next;
    label = `${label}, ${part.name}`;
    return line;
  });
}

/** A reciprocal as a plain decimal: 0.003704. */
function decimals(value: number, digits: number): string {
  if (!Number.isFinite(value) || value === 0) return String(value);
  const places = Math.max(0, digits - 1 - Math.floor(Math.log10(Math.abs(value)) + 1e-12));
  return value.toFixed(Math.min(places, 20));
}

function siemens(value: number, digits: number): string {
  return printQuantity(value, "A", { digits }).replace(/A$/, "S");
}
