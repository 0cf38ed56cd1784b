import type { Plan } from "../plan/index.ts";
import { isSamePlace, type NumericReading } from "../record/index.ts";

/** What the suspects foretell at a point: the least and the most that any of them does, in the reading's unit. */
export interface Reach {
  readonly point: NumericReading;
  readonly low: number;
  readonly high: number;
}

/** Ways the circuit may be that are less probable than this do not widen what is likely. */
const LEAST = 5e-4;
/** Standard deviations that what a suspect foretells may be missed by. */
const MISSED_BY = 4;
/** Beyond what is foretold by this share of its size, a value is not called unlikely yet. */
const SLACK = 0.02;

/** Of every point on offer, from the plan's own figures. */
export function reachesOf({ outlooks, offers }: Plan): Reach[] {
  const ways = outlooks.filter((o) => o.probability >= LEAST);
  if (ways.length === 0) return [];
  return offers.flatMap(({ measurement, outcome }) => {
    if (outcome.kind !== "reading" || !("reading" in measurement)) return [];
    const { at } = outcome;
    let [low, high] = [Number.POSITIVE_INFINITY, Number.NEGATIVE_INFINITY];
    for (const { mean, deviation } of ways) {
      low = Math.min(low, mean[at] - MISSED_BY * deviation[at]);
      high = Math.max(high, mean[at] + MISSED_BY * deviation[at]);
    }
    return [{ point: measurement.reading, low, high }];
  });
}

/**
 * What is foretold where a reading was taken, turned round where its leads are; null where that is not known, or where
 * some suspect foretells what was read.
 * @param reference of the circuit: a point without another is against it
 */
export function missedReach(reaches: readonly Reach[], reading: NumericReading, reference: string): Reach | null {
  if (reading.beyond !== undefined || reading.by !== undefined) return null;
  const found = reaches.find(({ point }) => isSamePlace(point, reading, reference));
  if (!found) return null;
  const reach = isTurned(found.point, reading) ? { point: reading, low: -found.high, high: -found.low } : found;
  const slack = SLACK * Math.max(Math.abs(reach.low), Math.abs(reach.high));
  return reading.value < reach.low - slack || reading.value > reach.high + slack ? reach : null;
}

const isTurned = (point: NumericReading, reading: NumericReading) =>
  point.quantity === "voltage" && reading.quantity === "voltage" && point.from !== reading.from;
