import { describe, expect, it } from "vitest";
import { E_SERIES, nearestInSeries, seriesOf, valuesOfSeries } from "./index.ts";

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
