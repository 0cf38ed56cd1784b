/** Dense linear algebra on flat row-major arrays owned by the caller. */
import { BYTES, workspace } from "./workspace.ts";

/** J·Jᵀ of the first n rows of a matrix of p columns into a packed lower triangle. O(n²·p/2). */
export function gramInto(j: Float64Array, n: number, p: number, out: Float64Array) {
  const space = workspace();
  const { start, kernels } = space;
  const end = start + j.length;
  const view = space.withRoom(j.length + n * n);
  view.set(j, start);
  kernels.gram(start * BYTES, n, p, end * BYTES);
  const size = (n * (n + 1)) / 2;
  for (let i = 0; i < size; i += 1) out[i] = view[end + i];
}

/**
 * Cholesky factor of a symmetric positive matrix, in place in its lower triangle. Pivots that rounding has made
 * non-positive are lifted to a tiny share of their diagonal. Golub & Van Loan, Matrix Computations, 4th ed., §4.2.
 */
export function factorInPlace(c: Float64Array, n: number) {
  const space = workspace();
  const { start, kernels } = space;
  const view = space.withRoom(n * n);
  view.set(c, start);
  kernels.factor(start * BYTES, n);
  for (let i = 0; i < n * n; i += 1) c[i] = view[start + i];
}

/** Share of what a pivot was made of below which it is rounding: doubles keep sixteen digits, and sums lose some. */
const SINGULAR = 1e-13;

/**
 * Inverts a dense square matrix by Gauss–Jordan elimination with partial pivoting, in place.
 * O(n³) time. Golub & Van Loan, Matrix Computations, 4th ed., §3.4.
 * @param a row-major n×n; overwritten with the inverse
 * @returns -1 on success, else the column at which every pivot left is below `tolerance` times what it was made of
 */
export function invertInPlace(a: Float64Array, n: number, tolerance = SINGULAR): number {
  const space = workspace();
  const { start, kernels } = space;
  const size = n * n;
  const scale = start + size;
  const swapped = scale + n;
  const view = space.withRoom(size + 2 * n);
  view.set(a, start);
  const failed = kernels.invert(start * BYTES, n, tolerance, swapped * BYTES, scale * BYTES);
  for (let i = 0; i < size; i += 1) a[i] = view[start + i];
  return failed;
}

/** Probability that a standard normal lies below t. Abramowitz & Stegun 7.1.26 on erfc, |error| < 1.5e-7. */
export function normalTail(t: number): number {
  return workspace().kernels.normalTail(t);
}

/** x ← L⁻¹·x for the Cholesky factor L in the lower triangle of n × n doubles. */
export function solveLowerInPlace(l: Float64Array, x: Float64Array) {
  const n = x.length;
  for (let i = 0; i < n; i += 1) {
    let sum = x[i];
    for (let k = 0; k < i; k += 1) sum -= l[i * n + k] * x[k];
    x[i] = sum / l[i * n + i];
  }
}

/** x ← (L·Lᵀ)⁻¹·x. */
export function solveFactoredInPlace(l: Float64Array, x: Float64Array) {
  const n = x.length;
  solveLowerInPlace(l, x);
  for (let i = n - 1; i >= 0; i -= 1) {
    let sum = x[i];
    for (let k = i + 1; k < n; k += 1) sum -= l[k * n + i] * x[k];
    x[i] = sum / l[i * n + i];
  }
}
