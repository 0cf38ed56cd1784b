import { type Averaged, errorOf, TIMES } from "../../measure/index.ts";
import type { MeterData, NumericReading } from "../../record/index.ts";

/** A numeric reading, or several of the same taken as one. */
export interface Taken {
  readonly reading: Averaged;
  /** Where it stands among all readings given: the first of them. */
  readonly place: number;
  /** Where all of them stand. */
  readonly places: readonly number[];
}

/** As many of one point are weighed one by one: more than may be mis-taken at once, so that no hypothesis can pass them all over. */
const ONE_BY_ONE = 4;
/** Fewer than this many more are weighed one by one as well. */
const WORTH = 3;
/** Within so many of their own standard deviations of the middle one they agree. */
const AGREE = 3;

/**
 * Readings of one point in one state with one meter, where there are many: the first are weighed each by itself, the rest of
 * those that agree as their mean. For n readings with independent errors of equal size and everything else in common the
 * density factors into that of the mean, with 1/n of their own variance, and one that no hypothesis changes (sufficiency
 * of the mean; Cox & Hinkley, Theoretical Statistics, 1974, §2.2); only that one of the rest may have been mis-taken is
 * left out.
 * @param readings measured ones before censored ones
 * @returns in the same order
 */
export function takenTogether(
  readings: readonly { readonly reading: NumericReading; readonly place: number }[],
  meter: MeterData,
): Taken[] {
  const alone = (one: { readonly reading: NumericReading; readonly place: number }): Taken => ({
    ...one,
    places: [one.place],
  });
  if (readings.length < ONE_BY_ONE + WORTH) return readings.map(alone);
  const groups = new Map<string, (typeof readings)[number][]>();
  for (const one of readings) {
    const key = keyOf(one.reading);
    const group = groups.get(key);
    if (group) group.push(one);
    else groups.set(key, [one]);
  }
  const means = new Map<number, Taken>();
  const inMeans = new Set<number>();
  for (const group of groups.values()) {
    const rest = agreeing(group, meter).slice(ONE_BY_ONE);
    if (rest.length < WORTH || rest[0].reading.beyond !== undefined || rest[0].reading.wander !== undefined) continue;
    const [{ reading, place }] = rest;
    const value = rest.reduce((sum, one) => sum + one.reading.value, 0) / rest.length;
    means.set(place, { reading: { ...reading, value, [TIMES]: rest.length }, place, places: rest.map((r) => r.place) });
    for (const one of rest) inMeans.add(one.place);
  }
  return readings.flatMap((one) => {
    if (!inMeans.has(one.place)) return [alone(one)];
    return means.get(one.place) ?? [];
  });
}

/** Those near the middle one. */
function agreeing<T extends { readonly reading: NumericReading }>(group: readonly T[], meter: MeterData): T[] {
  const sorted = group.map((one) => one.reading.value).sort((a, b) => a - b);
  const middle = sorted[Math.floor(sorted.length / 2)];
  return group.filter(({ reading }) => Math.abs(reading.value - middle) <= AGREE * errorOf(reading, meter).own);
}

/** What tells readings apart besides their values; a file may have more about each, which says nothing here. */
const TOLD_APART = [
  "quantity",
  "from",
  "to",
  "through",
  "lifted",
  "beyond",
  "plusMinus",
  "wander",
  "step",
  "meter",
  "by",
  "nulled",
  "range",
  "state",
] as const;

const keyOf = (reading: NumericReading) =>
  JSON.stringify(TOLD_APART.map((key) => (reading as Readonly<Record<string, unknown>>)[key] ?? null));
