import type { Prediction } from "../rank/index.ts";

/** One Gaussian of a mixture; weights need not add up to one. */
export interface Told {
  readonly weight: number;
  readonly mean: number;
  readonly deviation: number;
}

/** Mean and two standard deviations of a mixture of Gaussians: the law of total variance. */
export function blend(mixture: readonly Told[]): Prediction {
  let [total, sum, square] = [0, 0, 0];
  for (const { weight, mean, deviation } of mixture) {
    total += weight;
    sum += weight * mean;
    square += weight * (deviation ** 2 + mean ** 2);
  }
  const value = sum / total;
  return { value, plusMinus: 2 * Math.sqrt(Math.max(0, square / total - value * value)) };
}
