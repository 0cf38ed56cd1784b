import { type Branch, DRAWN, type Network, pieceOf } from "../circuit/index.ts";
import type { Configuration } from "../configuration/index.ts";
import { type FaultAt, faultedNetwork } from "../faults/index.ts";
import type { Random } from "../kernels/index.ts";
import { buildProbes, limitOf, type NodePair, overLimit, type Probe, rangeName, rangeOf } from "../measure/index.ts";
import type { Slip } from "../rank/index.ts";
import type { MeterData, NumericReading } from "../record/index.ts";
import { drawFactorsInto } from "./drawFactors.ts";

/** No part is drawn smaller than this share of its nominal value. */
const LEAST_FACTOR = 0.05;

export interface BenchOptions {
  readonly meter: MeterData;
  readonly bridges: readonly NodePair[];
  /** Probability that a reading is mis-taken. */
  readonly blunder: number;
  /** Counts of the display. */
  readonly counts: number;
}

export type Slipped = Exclude<Slip, "exchanged"> | null;

export interface TakenReading {
  readonly reading: NumericReading;
  /** How it was mis-taken, or null. */
  readonly slip: Slipped;
}

/**
 * Takes readings on a circuit with the given faults: parts drawn within tolerance, the meter loading the circuit, its
 * error normal with the accuracy limit as two standard deviations, the display rounded, slips now and then.
 * @param points readings whose value does not matter
 * @returns null where the faulted network cannot be solved
 */
export function takeReadings(
  network: Network,
  faults: readonly FaultAt[],
  points: readonly NumericReading[],
  options: BenchOptions,
  random: Random,
): TakenReading[] | null {
  return takeOn(drawTolerances(network, random), faults, points, options, random)?.readings ?? null;
}

/**
 * The same on a bench whose parts were drawn already (`drawTolerances`).
 * @returns the readings, and the bench with the pieces that states brought in; null where it cannot be solved
 */
export function takeOn(
  bench: Network,
  faults: readonly FaultAt[],
  points: readonly NumericReading[],
  options: BenchOptions,
  random: Random,
): { readonly readings: TakenReading[]; readonly network: Network } | null {
  const states = points.flatMap((p) => (p.state ? [p.state] : []));
  const actual = drawPieces(bench, states, random);
  const faulted = faultedNetwork(actual, options.bridges, faults);
  const set = buildProbes(faulted.network, points, { meter: options.meter, faults: faulted.faults });
  if (set.kind !== "probes") return null;
  return { readings: set.probes.map((probe) => display(probe, options, random)), network: actual };
}

/** Every part somewhere within its tolerance: nominal·(1 + (t/2)·z). */
export function drawTolerances(network: Network, random: Random): Network {
  const factors = new Float64Array(network.branches.length);
  drawFactorsInto(network, random, LEAST_FACTOR, factors);
  const branches = network.branches.map((b, k) => ({ ...b, deviations: new Map([[DRAWN, factors[k]]]) }));
  return { ...network, branches };
}

/** The same with a deviation for every new piece that a state brings in and that has none yet. */
export function drawPieces(network: Network, states: readonly Configuration[], random: Random): Network {
  let { branches } = network;
  for (const state of states) {
    const isNew = ({ part, deviations }: Branch) =>
      deviations !== undefined && !deviations.has(pieceOf(part.designator, state));
    const own = branches.filter(isNew);
    if (own.length === 0) continue;
    const factors = new Float64Array(own.length);
    drawFactorsInto({ ...network, branches: own }, random, LEAST_FACTOR, factors);
    branches = branches.map((b) => {
      const k = own.indexOf(b);
      if (k < 0) return b;
      return { ...b, deviations: new Map([...(b.deviations ?? []), [pieceOf(b.part.designator, state), factors[k]]]) };
    });
  }
  return { ...network, branches };
}

function display({ reading: point, y, range }: Probe, options: BenchOptions, random: Random): TakenReading {
  const top = overLimit(point, options.meter);
  if (y > top) return { reading: { ...point, value: top, beyond: "over" }, slip: null };
  const lowest = options.meter.ranges[point.quantity][0].span;
  const step = 10 ** Math.ceil(Math.log10(Math.max(Math.abs(y), lowest) / options.counts));
  const limit = limitOf({ ...point, value: y, step }, options.meter, range);
  const shown = round(y + (limit / 2) * random.normal(), step);
  const figure: NumericReading = { ...point, value: shown, plusMinus: Number(limit.toPrecision(3)) };
  // How the meter loaded the circuit goes by its range, which the figure by itself does not always tell.
  const isTold = rangeOf(figure, options.meter).span === range.span;
  const reading = isTold ? figure : { ...figure, range: rangeName(range.span, point.quantity) };
  if (random.next() >= options.blunder) return { reading, slip: null };
  return slipped(reading, step, random);
}

/** Slips in the shares of the model, one after the other. */
const SHARES: readonly (readonly [NonNullable<Slipped>, number])[] = [
  ["sign", 0.4],
  ["kilo", 0.1],
  ["milli", 0.1],
  ["ten", 0.05],
  ["tenth", 0.05],
  ["zero", 0.2],
  ["other", 0.1],
];

function slipped(reading: NumericReading, step: number, random: Random): TakenReading {
  const u = random.next();
  let slip: NonNullable<Slipped> = "other";
  for (let i = SHARES.length - 1, above = 1; i >= 0; i -= 1) {
    above -= SHARES[i][1];
    if (u < above + SHARES[i][1] + 1e-12) [slip] = SHARES[i];
  }
  const other = slip === "other" ? 3 * random.next() - 1.5 : 0;
  const factor = { sign: -1, kilo: 1000, milli: 1 / 1000, ten: 10, tenth: 0.1, zero: 0, other }[slip];
  // A thousandth, or a tenth, keeps as many digits as were on the display.
  const digit = slip === "milli" || slip === "tenth" ? step * factor : step;
  return { reading: { ...reading, value: round(reading.value * factor, digit) }, slip };
}

function round(value: number, step: number): number {
  return Number((Math.round(value / step) * step).toPrecision(12)) || 0;
}
