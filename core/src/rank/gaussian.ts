/** Dense Gaussian algebra on flat row-major arrays owned by the caller. Golub & Van Loan, 4th ed., §4.2. */

/**
 * Cholesky factor of a symmetric positive matrix, in place in its lower triangle. Pivots that rounding has made
 * non-positive are lifted to a tiny share of their diagonal.
 * @returns ½ log of the determinant
 */
export function factorInPlace(c: Float64Array, n: number): number {
  let halfLogDet = 0;
  for (let j = 0; j < n; j += 1) {
    const rowJ = j * n;
    let d = c[rowJ + j];
    const floor = d * 1e-14;
    for (let k = 0; k < j; k += 1) d -= c[rowJ + k] * c[rowJ + k];
    const root = Math.sqrt(d > floor ? d : floor > 0 ? floor : 1e-300);
    c[rowJ + j] = root;
    halfLogDet += Math.log(root);
    const inverse = 1 / root;
    for (let i = j + 1; i < n; i += 1) {
      const rowI = i * n;
      let sum = c[rowI + j];
      for (let k = 0; k < j; k += 1) sum -= c[rowI + k] * c[rowJ + k];
      c[rowI + j] = sum * inverse;
    }
  }
  return halfLogDet;
}

/**
 * L⁻¹ of the leading n×n of a factor of leading dimension `stride`, transposed: out[j·n + i] = (L⁻¹)ᵢⱼ, whose rows are
 * what the inverse L⁻ᵀ·L⁻¹ is made of.
 */
export function invertFactor(l: Float64Array, stride: number, n: number, out: Float64Array) {
  for (let j = 0; j < n; j += 1) {
    const column = j * n;
    out[column + j] = 1 / l[j * stride + j];
    for (let i = j + 1; i < n; i += 1) {
      const row = i * stride;
      let sum = 0;
      for (let k = j; k < i; k += 1) sum -= l[row + k] * out[column + k];
      out[column + i] = sum / l[row + i];
    }
  }
}

/** Element (i, j), j ≤ i, of the inverse from `invertFactor`'s result. */
export function inverseAt(inverse: Float64Array, n: number, i: number, j: number): number {
  let sum = 0;
  for (let k = i; k < n; k += 1) sum += inverse[i * n + k] * inverse[j * n + k];
  return sum;
}

/** log Σ exp of the values; −∞ for none. */
export function logSumExp(values: ArrayLike<number>): number {
  let top = Number.NEGATIVE_INFINITY;
  for (let i = 0; i < values.length; i += 1) top = Math.max(top, values[i]);
  if (top === Number.NEGATIVE_INFINITY) return top;
  let sum = 0;
  for (let i = 0; i < values.length; i += 1) sum += Math.exp(values[i] - top);
  return top + Math.log(sum);
}

/** Inverts a symmetric positive matrix of order up to 3 in place. @returns the log determinant of the inverse */
export function invertSmall(a: Float64Array, n: number): number {
  if (n === 1) {
    const pivot = Math.max(a[0], 1e-300);
    a[0] = 1 / pivot;
    return -Math.log(pivot);
  }
  if (n === 2) {
    const det = Math.max(a[0] * a[3] - a[1] * a[2], 1e-300);
    const first = a[0];
    a[0] = a[3] / det;
    a[3] = first / det;
    a[1] /= -det;
    a[2] = a[1];
    return -Math.log(det);
  }
  const p = a[0];
  const q = a[1];
  const r = a[2];
  const s = a[4];
  const t = a[5];
  const u = a[8];
  const c0 = s * u - t * t;
  const c1 = r * t - q * u;
  const c2 = q * t - r * s;
  const det = Math.max(p * c0 + q * c1 + r * c2, 1e-300);
  a[0] = c0 / det;
  a[1] = a[3] = c1 / det;
  a[2] = a[6] = c2 / det;
  a[4] = (p * u - r * r) / det;
  a[5] = a[7] = (q * r - p * t) / det;
  a[8] = (p * s - q * q) / det;
  return -Math.log(det);
}
