import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { examples } from "../test/examples.ts";
import { SETTLED, worthOf } from "./information.ts";

interface Way {
  readonly of: number;
  readonly weight: number;
  readonly mean: number;
  readonly deviation: number;
}

const bell = (x: number) => Math.exp(-(x * x) / 2) / Math.sqrt(2 * Math.PI);

/** Gauss and Hermite's five nodes for a standard normal: exact for polynomials up to the ninth power. */
const FIVE = [
  [0, 8 / 15],
  ...[-1, 1].flatMap((side) => [
    [side * Math.sqrt(5 - Math.sqrt(10)), (7 + 2 * Math.sqrt(10)) / 60],
    [side * Math.sqrt(5 + Math.sqrt(10)), (7 - 2 * Math.sqrt(10)) / 60],
  ]),
];

/** The law, written plainly: I = Σ_k p_k E[log₂( f_c(k)(v) / (p_c f(v)) )], v drawn from way k; and how likely one class then holds 95 %. */
function plainly(ways: readonly Way[]): { bits: number; settles: number } {
  const density = (v: number, some: readonly Way[]) =>
    some.reduce((s, w) => s + (w.weight * bell((v - w.mean) / w.deviation)) / w.deviation, 0);
  const classes = [...new Set(ways.map((w) => w.of))].map((c) => ways.filter((w) => w.of === c));
  let [bits, settles] = [0, 0];
  for (const way of ways)
    for (const [node, share] of FIVE) {
      const v = way.mean + node * way.deviation;
      const own = ways.filter((w) => w.of === way.of);
      const p = own.reduce((s, w) => s + w.weight, 0);
      bits += way.weight * share * Math.log2(density(v, own) / (p * density(v, ways)));
      const most = Math.max(...classes.map((some) => density(v, some)));
      if (most >= SETTLED * density(v, ways)) settles += way.weight * share;
    }
  return { bits: Math.max(0, bits), settles };
}

describe("what a reading is worth", () => {
  const way = fc.record({
    of: fc.nat(3),
    weight: fc.double({ min: 0.05, max: 1, noNaN: true }),
    mean: fc.double({ min: 0, max: 24, noNaN: true }),
    deviation: fc.double({ min: 0.05, max: 2, noNaN: true }),
  });

  it("is the mutual information of class and reading, as five nodes a way have it, but for ways that are taken together", () => {
    fc.assert(
      fc.property(fc.array(way, { minLength: 1, maxLength: 9 }), (drawn) => {
        const sum = drawn.reduce((s, w) => s + w.weight, 0);
        const ways = drawn.map((w) => ({ ...w, weight: w.weight / sum }));
        const found = worthOf({
          classes: ways.map((w) => w.of),
          weights: ways.map((w) => w.weight),
          mean: ways.map((w) => w.mean),
          deviation: ways.map((w) => w.deviation),
        });
        const due = plainly(ways);
        expect(Math.abs(found.bits - due.bits)).toBeLessThan(0.05);
        expect(found.bits).toBeLessThanOrEqual(Math.log2(4) + 1e-9);
      }),
      examples(150),
    );
  });

  it("is exact where ways are far apart or all alike, and passes over none that reaches another", () => {
    const of = (mean: readonly number[], deviation: readonly number[]) =>
      worthOf({ classes: [0, 1], weights: [0.25, 0.75], mean, deviation });
    const both = -0.25 * Math.log2(0.25) - 0.75 * Math.log2(0.75);
    expect(of([1, 9], [0.1, 0.1]).bits).toBeCloseTo(both, 5);
    expect(of([1, 9], [0.1, 0.1]).settles).toBeCloseTo(1, 6);
    expect(of([5, 5], [0.3, 0.3])).toEqual({ bits: 0, settles: 0 });
    // A narrow one among what a wide one reaches, whichever comes first.
    const one = of([5, 8], [0.01, 3]);
    const other = worthOf({ classes: [1, 0], weights: [0.75, 0.25], mean: [8, 5], deviation: [3, 0.01] });
    expect(one.bits).toBeCloseTo(other.bits, 12);
    expect(one.bits).toBeCloseTo(
      plainly([
        { of: 0, weight: 0.25, mean: 5, deviation: 0.01 },
        { of: 1, weight: 0.75, mean: 8, deviation: 3 },
      ]).bits,
      1,
    );
  });
});
