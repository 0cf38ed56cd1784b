import { Density, type Predicted, type ReadingTerms } from "../../kernels/index.ts";
import type { SlipReading, SlipWeights } from "./slips.ts";

/** Readings that may be each other's: numbers among the measured ones. */
export type Exchange = readonly [number, number];

/** What tells that two readings were taken one after the other, of the same kind, of the circuit as it stood, at two points. */
export interface Taken extends SlipReading {
  readonly place: number;
  readonly like: string;
  readonly at: string;
}

/** Exchanged, both have to come within so many standard deviations of what should be there. */
const REACH = 4.5;
/** Figures that differ by less than so many standard deviations, of either, are the same. */
const SAME = 2;
/** An exchange, which costs a thousandth, has to take at least this much from the χ² of the two. */
export const WORTH = 6;

/**
 * Two readings taken one after the other may each have been written down at the other's point: both means, and both rows
 * of everything that moves them, change places. That is the same as the figures changing places.
 */
export class Exchanges {
  readonly pairs: readonly Exchange[];
  /** Whether each reading and the next are such a pair. */
  readonly byFirst: Uint8Array;
  readonly logPrior: number;
  /** Log prior that none was exchanged. */
  readonly logNone: number;
  private readonly densities: Density[] = [];

  /** @param readings measured ones, in the order in which they were taken */
  constructor(
    private readonly readings: readonly Taken[],
    private readonly terms: ReadingTerms,
    probability: number,
    private readonly weigh: (readings: readonly SlipReading[]) => SlipWeights,
  ) {
    this.pairs = readings.flatMap((one, i): Exchange[] => {
      const next = readings[i + 1];
      if (probability === 0 || !next || next.place !== one.place + 1 || next.like !== one.like || next.at === one.at)
        return [];
      // Figures that are about the same, and known as well, are as good at either point.
      const [fine, coarse] = [Math.min(one.sigma, next.sigma), Math.max(one.sigma, next.sigma)];
      if (Math.abs(next.y - one.y) < SAME * fine && coarse < SAME * fine) return [];
      return [[i, i + 1]];
    });
    this.byFirst = Uint8Array.from(readings, (_, i) => Number(this.pairs.some(([one]) => one === i)));
    this.logPrior = Math.log(probability);
    this.logNone = Math.log1p(-Math.min(0.5, probability * this.pairs.length));
  }

  /** True where, by themselves, two readings look better exchanged. */
  isNear(pair: Exchange, predicted: Predicted): boolean {
    const { mean } = predicted;
    const { y, variance } = this.terms;
    if (!isNearer(pair, y, mean)) return false;
    const [i, k] = pair;
    const one = covarianceOf(i, i, predicted);
    const two = covarianceOf(k, k, predicted);
    const [a, b] = [y[k] - mean[i], y[i] - mean[k]];
    const [v, w] = [one + variance[k], two + variance[i]];
    if (a * a > REACH * REACH * v || b * b > REACH * REACH * w) return false;
    const both = covarianceOf(k, i, predicted);
    const here = chiSquare(y[i] - mean[i], y[k] - mean[k], one + variance[i], two + variance[k], both);
    return here - chiSquare(a, b, v, w, both) > WORTH;
  }

  /** Log density of all readings, those of a pair exchanged. */
  density(pair: number, predicted: Predicted, most: number, floor: number): number {
    this.densities[pair] ??= this.turned(this.pairs[pair]);
    return this.logPrior + this.densities[pair].of(predicted, most, floor).log;
  }

  private turned([i, k]: Exchange): Density {
    const at = (n: number) => (n === i ? k : n === k ? i : n);
    const turn = (list: Float64Array) => list.map((_, n) => list[at(n)]);
    const { y, variance, beyond } = this.terms;
    const readings = this.readings.map((_, n) => this.readings[at(n)]);
    return new Density(this.weigh(readings), { y: turn(y), variance: turn(variance), beyond });
  }
}

/** χ² of two residuals with variances v and w and a covariance. */
function chiSquare(a: number, b: number, v: number, w: number, both: number): number {
  return (a * a * w - 2 * a * b * both + b * b * v) / Math.max(v * w - both * both, 1e-300);
}

/** True where the worse of two readings is nearer to what should be there once they are exchanged: without that none gains. */
function isNearer([i, k]: Exchange, y: Float64Array, mean: Float64Array): boolean {
  const here = Math.max(Math.abs(y[i] - mean[i]), Math.abs(y[k] - mean[k]));
  return Math.abs(y[k] - mean[i]) < here && Math.abs(y[i] - mean[k]) < here;
}

/** Covariance of readings a ≥ b by all but the meter: the average of packed lower triangles plus v·vᵀ·weight for each spread. */
function covarianceOf(a: number, b: number, { covariances, spreads }: Predicted): number {
  const place = (a * (a + 1)) / 2 + b;
  let sum = 0;
  for (let c = 0; c < covariances.length; c += 1) sum += covariances[c][place];
  sum /= covariances.length;
  for (let s = 0; s < spreads.count; s += 1) sum += spreads.weights[s] * spreads.vectors[s][a] * spreads.vectors[s][b];
  return sum;
}
