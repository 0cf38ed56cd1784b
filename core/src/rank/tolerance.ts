/**
 * J·Jᵀ of sensitivities (readings × parameters, row-major) into a packed lower triangle. Two rows by two at a time, so
 * that every value loaded is used twice. O(readings² × parameters / 2).
 */
export function packTolerance(j: Float64Array, n: number, P: number, out: Float64Array) {
  let i = 0;
  for (; i + 1 < n; i += 2) {
    const r0 = i * P;
    const r1 = r0 + P;
    const at0 = (i * (i + 1)) / 2;
    const at1 = at0 + i + 1;
    for (let k = 0; k <= i; k += 2) {
      const c0 = k * P;
      const c1 = c0 + P;
      let s00 = 0;
      let s01 = 0;
      let s10 = 0;
      let s11 = 0;
      for (let p = 0; p < P; p += 1) {
        const a0 = j[r0 + p];
        const a1 = j[r1 + p];
        const b0 = j[c0 + p];
        const b1 = j[c1 + p];
        s00 += a0 * b0;
        s01 += a0 * b1;
        s10 += a1 * b0;
        s11 += a1 * b1;
      }
      out[at0 + k] = s00;
      if (k < i) out[at0 + k + 1] = s01;
      out[at1 + k] = s10;
      out[at1 + k + 1] = s11;
    }
  }
  if (i >= n) return;
  for (let k = 0, at = (i * (i + 1)) / 2; k <= i; k += 1, at += 1) {
    let sum = 0;
    for (let p = 0; p < P; p += 1) sum += j[i * P + p] * j[k * P + p];
    out[at] = sum;
  }
}
