import { describe, expect, it } from "vitest";
import type { Circuit } from "../../circuit/index.ts";
import { readTrail } from "../../notation/index.ts";
import { meterData, type NumericReading, type Reading } from "../../record/index.ts";
import { seededRandom } from "../../simulate/index.ts";
import { rankFaults } from "../index.ts";
import { takenTogether } from "./alike.ts";

const circuit = readTrail("BT1 24V 2% ri=0.3: F1 1A + [A] R1 220 5% + [B] (R2 1k 5% | R3 470 2%) + [D] R5 100 1%")
  .circuit as Circuit;

/** Readings of points in turn, each a little off; `apart` makes each differ in what no error depends on. */
function readings(points: Readonly<Record<string, number>>, times: number, apart: boolean): Reading[] {
  const random = seededRandom(7);
  const names = Object.keys(points);
  return Array.from({ length: times * names.length }, (_, i): Reading => {
    const from = names[i % names.length];
    const value = points[from] * (1 + 0.0015 * (random.next() - 0.5));
    return { quantity: "voltage", from, value, step: 0.01 * (1 + (apart ? i * 1e-9 : 0)) };
  });
}

function ranked(list: readonly Reading[]) {
  const ranking = rankFaults({ circuit, readings: list }, { pairs: false });
  if (ranking.kind === "problem") throw new Error(ranking.message);
  return ranking;
}

const keyOf = (faults: unknown) =>
  JSON.stringify(faults, (_key, v) => (typeof v === "number" ? undefined : v) as never);

describe("many readings of one point", () => {
  it.each([
    ["as healthy", { A: 23.9, B: 14.2, D: 4.43 }],
    ["with a part that drifted", { A: 23.9, B: 16.9, D: 3.2 }],
  ])("weigh as each of them would, %s", (_, points) => {
    const together = ranked(readings(points, 9, false));
    const oneByOne = ranked(readings(points, 9, true));
    const other = new Map(oneByOne.suspects.map((s) => [keyOf(s.faults), s.probability]));
    const apart = together.suspects.reduce((sum, { faults, probability: p }) => {
      const q = other.get(keyOf(faults)) ?? 0;
      return p < 1e-9 ? sum : sum + p * Math.log(p / q);
    }, 0);
    expect(Math.abs(apart)).toBeLessThan(2e-3);
    expect(together.suspects.map((s) => keyOf(s.faults)).slice(0, 3)).toEqual(
      oneByOne.suspects.map((s) => keyOf(s.faults)).slice(0, 3),
    );
    // Each has its own prediction and its own verdict, as before.
    const [mine, theirs] = [together, oneByOne].map((r) => r.suspects[0].predictions.map((p) => p.plusMinus));
    expect(mine).toHaveLength(27);
    for (const [i, limit] of mine.entries()) expect(limit).toBeCloseTo(theirs[i], 3);
    expect(together.readings.map((r) => r.index)).toEqual([...Array(27).keys()]);
  });

  it("that agree are taken as their mean but for the first four; what differs in anything, or is far off, stays alone", () => {
    const volts = (value: number, more: object = {}): NumericReading => ({
      quantity: "voltage",
      from: "B" as never,
      value,
      plusMinus: 0.1,
      ...more,
    });
    const list = [
      ...[14, 14.02, 14.04, 13.98, 14.1, 13.9, 14.06].map((v) => volts(v, { note: `${v}`, takenAt: `${v}` })),
      volts(1.4),
      volts(14, { state: { lifted: ["R1"] } }),
      volts(14, { meter: "other" }),
      volts(20, { beyond: "over" }),
    ];
    const taken = takenTogether(
      list.map((reading, place) => ({ reading, place })),
      meterData({}),
    );
    expect(taken.map((t) => t.places)).toEqual([[0], [1], [2], [3], [4, 5, 6], [7], [8], [9], [10]]);
    expect(taken[4].reading.value).toBeCloseTo((14.1 + 13.9 + 14.06) / 3, 12);
  });

  it("in their hundreds cost no more than a few", () => {
    const ranking = ranked(readings({ A: 23.9, B: 16.9, D: 3.2 }, 400, false));
    expect(ranking.readings).toHaveLength(1200);
    expect(ranking.suspects.reduce((s, one) => s + one.probability, 0)).toBeCloseTo(1, 9);
  });
});
