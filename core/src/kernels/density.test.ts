import fc from "fast-check";
import { CholeskyDecomposition, inverse, Matrix } from "ml-matrix";
import { describe, expect, it } from "vitest";
import { lists } from "../test/arbitrary/numbers.ts";
import { Density, normalTail, Spreads } from "./index.ts";

const numbers = (length: number, min = -3, max = 3) => lists(length, min, max);

/** Readings, a mean, one to four covariances as factors (their products are positive), none to four spreads. */
const cases = fc
  .tuple(fc.integer({ min: 1, max: 5 }), fc.integer({ min: 1, max: 4 }), fc.integer({ min: 0, max: 4 }))
  .chain(([n, covariances, spreads]) =>
    fc.record({
      y: numbers(n),
      mean: numbers(n),
      variance: numbers(n, 0.01, 2),
      factors: fc.array(numbers(n * n, -1, 1), { minLength: covariances, maxLength: covariances }),
      spreads: fc.array(numbers(n, -2, 2), { minLength: spreads, maxLength: spreads }),
    }),
  );

type Case = typeof cases extends fc.Arbitrary<infer T> ? T : never;

/** Slips that cannot happen: what is left is the Gaussian. */
const NO_SLIPS = (m: number) => ({
  isPossible: false,
  logUnrelated: new Float64Array(m).fill(-9),
  widening: new Float64Array(5 * m),
  shows: new Uint8Array(5 * m),
  logScaled: new Float64Array(5).fill(-9),
  logGood: 0,
  spoiled: [],
  logSpoiled: Number.NEGATIVE_INFINITY,
  censored: { shown: 1, lost: 0, any: 0 },
});

const productOf = (factor: readonly number[], n: number) => {
  const b = new Matrix(Array.from({ length: n }, (_, i) => factor.slice(i * n, i * n + n)));
  return b.mmul(b.transpose());
};

function packed(c: Matrix): Float64Array {
  return Float64Array.from(
    Array.from({ length: c.rows }, (_, i) => Array.from({ length: i + 1 }, (_, k) => c.get(i, k))).flat(),
  );
}

const WEIGHTS = [1 / 12, 1 / 180, 1 / 144, 1 / 3];

function spreadsOf({ spreads, y }: Case): Spreads {
  const made = new Spreads(y.length);
  spreads.forEach((vector, s) => {
    made.next(WEIGHTS[s]).set(vector);
  });
  return made;
}

/** Covariance the long way, leaving out the spread numbered `without`. */
function covarianceOf({ factors, variance, spreads, y }: Case, without = -1): Matrix {
  const n = y.length;
  const c = Matrix.diag([...variance]);
  for (const factor of factors) c.add(productOf(factor, n).mul(1 / factors.length));
  spreads.forEach((vector, s) => {
    if (s === without) return;
    const column = Matrix.columnVector([...vector]);
    c.add(column.mmul(column.transpose()).mul(WEIGHTS[s]));
  });
  return c;
}

const densityOf = ({ y, variance }: Case, beyond: readonly number[] = []) =>
  new Density(NO_SLIPS(y.length - beyond.length), {
    y: Float64Array.from(y),
    variance: Float64Array.from(variance),
    beyond: Float64Array.of(...new Array(y.length - beyond.length).fill(0), ...beyond),
  });

const told = (c: Case) => ({
  mean: Float64Array.from(c.mean),
  covariances: c.factors.map((factor) => packed(productOf(factor, c.y.length))),
  spreads: spreadsOf(c),
});
const logDensityOf = (density: Density, c: Case) => density.of(told(c), 3).log;

function logNormal(off: readonly number[], c: Matrix): number {
  const r = Matrix.columnVector([...off]);
  const logDet = 2 * new CholeskyDecomposition(c).lowerTriangularMatrix.diagonal().reduce((s, v) => s + Math.log(v), 0);
  return -0.5 * (r.transpose().mmul(inverse(c)).mmul(r).get(0, 0) + logDet + off.length * Math.log(2 * Math.PI));
}

describe("the density kernel", () => {
  it("is a Gaussian's, with the average of the covariances and every spread in it", () => {
    fc.assert(
      fc.property(cases, (c) => {
        const exact = logNormal(
          c.y.map((v, i) => v - c.mean[i]),
          covarianceOf(c),
        );
        const { log, sizes } = densityOf(c).of(told(c), 3);
        expect(Math.abs(log - exact)).toBeLessThan(1e-8 * (1 + Math.abs(exact)));
        // How long a spread is, in standard deviations of all the rest.
        for (let s = 0; s < 2; s += 1) {
          const d = Matrix.columnVector([...(c.spreads[s] ?? c.y.map(() => 0))]);
          const size = d
            .transpose()
            .mmul(inverse(covarianceOf(c, s)))
            .mmul(d)
            .get(0, 0);
          expect(Math.abs(sizes[s] - size)).toBeLessThan(1e-6 * (1 + size));
        }
      }),
    );
  });

  it("takes a censored reading as the tail of what the measured ones leave of it", () => {
    fc.assert(
      fc.property(cases, fc.constantFrom(-1, 1), (c, side) => {
        fc.pre(c.y.length > 1);
        const m = c.y.length - 1;
        const whole = covarianceOf(c);
        const seen = whole.subMatrix(0, m - 1, 0, m - 1);
        const link = whole.subMatrix(m, m, 0, m - 1).mmul(inverse(seen));
        const off = c.y.slice(0, m).map((v, i) => v - c.mean[i]);
        const centre = c.mean[m] + link.mmul(Matrix.columnVector([...off])).get(0, 0);
        const variance = whole.get(m, m) - link.mmul(whole.subMatrix(0, m - 1, m, m)).get(0, 0);
        const tail = normalTail((side * (centre - c.y[m])) / Math.sqrt(variance));
        fc.pre(tail > 1e-4);
        const exact = logNormal(off, seen) + Math.log(tail);
        expect(Math.abs(logDensityOf(densityOf(c, [side]), c) - exact)).toBeLessThan(1e-6 * (1 + Math.abs(exact)));
      }),
    );
  });

  it("gives the same whatever was asked for in between", () => {
    fc.assert(
      fc.property(cases, cases, (one, two) => {
        const [a, b] = [densityOf(one), densityOf(two)];
        const alone = [logDensityOf(a, one), logDensityOf(b, two)];
        expect([logDensityOf(a, one), logDensityOf(b, two), logDensityOf(a, one)]).toEqual([...alone, alone[0]]);
      }),
    );
  });

  it("says nothing of slips where there is no density", () => {
    const c: Case = { y: [1, 2], mean: [Number.NaN, 0], variance: [1, 1], factors: [[0, 0, 0, 0]], spreads: [] };
    const { log, shares, likeliest } = densityOf(c).withSlips(told(c), 3);
    expect(log).toBe(Number.NEGATIVE_INFINITY);
    expect([...shares]).toEqual(new Array(12).fill(0));
    expect(likeliest).toEqual([]);
  });
});
