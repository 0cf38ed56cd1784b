import type { Network } from "../circuit/index.ts";
import type { Configuration } from "../configuration/index.ts";
import { type FaultAt, faultedNetwork, priorData, sitesOf } from "../faults/index.ts";
import { buildProbes, limitOf } from "../measure/index.ts";
import { atOnce, measurementsOn, type Steps } from "../plan/index.ts";
import { isSamePlace, isVolts, type MeterData, type NumericReading, takenSo } from "../record/index.ts";

/** What may be read at a point with one fault at most, whatever it is: the least and the most, in the reading's unit. */
export interface PointReach {
  readonly point: NumericReading;
  readonly low: number;
  readonly high: number;
}

/** Parts off their values by as much as a tolerance widen what one fault can do by about this share. */
const SLACK = 0.15;
/** Ends of what a fault's value may be, as shares of its prior. */
const ENDS = [0, 1] as const;

/**
 * What healthy and every single fault at the ends of its values give at every point on offer. A reading in a linear network
 * is a ratio of two lines in any one resistance or voltage, so what lies between the ends is between those readings.
 */
export function* reachSteps(network: Network, standing: Configuration, meter: MeterData): Steps<PointReach[]> {
  const points = measurementsOn(network).flatMap((m) => ("reading" in m ? [takenSo(m.reading, standing)] : []));
  const low = points.map(() => Number.POSITIVE_INFINITY);
  const high = points.map(() => Number.NEGATIVE_INFINITY);
  for (const faults of oneAtMost(network, standing)) {
    const faulted = faultedNetwork(network, [], faults);
    const set = buildProbes(faulted.network, points, { meter, faults: faulted.faults, couplings: false });
    if (set.kind === "probes")
      for (const [i, { y }] of set.probes.entries()) {
        low[i] = Math.min(low[i], y);
        high[i] = Math.max(high[i], y);
      }
    yield;
  }
  return points.flatMap((point, i) => (low[i] <= high[i] ? [{ point, low: low[i], high: high[i] }] : []));
}

/** The same at once. */
export function reachesOf(...given: Parameters<typeof reachSteps>): PointReach[] {
  return atOnce(reachSteps(...given));
}

function* oneAtMost(network: Network, standing: Configuration): Generator<FaultAt[]> {
  yield [];
  for (const site of sitesOf(network, [], priorData(), { states: [standing] }))
    for (const end of site.value ? ENDS : [0]) yield [{ site, value: site.value?.(end) ?? 0 }];
}

/**
 * What may be read where a reading was taken, turned round as its leads are; null where that is not known, or where what
 * was read may be.
 * @param reference of the circuit: a point without another is against it
 */
export function missedReach(
  reaches: readonly PointReach[],
  reading: NumericReading,
  reference: string,
  meter: MeterData,
): PointReach | null {
  if (reading.beyond !== undefined || reading.by !== undefined) return null;
  const found = reaches.find(({ point }) => isSamePlace(point, reading, reference));
  if (!found) return null;
  const { low, high } = isTurned(found.point, reading) ? { low: -found.high, high: -found.low } : found;
  const slack = SLACK * Math.max(Math.abs(low), Math.abs(high)) + 2 * limitOf(reading, meter);
  return reading.value < low - slack || reading.value > high + slack ? { point: reading, low, high } : null;
}

const isTurned = (point: NumericReading, reading: NumericReading) =>
  point.quantity === "voltage" && isVolts(reading) && point.from !== reading.from;
