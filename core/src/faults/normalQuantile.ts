/** The z below which a standard normal has the share p, 0 < p < 1. Acklam's rational approximation, |relative error| < 1.2e-9. */
export function normalQuantile(p: number): number {
  if (p < TAIL) return tail(Math.sqrt(-2 * Math.log(p)));
  if (p > 1 - TAIL) return -tail(Math.sqrt(-2 * Math.log(1 - p)));
  const q = p - 0.5;
  const r = q * q;
  return (q * polynomial(A, r)) / (polynomial(B, r) * r + 1);
}

const TAIL = 0.02425;
const A = [
  -39.69683028665376, 220.9460984245205, -275.9285104469687, 138.357751867269, -30.66479806614716, 2.506628277459239,
];
const B = [-54.47609879822406, 161.5858368580409, -155.6989798598866, 66.80131188771972, -13.28068155288572];
const C = [
  -0.007784894002430293, -0.3223964580411365, -2.400758277161838, -2.549732539343734, 4.374664141464968,
  2.938163982698783,
];
const D = [0.007784695709041462, 0.3224671290700398, 2.445134137142996, 3.754408661907416];

function tail(q: number): number {
  return polynomial(C, q) / (polynomial(D, q) * q + 1);
}

function polynomial(coefficients: readonly number[], x: number): number {
  return coefficients.reduce((sum, c) => sum * x + c, 0);
}
