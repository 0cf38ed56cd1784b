import type { Branch, Mode, NodeName } from "../../circuit/index.ts";
import type { Site } from "../../faults/index.ts";
import type { NumericReading } from "../../record/index.ts";
import type { Detail, Integrated } from "../evidence/integrator.ts";
import { SLIP_COUNT, SLIPS, type Slip } from "../evidence/slips.ts";
import { type Cell, centreOf, faultsAt, unknownsOf } from "../hypotheses/cells.ts";
import type { Prepared } from "../prepare.ts";
import type { Drawn } from "./drawn.ts";
import type { Reach } from "./reach.ts";

/** A fault of a suspect. `value` is the part's resulting ohms (volts of a supply, ohms inside a weak one), with its middle 80 %. */
export type SuspectFault =
  | {
      readonly part: string;
      readonly mode: Mode;
      readonly value?: number;
      readonly low?: number;
      readonly high?: number;
      /** A resistor that is so many times its value, a power of ten: a wrong one fitted, its multiplier band misread. */
      readonly decade?: number;
      /** Of a misplaced lead: the node where it belongs, and where it is. */
      readonly belongs?: NodeName;
      readonly at?: NodeName;
    }
  | { readonly nodes: readonly [NodeName, NodeName]; readonly mode: "bridged" };

/** What a suspect says a reading should be, with two standard deviations either side (tolerances, its value's spread, meter). */
export interface Prediction {
  readonly value: number;
  readonly plusMinus: number;
  /** With every part at the edge of its tolerance that moves it most the same way, to first order. */
  readonly worst?: number;
  /** Where it hangs on a value that is not known: between what it lies; `value` is no more than a middle. */
  readonly reach?: Reach;
  /** Where something bends sharply within tolerance: its limits, which no line tells. */
  readonly drawn?: Drawn;
}

/** A meter that reads false on one function: what it shows over what is there, with its middle 80 %. */
export interface MeterSuspect {
  readonly quantity: NumericReading["quantity"];
  /** Its name; "" for the one in hand. */
  readonly meter: string;
  readonly value: number;
  readonly low: number;
  readonly high: number;
}

export interface ReadingVerdict {
  /** Place among all readings given. */
  readonly index: number;
  readonly blunderProbability: number;
  /** The likeliest way it was mis-taken; `look`: what was seen was not so. */
  readonly slip: Slip | "look";
}

/** The middle 80 % and the median of an unknown; for a suspect that hardly counts, its heaviest cell. */
function middleOf(cells: readonly Cell[], axis: number, isListed: boolean): number[] {
  if (isListed) return quantiles(cells, axis, [0.1, 0.5, 0.9]);
  const { lo, hi } = cells.reduce((best, c) => (c.logMass > best.logMass ? c : best), cells[0]);
  return [lo[axis], (lo[axis] + hi[axis]) / 2, hi[axis]];
}

/** Faults in words' reach: names instead of numbers, values in units. */
export function faultsOf({ set }: Prepared, result: Integrated, isListed = true): SuspectFault[] {
  let axis = 0;
  return result.hypothesis.sites.map((site): SuspectFault => {
    if (site.branch < 0) {
      const [a, b] = set.bridges[site.bridge];
      return { nodes: [set.network.nodes[a], set.network.nodes[b]], mode: "bridged" };
    }
    const part = set.network.branches[site.branch].name;
    const mode = site.mode === "wiperOpen" ? "open" : site.mode;
    if (site.moved) {
      axis += 1;
      const { belongs, at } = site.moved;
      return { part, mode, belongs: set.network.nodes[belongs], at: set.network.nodes[at] };
    }
    if (!site.value) return { part, mode };
    const [one, value, other] = middleOf(result.cells, axis++, isListed).map(site.value);
    const [low, high] = [Math.min(one, other), Math.max(one, other)];
    const decade = decadeOf(set.network.branches[site.branch], low, high);
    return { part, mode, value, low, high, ...(decade === null ? {} : { decade }) };
  });
}

/** The meter of a suspect that has one. */
export function meterOf({ hypothesis, cells }: Integrated): MeterSuspect | undefined {
  const { meter } = hypothesis;
  if (!meter) return undefined;
  const axis = cells[0].lo.length - 1;
  const [one, value, other] = quantiles(cells, axis, [0.1, 0.5, 0.9]).map(meter.factor);
  const { quantity } = meter;
  return { quantity, meter: meter.meter, value, low: Math.min(one, other), high: Math.max(one, other) };
}

/** An estimate this narrow (high over low) can be told for a power of ten. */
const NARROW = 1.6;

/** The power of ten by which a resistor is off, where its estimate is narrow and holds one; null otherwise. */
function decadeOf({ kind, law, part }: Branch, low: number, high: number): number | null {
  if (kind !== "resistor" || law.kind !== "resistance" || high > NARROW * low) return null;
  const power = Math.round(Math.log10(Math.sqrt(low * high) / law.ohms));
  const near = law.ohms * 10 ** power;
  return power !== 0 && low <= near * (1 + part.tolerance) && high >= near * (1 - part.tolerance) ? 10 ** power : null;
}

/** A site as suspects are named: `R3 open`, `B~D bridged`, `R3 misplaced B A`. */
export function nameOfSite({ set }: Prepared, { branch, bridge, mode, moved }: Site): string {
  const { nodes, branches } = set.network;
  if (branch < 0) return `${set.bridges[bridge].map((n) => nodes[n]).join("~")} bridged`;
  const name = `${branches[branch].name} ${mode === "wiperOpen" ? "open" : mode}`;
  return moved ? `${name} ${nodes[moved.belongs]} ${nodes[moved.at]}` : name;
}

/** Predictions for every numeric reading, in the order the readings were given. */
export function predictionsOf({ integrator, set, members, numericCount }: Prepared, result: Integrated): Prediction[] {
  return integrator
    .predictionsOf(result)
    .slice(0, numericCount)
    .flatMap(({ mean, variance }, i) => {
      // Of a mean each reading has its own error, which is larger.
      const own = set.probes[i].error.own ** 2 * members[i].length;
      return members[i].map((index) => ({ index, value: mean, plusMinus: 2 * Math.sqrt(variance + own) }));
    })
    .sort((a, b) => a.index - b.index)
    .map(({ index: _, ...prediction }) => prediction);
}

/**
 * Values of one unknown (as shares of its prior) below which the given parts of the mass lie. Within a stretch the
 * density is taken to run straight, with the slope that its neighbours allow (van Leer's harmonic mean, so that it stays
 * positive): evenly spread, it would blur every interval by the width of its cells.
 */
export function quantiles(cells: readonly Cell[], axis: number, at: readonly number[]): number[] {
  const top = Math.max(...cells.map((c) => c.logMass));
  const parts = cells
    .map((c) => ({ lo: c.lo[axis], hi: c.hi[axis], mass: Math.exp(c.logMass - top) }))
    .filter((p) => p.mass > 1e-12)
    .sort((a, b) => a.lo - b.lo);
  const edges = [...new Set(parts.flatMap((p) => [p.lo, p.hi]))].sort((a, b) => a - b);
  const total = parts.reduce((sum, p) => sum + p.mass, 0);
  const below = (t: number) =>
    parts.reduce((sum, p) => sum + p.mass * Math.min(1, Math.max(0, (t - p.lo) / (p.hi - p.lo))), 0) / total;
  const cumulative = edges.map(below);
  const widthOf = (k: number) => edges[k] - edges[k - 1];
  const densityOf = (k: number) => (cumulative[k] - cumulative[k - 1]) / widthOf(k);
  const slopeTo = (k: number) => (densityOf(k) - densityOf(k - 1)) / ((widthOf(k) + widthOf(k - 1)) / 2);
  return at.map((share) => {
    const found = cumulative.findIndex((c) => c >= share);
    const k = found < 0 ? edges.length - 1 : Math.max(1, found);
    const mass = cumulative[k] - cumulative[k - 1];
    const inside = mass > 0 ? (share - cumulative[k - 1]) / mass : 0.5;
    const isInner = k > 1 && k < edges.length - 1;
    const tilt = isInner && mass > 0 ? (harmonic(slopeTo(k), slopeTo(k + 1)) * widthOf(k)) / densityOf(k) : 0;
    return edges[k - 1] + placeIn(inside, tilt) * widthOf(k);
  });
}

/** The harmonic mean of two slopes; nothing where they disagree in sign. */
function harmonic(a: number, b: number): number {
  return a * b > 0 ? (2 * a * b) / (a + b) : 0;
}

/** Where in [0, 1] a density 1 + tilt·(u − ½) has the given share of its mass below: a root of the quadratic. */
function placeIn(share: number, tilt: number): number {
  const slope = Math.min(2, Math.max(-2, tilt)) / 2;
  if (Math.abs(slope) < 1e-9) return share;
  const start = 1 - slope;
  return (Math.sqrt(start * start + 4 * slope * share) - start) / (2 * slope);
}

/** The faults of a result at the median of its values. */
export function medianFaults(result: Integrated) {
  const { sites } = result.hypothesis;
  const at =
    unknownsOf(sites) === 1
      ? quantiles(result.cells, 0, [0.5])
      : centreOf(result.cells.reduce((best, c) => (c.logMass > best.logMass ? c : best), result.cells[0]));
  return faultsAt(sites, at);
}

/** Probability, over all hypotheses, that each reading was mis-taken, and how; in the order they were given. */
export function verdictsOf(
  { evidence, members, lookPlaces }: Prepared,
  weighed: readonly { readonly probability: number; readonly detail: Detail | null }[],
): ReadingVerdict[] {
  const marginal = new Float64Array(evidence.count * SLIP_COUNT);
  const looks = new Float64Array(lookPlaces.length);
  // The leading hypotheses speak for all.
  const covered = weighed.reduce((s, w) => s + (w.detail ? w.probability : 0), 0) || 1;
  for (const { probability, detail } of weighed) {
    if (!detail) continue;
    const share = probability / covered;
    for (let i = 0; i < marginal.length; i += 1) marginal[i] += share * detail.slips[i];
    for (let i = 0; i < looks.length; i += 1) looks[i] += share * detail.looks[i];
  }
  const numeric = Array.from({ length: evidence.count }, (_, place): ReadingVerdict[] => {
    const slips = [...marginal.subarray(place * SLIP_COUNT, (place + 1) * SLIP_COUNT)];
    const sum = slips.reduce((s, p) => s + p, 0);
    const slip = SLIPS[slips.indexOf(Math.max(...slips))];
    return members[place].map((index) => ({ index, blunderProbability: Math.min(1, sum), slip }));
  });
  const seen = lookPlaces.map(
    (index, i): ReadingVerdict => ({ index, blunderProbability: Math.min(1, looks[i]), slip: "look" }),
  );
  return [...numeric.flat(), ...seen].sort((a, b) => a.index - b.index);
}

/** Probability, over all hypotheses, that nobody took the leads' ohms off the ohms readings. */
export function leadsForgotten(
  weighed: readonly { readonly probability: number; readonly detail: Detail | null }[],
): number {
  const told = weighed.filter((w) => w.detail !== null);
  const covered = told.reduce((s, w) => s + w.probability, 0) || 1;
  return told.reduce((s, { probability, detail }) => s + (probability / covered) * (detail?.leads ?? 0), 0);
}

/** Probability that some reading was mis-taken under a hypothesis; 0 of one that hardly counts. */
export function someMistakenOf({ detail }: { readonly detail: Detail | null }): number {
  return detail ? someMistaken(detail) : 0;
}

/** Probability that some reading was mis-taken, treating the marginals as independent. */
function someMistaken({ slips, looks }: Detail): number {
  let well = looks.reduce((product, p) => product * (1 - Math.min(1, p)), 1);
  for (let i = 0; i < slips.length; i += SLIP_COUNT) {
    let sum = 0;
    for (let k = 0; k < SLIP_COUNT; k += 1) sum += slips[i + k];
    well *= 1 - Math.min(1, sum);
  }
  return 1 - well;
}
