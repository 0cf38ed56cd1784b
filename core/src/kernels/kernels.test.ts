import { readFileSync } from "node:fs";
import { join } from "node:path";
import { pathToFileURL } from "node:url";
import fc from "fast-check";
import { CholeskyDecomposition, inverse, Matrix } from "ml-matrix";
import { describe, expect, it } from "vitest";
import { lists } from "../test/arbitrary/numbers.ts";
import { IS_DEEP } from "../test/examples.ts";
import { factorInPlace, gramInto, invertInPlace, solveFactoredInPlace, solveLowerInPlace } from "./index.ts";
import { KERNELS } from "./kernels.wasm.ts";

const matrices = (rows: number, columns: number) => lists(rows * columns, -1, 1);

const sized = fc
  .tuple(fc.integer({ min: 1, max: 9 }), fc.integer({ min: 1, max: 9 }))
  .chain(([n, p]) => matrices(n, p).map((values) => ({ n, p, values })));

const matrixOf = (values: ArrayLike<number>, rows: number, columns: number) =>
  new Matrix(
    Array.from({ length: rows }, (_, i) => Array.from({ length: columns }, (_, k) => values[i * columns + k])),
  );

describe("the kernels", () => {
  it("are those that their source compiles to", async () => {
    const scripts = join(import.meta.dirname, "../../../scripts");
    const { compileKernels, hashOfKernels, hashOfSources } = await import(
      pathToFileURL(join(scripts, "compileKernels.mjs")).href
    );
    const published = readFileSync(join(import.meta.dirname, "kernels.wasm.ts"), "utf8");
    // Compiling takes seconds: where neither the sources nor what they gave has changed, there is no need.
    const isSame =
      published.includes(`// sources ${hashOfSources()}\n`) &&
      published.includes(`// kernels ${hashOfKernels(KERNELS)}\n`);
    if (isSame && !IS_DEEP) return;
    expect(published).toBe(await compileKernels());
  });

  it("solve with a Cholesky factor what ml-matrix solves with its own", () => {
    fc.assert(
      fc.property(sized, ({ n, p, values }) => {
        const a = matrixOf(values, n, p)
          .mmul(matrixOf(values, n, p).transpose())
          .add(Matrix.eye(n));
        const b = Float64Array.from({ length: n }, (_, i) => values[i]);
        const l = Float64Array.from(a.to1DArray());
        factorInPlace(l, n);
        const cholesky = new CholeskyDecomposition(a);
        const whole = b.slice();
        solveFactoredInPlace(l, whole);
        const exact = cholesky.solve(Matrix.columnVector([...b])).to1DArray();
        for (const [i, value] of exact.entries()) expect(whole[i]).toBeCloseTo(value, 9);
        const half = b.slice();
        solveLowerInPlace(l, half);
        // |L⁻¹b|² = bᵀA⁻¹b
        const square = half.reduce((s, v) => s + v * v, 0);
        expect(square).toBeCloseTo(
          exact.reduce((s, v, i) => s + v * b[i], 0),
          9,
        );
      }),
    );
  });

  it("multiply a matrix by its transpose, odd and even sizes alike, and not beyond the rows that are meant", () => {
    fc.assert(
      fc.property(sized, ({ n, p, values }) => {
        const exact = matrixOf(values, n, p).mmul(matrixOf(values, n, p).transpose());
        for (const rows of [n, n - 1]) {
          const out = new Float64Array((n * (n + 1)) / 2).fill(7);
          gramInto(Float64Array.from(values), rows, p, out);
          for (let i = 0, at = 0; i < n; i += 1)
            for (let k = 0; k <= i; k += 1, at += 1) expect(out[at]).toBeCloseTo(i < rows ? exact.get(i, k) : 7, 12);
        }
      }),
    );
  });

  it("factor a positive matrix, and lift what rounding made none", () => {
    fc.assert(
      fc.property(sized, ({ n, p, values }) => {
        const j = matrixOf(values, n, p);
        const c = Matrix.add(j.mmul(j.transpose()), Matrix.eye(n).mul(0.1));
        const own = Float64Array.from(c.to1DArray());
        factorInPlace(own, n);
        const exact = new CholeskyDecomposition(c).lowerTriangularMatrix;
        for (let i = 0; i < n; i += 1)
          for (let k = 0; k <= i; k += 1) expect(own[i * n + k]).toBeCloseTo(exact.get(i, k), 10);
      }),
    );
    const singular = Float64Array.of(1, 1, 1, 1);
    factorInPlace(singular, 2);
    expect(singular[3]).toBeGreaterThan(0);
    expect(singular[3]).toBeLessThan(1e-6);
  });

  it("invert a square matrix, rows exchanged where a pivot is missing, and say where none is left", () => {
    fc.assert(
      fc.property(
        fc.integer({ min: 1, max: 8 }).chain((n) => matrices(n, n)),
        (values) => {
          const n = Math.sqrt(values.length);
          // Ones beside the diagonal: whatever else there is, the largest pivots lie off it.
          const a = matrixOf(values, n, n).mul(0.1);
          for (let i = 0; i < n; i += 1) a.set(i, (i + 1) % n, a.get(i, (i + 1) % n) + 2);
          const own = Float64Array.from(a.to1DArray());
          expect(invertInPlace(own, n)).toBe(-1);
          const exact = inverse(a);
          for (let i = 0; i < n * n; i += 1) expect(own[i]).toBeCloseTo(exact.to1DArray()[i], 9);
        },
      ),
    );
    expect(invertInPlace(Float64Array.of(1, 2, 3, 2, 4, 6, 1, 0, 1), 3)).toBe(2);
  });

  it("have room for more than they began with, and lose nothing by it", () => {
    const n = 150;
    const large = Float64Array.from({ length: n * n }, (_, k) => (k % (n + 1) === 0 ? 2 + k / n : 0.001));
    const again = large.slice();
    expect(invertInPlace(large, n)).toBe(-1);
    expect(invertInPlace(large, n)).toBe(-1);
    large.forEach((value, k) => {
      expect(value).toBeCloseTo(again[k], 8);
    });
  });
});
