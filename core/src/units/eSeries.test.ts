import { describe, expect, it } from "vitest";
import {
  bandsOf,
  E_SERIES,
  matchTwo,
  nearestInSeries,
  ohmsLaw,
  readBands,
  seriesOf,
  toleranceLetter,
  valuesOfSeries,
} from "./index.ts";

describe("preferred values (IEC 60063)", () => {
  it("have as many in a decade as their name says, each within half a step of its neighbours' ratio", () => {
    for (const series of E_SERIES) {
      const values = valuesOfSeries(series);
      const n = Number(series.slice(1));
      expect(values).toHaveLength(n);
      for (let i = 1; i < n; i += 1) expect(values[i] / values[i - 1]).toBeCloseTo(10 ** (1 / n), n > 24 ? 1 : 0);
    }
    expect(valuesOfSeries("E12")).toEqual([1, 1.2, 1.5, 1.8, 2.2, 2.7, 3.3, 3.9, 4.7, 5.6, 6.8, 8.2]);
    expect(valuesOfSeries("E192")).toContain(9.2);
  });

  it("are found from any decade, and a value outside says so", () => {
    expect(nearestInSeries(4990, "E24")).toBe(5100);
    expect(nearestInSeries(0.098, "E12")).toBe(0.1);
    expect(nearestInSeries(9.7e6, "E6")).toBe(1e7);
    expect([seriesOf(4700), seriesOf(4990), seriesOf(51), seriesOf(1234), seriesOf(0.1)]).toEqual([
      "E6",
      "E96",
      "E24",
      null,
      "E6",
    ]);
  });
});

describe("the nearest of a series", () => {
  /** Every value of a series over many decades. */
  const all = (series: (typeof E_SERIES)[number]) =>
    [-3, -2, -1, 0, 1, 2, 3, 4, 5, 6, 7].flatMap((d) => valuesOfSeries(series).map((v) => Number(`${v}e${d}`)));
  const VALUES = [0.98, 1, 1.14, 9.2, 9.6, 97, 315, 999, 1005, 4567, 9.9e3];

  it("is nearest by ratio, across the end of a decade too", () => {
    for (const series of E_SERIES)
      for (const value of VALUES) {
        const least = Math.min(...all(series).map((v) => Math.abs(Math.log(v / value))));
        expect(Math.abs(Math.log(nearestInSeries(value, series) / value)), `${value} in ${series}`).toBeCloseTo(
          least,
          12,
        );
      }
  });

  it("is found for two resistors as by trying every two, best first", () => {
    for (const value of VALUES) {
      // Beside a value that is made anyway, next to nothing would be the closest.
      const offered = all("E6").filter((a) => a !== value && a > value / 100 && a < value * 1000);
      const made = offered.flatMap((a) => all("E6").flatMap((b) => (b === value ? [] : [a + b, 1 / (1 / a + 1 / b)])));
      const least = Math.min(...made.map((ohms) => Math.abs(Math.log(ohms / value))));
      const found = matchTwo(value, "E6", 5);
      expect(Math.abs(Math.log(found[0].ohms / value)), `${value}`).toBeCloseTo(least, 9);
      const off = found.map((t) => Math.abs(Math.log(t.ohms / value)));
      expect(off).toEqual([...off].sort((x, y) => x - y));
      expect(found.length).toBeGreaterThan(3);
      expect(matchTwo(value, "E6")).toEqual(found.slice(0, 3));
      for (const { kind, a, b, ohms } of found) {
        expect(ohms).toBeCloseTo(kind === "series" ? a + b : (a * b) / (a + b), 6);
        expect(kind === "series" ? b <= a : b >= a).toBe(true);
      }
    }
  });
});

describe("pocket sums of single resistors", () => {
  it("read and write bands the same way, for every value of the series", () => {
    for (const [series, percent] of [
      ["E24", 5],
      ["E12", 10],
      ["E96", 1],
    ] as const)
      for (const value of valuesOfSeries(series))
        for (const decade of [0, 1, 3, 5]) {
          const ohms = Number((value * 10 ** decade).toPrecision(6));
          const bands = bandsOf(ohms, percent);
          if (!bands) throw new Error(`${ohms} has no bands`);
          expect(readBands(bands)).toEqual({ ohms, tolerance: percent });
        }
    expect(bandsOf(4700, 5)).toEqual(["yellow", "violet", "red", "gold"]);
    expect(bandsOf(4990, 1)).toEqual(["yellow", "white", "white", "brown", "brown"]);
    expect(readBands(["red", "red", "gold"])).toEqual({ ohms: 2.2, tolerance: 20 });
    expect(readBands(["gold", "red", "red", "red"])).toMatch(/wrong way round/);
    expect(bandsOf(1234, 5)).toBeNull();
    expect([toleranceLetter(5), toleranceLetter(1), toleranceLetter(3)]).toEqual(["J", "F", null]);
  });

  it("find two resistors for one that is not made, closer than one alone", () => {
    for (const value of [37.5, 1234, 6100, 98765]) {
      const [best] = matchTwo(value, "E24");
      const alone = Math.abs(nearestInSeries(value, "E24") / value - 1);
      expect(Math.abs(best.ohms / value - 1)).toBeLessThanOrEqual(Math.max(alone, 1e-12));
      expect(seriesOf(best.a)).not.toBeNull();
      const made = best.kind === "series" ? best.a + best.b : (best.a * best.b) / (best.a + best.b);
      expect(made).toBeCloseTo(best.ohms, 9);
    }
  });

  it("follow from any two of volts, amperes, ohms and watts", () => {
    const whole = { volts: 12, amps: 0.5, ohms: 24, watts: 6 };
    const keys = Object.keys(whole) as (keyof typeof whole)[];
    for (const a of keys)
      for (const b of keys) {
        const found = ohmsLaw({ [a]: whole[a], [b]: whole[b] });
        if (a === b) expect(found).toBeNull();
        else for (const key of keys) expect(found?.[key]).toBeCloseTo(whole[key], 9);
      }
    expect(ohmsLaw({ volts: 1, ohms: 0 })).toBeNull();
  });
});
