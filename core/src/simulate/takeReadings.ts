import { type Network, scaledLaw } from "../circuit/index.ts";
import { type FaultAt, faultedNetwork } from "../faults/index.ts";
import { buildProbes, limitOf, type NodePair, type Probe } from "../measure/index.ts";
import type { MeterData, NumericReading } from "../record/index.ts";
import { drawFactorsInto } from "./drawFactors.ts";
import type { Random } from "./random.ts";

export interface BenchOptions {
  readonly meter: MeterData;
  readonly bridges: readonly NodePair[];
  /** Probability that a reading is mis-taken. */
  readonly blunder: number;
  /** Counts of the display. */
  readonly counts: number;
}

export type Slipped = "sign" | "kilo" | "milli" | "zero" | "other" | null;

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
  const actual = drawTolerances(network, random);
  const faulted = faultedNetwork(actual, options.bridges, faults);
  const set = buildProbes(faulted.network, points, { meter: options.meter, faults: faulted.faults });
  if (set.kind !== "probes") return null;
  return set.probes.map((probe) => display(probe, options, random));
}

/** Every part somewhere within its tolerance: nominal·(1 + (t/2)·z). */
export function drawTolerances(network: Network, random: Random): Network {
  const factors = new Float64Array(network.branches.length);
  drawFactorsInto(network, random, 0.05, factors);
  return { ...network, branches: network.branches.map((b, k) => ({ ...b, law: scaledLaw(b.law, factors[k]) })) };
}

function display({ reading: point, y, range }: Probe, options: BenchOptions, random: Random): TakenReading {
  if (point.quantity === "resistance" && y > options.meter.topOhms) {
    return { reading: { ...point, value: options.meter.topOhms, beyond: "over" }, slip: null };
  }
  const lowest = options.meter.ranges[point.quantity][0].span;
  const step = 10 ** Math.ceil(Math.log10(Math.max(Math.abs(y), lowest) / options.counts));
  const limit = limitOf({ ...point, value: y, step }, options.meter, range);
  const shown = round(y + (limit / 2) * random.normal(), step);
  const reading = { ...point, value: shown, plusMinus: Number(limit.toPrecision(3)) };
  if (random.next() >= options.blunder) return { reading, slip: null };
  return slipped(reading, step, random);
}

function slipped(reading: NumericReading, step: number, random: Random): TakenReading {
  const u = random.next();
  const slip: Slipped = u < 0.4 ? "sign" : u < 0.55 ? "kilo" : u < 0.7 ? "milli" : u < 0.9 ? "zero" : "other";
  const factor = { sign: -1, kilo: 1000, milli: 1 / 1000, zero: 0, other: 3 * random.next() - 1.5 }[slip];
  return { reading: { ...reading, value: round(reading.value * factor, slip === "milli" ? step / 1000 : step) }, slip };
}

function round(value: number, step: number): number {
  return Number((Math.round(value / step) * step).toPrecision(12)) || 0;
}
