import type { Network } from "../circuit/index.ts";
import { loopsOf, nodeEquations } from "../reduce/index.ts";
import type { Solution } from "../solve/index.ts";
import { parseQuantity } from "../units/index.ts";

/** A linear equation between figures of the circuit: Σ factor × symbol + constant = 0. */
export interface Equation {
  readonly terms: readonly { readonly symbol: Symbolic; readonly factor: number }[];
  readonly constant: number;
}

/** `I1`, `V(R2)`, `E`: amperes or volts of a branch. */
export interface Symbolic {
  readonly of: "volts" | "amps" | "emf";
  readonly branch: number;
}

export type ReadEquation =
  | { readonly kind: "equation"; readonly equation: Equation }
  | { readonly kind: "mistake"; readonly why: string };

export type EquationMark =
  | { readonly kind: "holds" }
  /** With one sign turned round it holds. */
  | { readonly kind: "sign"; readonly of: string }
  /** A branch that meets there, or lies in the loop, is missing; or one that does not is in it. */
  | { readonly kind: "missing" | "foreign"; readonly of: string }
  | { readonly kind: "wrong"; readonly residual: number };

/** Reads `I1 = I2 + I3`, `24 - 220*I1 - 470*I2 = 0`, `V1 + V2 = 24`; numbers behind letters are those of the parts. */
export function readEquation(text: string, network: Network): ReadEquation {
  const sides = text.replaceAll("−", "-").replaceAll("×", "*").replaceAll("·", "*").split("=");
  if (sides.length !== 2 || sides.some((s) => s.trim() === ""))
    return { kind: "mistake", why: "an equation has one = with something on both sides" };
  const terms: Equation["terms"][number][] = [];
  let constant = 0;
  for (const [n, side] of sides.entries()) {
    for (const [, sign = "", term] of side.matchAll(/([+-]?)\s*([^+-]+)/g)) {
      const turned = (sign === "-" ? -1 : 1) * (n === 0 ? 1 : -1);
      const read = termOf(term.trim(), network);
      if (typeof read === "string") return { kind: "mistake", why: read };
      if (read.symbol) terms.push({ symbol: read.symbol, factor: turned * read.factor });
      else constant += turned * read.factor;
    }
  }
  if (terms.length === 0)
    return { kind: "mistake", why: "there is no current and no voltage in it, such as I1 or V(R2)" };
  return { kind: "equation", equation: { terms, constant } };
}

function termOf(text: string, network: Network): { symbol: Symbolic | null; factor: number } | string {
  let symbol: Symbolic | null = null;
  let factor = 1;
  for (const piece of text.split("*").map((p) => p.trim())) {
    const found = symbolOf(piece, network);
    if (found) {
      if (symbol) return `${text}: two unknowns multiplied`;
      symbol = found;
      continue;
    }
    const ohms = network.branches.find((b) => b.name.toLowerCase() === piece.toLowerCase());
    if (ohms?.law.kind === "resistance") {
      factor *= ohms.law.ohms;
      continue;
    }
    const read = parseQuantity(piece);
    if (read.kind === "mistake") return `“${piece}” is no figure of this circuit: I1, V(R2), 24 or 4k7`;
    factor *= read.value;
  }
  return { symbol, factor };
}

/** `I1` and `I_R1` are the current of R1, or of the one part with that number. */
function symbolOf(text: string, { branches }: Network): Symbolic | null {
  const [, letter, bare] = /^([IVUE])\s*[_(]?\s*([A-Za-z0-9_.-]*?)\s*\)?$/i.exec(text) ?? [];
  if (letter === undefined) return null;
  const kind = letter.toUpperCase();
  const isSupply = (k: number) => branches[k].law.kind === "supply";
  const all = [...branches.keys()];
  const named = all.filter((k) => branches[k].name.toLowerCase() === bare.toLowerCase());
  const numbered = /^\d+$/.test(bare) ? all.filter((k) => branches[k].name.replace(/^\D+/, "") === bare) : [];
  const wanted = kind === "E" ? numbered.filter(isSupply) : numbered.filter((k) => !isSupply(k));
  const only = bare === "" || /^(t|tot|total|s)$/i.test(bare) ? all.filter(isSupply) : [];
  const found = [named, wanted.length > 0 ? wanted : numbered, only].find((list) => list.length === 1)?.[0];
  if (found === undefined) return null;
  return { of: kind === "I" ? "amps" : kind === "E" ? "emf" : "volts", branch: found };
}

/** A figure as the circuit has it; a source's current out of its plus. */
function figureOf(
  { of, branch }: Symbolic,
  { branches }: Network,
  solution: Extract<Solution, { kind: "solved" }>,
): number {
  const { law, from, to } = branches[branch];
  if (of === "emf") return law.kind === "supply" ? law.volts : 0;
  if (of === "volts") return solution.volts[from] - solution.volts[to];
  return (law.kind === "supply" ? -1 : 1) * solution.amps[branch];
}

/** Relative difference that rounded figures leave in an equation. */
const LEFT = 0.01;

/** Checks an equation against the circuit; directions of unsigned currents are those of the drawing. */
export function markEquation({ terms, constant }: Equation, network: Network, solution: Solution): EquationMark {
  if (solution.kind !== "solved") return { kind: "wrong", residual: Number.NaN };
  const parts = terms.map((t) => ({ ...t, value: t.factor * figureOf(t.symbol, network, solution) }));
  const size = parts.reduce((s, t) => s + Math.abs(t.value), Math.abs(constant));
  const residual = parts.reduce((s, t) => s + t.value, constant);
  const isNothing = (value: number) => Math.abs(value) <= LEFT * 0.5 * size;
  if (isNothing(residual)) return { kind: "holds" };
  const name = (s: Symbolic) => `${{ amps: "I", volts: "V", emf: "E" }[s.of]}(${network.branches[s.branch].name})`;
  const turned = parts.find((t) => isNothing(residual - 2 * t.value));
  if (turned) return { kind: "sign", of: name(turned.symbol) };
  const foreign = parts.length > 2 ? parts.find((t) => isNothing(residual - t.value)) : undefined;
  const missing = missingIn(parts, residual, isNothing, network, solution);
  if (missing !== null) return { kind: "missing", of: name(missing) };
  if (foreign) return { kind: "foreign", of: name(foreign.symbol) };
  return { kind: "wrong", residual };
}

/** A branch at the same junction, or in the same loop, that would make it come out. */
function missingIn(
  parts: readonly { readonly symbol: Symbolic; readonly value: number }[],
  residual: number,
  isNothing: (value: number) => boolean,
  network: Network,
  solution: Extract<Solution, { kind: "solved" }>,
): Symbolic | null {
  const there = new Set(parts.map((t) => t.symbol.branch));
  const groups = [
    ...nodeEquations(network).map(({ terms }) => ({ of: "amps" as const, branches: terms.map((t) => t.branch) })),
    ...loopsOf(network).map((loop) => ({ of: "volts" as const, branches: loop.map((s) => s.branch) })),
  ];
  for (const { of, branches } of groups) {
    const isOwn = parts.filter((t) => branches.includes(t.symbol.branch)).length >= 2;
    if (!isOwn) continue;
    for (const branch of branches) {
      if (there.has(branch)) continue;
      const value = figureOf({ of, branch }, network, solution);
      if (isNothing(residual + value) || isNothing(residual - value)) return { of, branch };
    }
  }
  return null;
}

/** Below this, relative to the largest factor, an equation adds nothing to those before it. */
const DEPENDENT = 1e-9;

/**
 * What several equations together say of their unknowns, by elimination with pivoting; a source's own voltage is known.
 * @returns null where they are too few
 */
export function solveEquations(
  equations: readonly Equation[],
  network: Network,
): readonly { readonly symbol: Symbolic; readonly value: number }[] | null {
  const symbols: Symbolic[] = [];
  const placeOf = (s: Symbolic) => {
    const at = symbols.findIndex((o) => o.of === s.of && o.branch === s.branch);
    return at >= 0 ? at : symbols.push(s) - 1;
  };
  const emfOf = ({ branch }: Symbolic) => {
    const { law } = network.branches[branch];
    return law.kind === "supply" ? law.volts : 0;
  };
  const sparse = equations.map(({ terms, constant }) => {
    const row = new Map<number, number>();
    let known = constant;
    for (const { symbol, factor } of terms) {
      if (symbol.of === "emf") known += factor * emfOf(symbol);
      else row.set(placeOf(symbol), (row.get(placeOf(symbol)) ?? 0) + factor);
    }
    return { row, known };
  });
  const n = symbols.length;
  const rows = sparse.map(({ row, known }) => [...Array.from({ length: n }, (_, k) => row.get(k) ?? 0), -known]);
  const most = Math.max(0, ...rows.flatMap((r) => r.slice(0, n).map(Math.abs)));
  for (let k = 0; k < n; k += 1) {
    const pivot = rows.slice(k).reduce((best, r, i) => (Math.abs(r[k]) > Math.abs(rows[best][k]) ? i + k : best), k);
    if (rows.length <= k || !(Math.abs(rows[pivot][k]) > DEPENDENT * most)) return null;
    [rows[k], rows[pivot]] = [rows[pivot], rows[k]];
    rows.forEach((r, i) => {
      if (i === k) return;
      const times = r[k] / rows[k][k];
      for (let c = k; c <= n; c += 1) r[c] -= times * rows[k][c];
    });
  }
  return n === 0 ? null : symbols.map((symbol, k) => ({ symbol, value: rows[k][n] / rows[k][k] }));
}
