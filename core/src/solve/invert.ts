/**
 * Inverts a dense square matrix by Gauss–Jordan elimination with partial pivoting, in place.
 * O(n³) time, O(n) extra space. Golub & Van Loan, Matrix Computations, 4th ed., §3.4.
 * @param a row-major n×n; overwritten with the inverse
 * @returns -1 on success, else the column at which every pivot left is below `tolerance` times what it was made of
 */
export function invertInPlace(a: Float64Array, n: number, tolerance = 1e-13): number {
  const swapped = new Int32Array(n);
  const columnScale = new Float64Array(n);
  for (let row = 0; row < n; row += 1) {
    for (let col = 0; col < n; col += 1) columnScale[col] = Math.max(columnScale[col], Math.abs(a[row * n + col]));
  }
  for (let col = 0; col < n; col += 1) {
    let best = col;
    for (let row = col + 1; row < n; row += 1) {
      if (Math.abs(a[row * n + col]) > Math.abs(a[best * n + col])) best = row;
    }
    const pivot = a[best * n + col];
    if (!(Math.abs(pivot) > tolerance * columnScale[col])) return col;
    swapped[col] = best;
    if (best !== col) swapRows(a, n, best, col);
    const at = col * n;
    const inverse = 1 / pivot;
    a[at + col] = 1;
    for (let j = 0; j < n; j += 1) a[at + j] *= inverse;
    for (let row = 0; row < n; row += 1) {
      if (row === col) continue;
      const base = row * n;
      const factor = a[base + col];
      if (factor === 0) continue;
      a[base + col] = 0;
      for (let j = 0; j < n; j += 1) a[base + j] -= factor * a[at + j];
    }
  }
  for (let col = n - 1; col >= 0; col -= 1) {
    if (swapped[col] !== col) swapColumns(a, n, swapped[col], col);
  }
  return -1;
}

function swapRows(a: Float64Array, n: number, r: number, s: number) {
  for (let j = 0; j < n; j += 1) {
    const held = a[r * n + j];
    a[r * n + j] = a[s * n + j];
    a[s * n + j] = held;
  }
}

function swapColumns(a: Float64Array, n: number, c: number, d: number) {
  for (let i = 0; i < n; i += 1) {
    const held = a[i * n + c];
    a[i * n + c] = a[i * n + d];
    a[i * n + d] = held;
  }
}
