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
