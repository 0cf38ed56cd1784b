import { bends, type Network } from "../circuit/index.ts";
import { type Combined, type Reduction, seriesOf } from "../reduce/index.ts";
import type { Solution } from "../solve/index.ts";
import { parseQuantity, type Unit } from "../units/index.ts";

/** What a figure on paper is of. */
export const ASKED = ["volts", "amps", "ohms", "watts"] as const;
export type Asked = (typeof ASKED)[number];
export const UNIT_ASKED: Readonly<Record<Asked, Unit>> = { volts: "V", amps: "A", ohms: "ohm", watts: "W" };

/** Something on the sheet that has figures: a part, what a reduction made of several, the whole, a node. */
export interface Place {
  readonly name: string;
  readonly kind: "part" | "source" | "composite" | "total" | "node";
  /** What it truly has; SI units, amounts with the sign of its own direction, a source's current out of its plus. */
  readonly truth: Readonly<Partial<Record<Asked, number>>>;
  /** Names of what it is made of, where it is a composite. */
  readonly parts: readonly string[];
  readonly combined?: Combined["kind"];
}

/** A person's own figure: which, as typed, and what that says. */
export interface Claim {
  readonly place: string;
  readonly of: Asked;
  readonly typed: string;
  readonly value: number;
  /** Weight of the last digit typed. */
  readonly step: number;
  /** Whether a sign was written. */
  readonly isSigned: boolean;
}

export type ReadClaim =
  | { readonly kind: "claim"; readonly claim: Claim }
  | { readonly kind: "mistake"; readonly why: string };

/** A figure as typed into a cell: with a unit or without, whatever the prefix. */
export function readClaim(place: string, of: Asked, typed: string): ReadClaim {
  const read = parseQuantity(typed);
  if (read.kind === "mistake") return { kind: "mistake", why: read.why };
  const unit = UNIT_ASKED[of];
  if (read.unit !== null && read.unit !== unit) return { kind: "mistake", why: `${read.unit} where ${unit} belong` };
  const isSigned = /^\s*[-+−]/.test(typed);
  return { kind: "claim", claim: { place, of, typed: typed.trim(), value: read.value, step: read.step, isSigned } };
}

/** All places of a circuit with what they truly have. @param ohms of each branch at its working point */
export function placesOf(network: Network, solution: Solution, reduction: Reduction): Place[] {
  if (solution.kind !== "solved") return [];
  const { volts, amps, point } = solution;
  const across = (from: number, to: number) => volts[from] - volts[to];
  const parts = network.branches.map(({ name, from, to, law }, k): Place => {
    const isSource = law.kind === "supply";
    const v = across(from, to);
    const i = (isSource ? -1 : 1) * amps[k];
    const ohms = law.kind === "open" ? {} : { ohms: point.ohms[k] };
    return {
      name,
      kind: isSource ? "source" : "part",
      truth: { volts: v, amps: i, ...(isSource ? {} : ohms), watts: Math.abs(v * i) },
      parts: [],
    };
  });
  const composites = reduction.steps.flatMap((step): Place[] => {
    if (!("result" in step)) return [];
    const { name, from, to, ohms } = step.result;
    const v = from < network.nodes.length && to < network.nodes.length ? across(from, to) : Number.NaN;
    const truth = Number.isFinite(v) ? { volts: v, amps: v / ohms, ohms, watts: (v * v) / ohms } : { ohms };
    return [{ name, kind: "composite", truth, parts: step.parts.map((p) => p.name), combined: step.kind }];
  });
  const source = parts[reduction.source];
  const isOne = network.branches.filter((b) => b.law.kind === "supply").length === 1;
  const whole: Place[] =
    source && isOne && reduction.stops === null
      ? [
          {
            name: "Total",
            kind: "total",
            truth: {
              volts: Math.abs(source.truth.volts ?? 0),
              amps: Math.abs(source.truth.amps ?? 0),
              ohms: reduction.left[0].ohms,
              watts: seriesOf(parts.flatMap((p) => (p.kind === "part" ? [p.truth.watts ?? 0] : []))),
            },
            parts: [],
          },
        ]
      : [];
  const nodes = network.nodes.flatMap((name, n): Place[] =>
    n === network.reference || name.endsWith(".tap") || !Number.isFinite(volts[n])
      ? []
      : [{ name: `at ${name}`, kind: "node", truth: { volts: volts[n] }, parts: [] }],
  );
  return [...parts, ...composites, ...whole, ...nodes];
}

/** Two nodes by their names, as a place: `A to D`; null where one of them is not there. */
export function placeBetween(name: string, network: Network, solution: Solution): Place | null {
  const [from, to] = name.split(" to ").map((n) => network.nodes.indexOf(n as (typeof network.nodes)[number]));
  if (solution.kind !== "solved" || !(from >= 0) || !(to >= 0) || from === to) return null;
  return { name, kind: "node", truth: { volts: solution.volts[from] - solution.volts[to] }, parts: [] };
}

/** Ohms that stand on the drawing: nobody works those out. */
export function isDrawn(network: Network, { name, kind }: Place, of: Asked): boolean {
  const branch = network.branches.find((b) => b.name === name);
  return of === "ohms" && kind === "part" && branch !== undefined && !bends(branch.law);
}

/** How near two figures are the same as a person writes them: half the last digit. */
export function isSameAs(claim: Claim, value: number): boolean {
  const own = claim.isSigned ? claim.value : Math.abs(claim.value);
  const other = claim.isSigned ? value : Math.abs(value);
  return Math.abs(own - other) <= claim.step * 0.5 * (1 + 1e-9) + 1e-12 * Math.abs(other);
}

/** Relative difference that rounding on the way leaves, at most, of figures with so many digits. */
const ROUNDED = 0.01;

/** … and so near as rounded figures that were carried on may come. */
export function isNearTo(claim: Claim, value: number): boolean {
  const own = claim.isSigned ? claim.value : Math.abs(claim.value);
  const other = claim.isSigned ? value : Math.abs(value);
  return Math.abs(own - other) <= Math.max(claim.step * 1.5, ROUNDED * Math.abs(other));
}
