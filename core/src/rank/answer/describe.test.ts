import { describe, expect, it } from "vitest";
import { normalTail } from "../../kernels/index.ts";
import { quantiles } from "./describe.ts";

describe("quantiles of a value from the masses of its cells", () => {
  /** Cells of a normal distribution about the middle of the prior, `width` standard deviations each. */
  const cells = (deviation: number, width: number) => {
    const edges = Array.from({ length: Math.ceil(1 / (deviation * width)) + 1 }, (_, i) =>
      Math.min(1, i * deviation * width),
    );
    const below = (t: number) => normalTail((t - 0.5) / deviation);
    return edges
      .slice(1)
      .map((hi, i) => ({ lo: [edges[i]], hi: [hi], logMass: Math.log(below(hi) - below(edges[i])) }));
  };

  it("are those of the distribution, though its cells are as long as its deviation", () => {
    for (const [deviation, width] of [
      [0.05, 0.9],
      [0.02, 1],
      [0.03, 0.5],
    ]) {
      const [low, middle, high] = quantiles(cells(deviation, width), 0, [0.1, 0.5, 0.9]);
      expect(Math.abs((low - 0.5) / deviation + 1.2816)).toBeLessThan(0.04);
      expect(Math.abs(middle - 0.5) / deviation).toBeLessThan(0.06);
      expect(Math.abs((high - 0.5) / deviation - 1.2816)).toBeLessThan(0.04);
    }
  });

  it("stay within the only cell there is, in its proportions", () => {
    expect(quantiles([{ lo: [0.2], hi: [0.4], logMass: -900 }], 0, [0.1, 0.5, 0.9])).toEqual([
      expect.closeTo(0.22, 12),
      expect.closeTo(0.3, 12),
      expect.closeTo(0.38, 12),
    ]);
  });
});
