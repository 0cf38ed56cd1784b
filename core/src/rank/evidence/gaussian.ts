/** log Σ exp of the values; −∞ for none. */
export function logSumExp(values: ArrayLike<number>): number {
  let top = Number.NEGATIVE_INFINITY;
  for (let i = 0; i < values.length; i += 1) top = Math.max(top, values[i]);
  if (top === Number.NEGATIVE_INFINITY) return top;
  let sum = 0;
  for (let i = 0; i < values.length; i += 1) sum += Math.exp(values[i] - top);
  return top + Math.log(sum);
}
