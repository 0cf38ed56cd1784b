import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { decimals } from "../test/arbitrary/numbers.ts";
import { type Changed, Couplings, MOST_SKIPPED } from "./index.ts";

const sizes = fc.record({
  readings: fc.integer({ min: 1, max: 4 }),
  parameters: fc.integer({ min: 1, max: 5 }),
  elements: fc.integer({ min: 2, max: 4 }),
  settings: fc.integer({ min: 1, max: 3 }),
});

/** A block full of numbers, and a change of one or two elements. */
const cases = sizes.chain((size) =>
  fc.record({
    size: fc.constant(size),
    count: fc.integer({ min: 1, max: 2 }),
    values: fc.infiniteStream(decimals(-2, 2)),
    places: fc.infiniteStream(fc.nat()),
  }),
);

type Case = typeof cases extends fc.Arbitrary<infer T> ? T : never;

function drawn({ size, count, values, places }: Case) {
  const couplings = new Couplings(size);
  const next = () => values.next().value as number;
  const pick = (n: number) => (places.next().value as number) % n;
  for (let i = 0; i < couplings.block.length; i += 1) couplings.block[i] = next();
  for (let r = 0; r < size.readings; r += 1) couplings.setting[r] = pick(size.settings);
  const skipped = Float64Array.from({ length: MOST_SKIPPED * size.settings }, () => pick(2 * size.parameters));
  for (let i = 0; i < skipped.length; i += 1) if (skipped[i] >= size.parameters) skipped[i] = -1;
  const changed: Changed = {
    count,
    first: pick(size.elements),
    second: pick(size.elements),
    source: Float64Array.from({ length: 2 * size.readings }, next),
    adjoint: Float64Array.from({ length: 2 * size.readings }, next),
    skipped,
  };
  return { couplings, changed };
}

/** (lever + Σ l·a)·(current + Σ s·b) written out. */
function plain(couplings: Couplings, changed: Changed, r: number, p: number): number {
  const { parameters, elements } = couplings.sizes;
  const setting = couplings.setting[r];
  for (let k = 0; k < MOST_SKIPPED; k += 1) if (changed.skipped[setting * MOST_SKIPPED + k] === p) return 0;
  const at = r * parameters + p;
  let lever = couplings.lever[at];
  let current = couplings.current[at];
  for (const [k, e] of [changed.first, changed.second].slice(0, changed.count).entries()) {
    const reaction = couplings.reaction[r * elements + e];
    const cell = (setting * elements + e) * parameters + p;
    lever += changed.adjoint[2 * r + k] * (couplings.onLever[cell] + reaction * couplings.leverByMeter[at]);
    current += changed.source[2 * r + k] * (couplings.onCurrent[cell] + reaction * couplings.currentByMeter[at]);
  }
  return lever * current;
}

describe("couplings", () => {
  it("make sensitivities, variances and covariances of the formula, in every setting, skipped ones left out", () => {
    fc.assert(
      fc.property(cases, (c) => {
        const { couplings, changed } = drawn(c);
        const { readings, parameters } = couplings.sizes;
        const exact = Array.from({ length: readings }, (_, r) =>
          Array.from({ length: parameters }, (_, p) => plain(couplings, changed, r, p)),
        );
        const j = new Float64Array(readings * parameters);
        couplings.sensitivitiesInto(changed, j);
        exact.flat().forEach((value, k) => {
          expect(j[k]).toBeCloseTo(value, 9);
        });
        const product = (r: number, s: number) => exact[r].reduce((sum, v, p) => sum + v * exact[s][p], 0);
        for (let r = 0; r < readings; r += 1)
          expect(couplings.variance(r, changed, couplings.setting[r])).toBeCloseTo(product(r, r), 7);
        const out = new Float64Array((readings * (readings + 1)) / 2);
        couplings.covarianceInto(changed, readings, out);
        for (let r = 0, at = 0; r < readings; r += 1)
          for (let s = 0; s <= r; s += 1, at += 1) expect(out[at]).toBeCloseTo(product(r, s), 7);
      }),
    );
  });

  it("of one network are not those of another that was asked for in between", () => {
    fc.assert(
      fc.property(cases, cases, (one, two) => {
        const [a, b] = [drawn(one), drawn(two)];
        const of = ({ couplings, changed }: typeof a) => couplings.variance(0, changed, couplings.setting[0]);
        const [first, second] = [of(a), of(b)];
        expect([of(a), of(b), of(a)]).toEqual([first, second, first]);
      }),
    );
  });
});
