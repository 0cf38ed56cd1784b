import { CholeskyDecomposition, Matrix } from "ml-matrix";
import { limitOf, roundingOf } from "../../measure/index.ts";
import { faultsAt } from "../../rank/cells.ts";
import type { Detail, Integrated } from "../../rank/integrator.ts";
import type { Prepared } from "../../rank/prepare.ts";
// The engine's own hypotheses and cells serve as proposal; the answer does not depend on how good they are.
import { SLIPS } from "../../rank/slips.ts";
import { spansOf } from "../../rank/spans.ts";
import type { NumericReading } from "../../record/index.ts";
import type { Random } from "../../simulate/index.ts";
import { plainLaws, plainReadings } from "./readings.ts";

/** How much wider than the linearised posterior the samples are drawn. */
const WIDEN = 1.25;
/** Share of the samples of the unknown values that comes from the prior itself. */
const FROM_PRIOR = 0.15;

/**
 * log (prior × evidence) of one hypothesis by importance sampling: unknown values, every tolerance and every way of
 * mis-taking a reading are integrated over with exact solutions of the network.
 * @returns the estimate and its relative standard error
 */
export function referenceMass(
  prepared: Prepared,
  readings: readonly NumericReading[],
  result: Integrated & { readonly detail?: Detail | null },
  samples: number,
  random: Random,
): { logMass: number; error: number } {
  const { network, meter, priors, set } = prepared;
  const { hypothesis, cells } = result;
  const sigma = readings.map((r) => limitOf(r, meter) / 2);
  const spans = spansOf(set);
  const P = network.branches.length;
  const deviation = network.branches.map((b) => b.part.tolerance / 2);
  const joined = hypothesis.sites.flatMap((s) => (s.bridge >= 0 ? [set.bridges[s.bridge]] : []));
  const forward = (at: readonly number[], z: ArrayLike<number>) => {
    const factors = deviation.map((d, p) => Math.max(0.02, 1 + d * z[p]));
    return plainReadings(network, plainLaws(network, faultsAt(hypothesis.sites, at), factors), joined, readings, meter);
  };
  const propose = proposalOf(cells, random);
  // Several readings mis-taken at once: the engine's guess, and every pair of its doubtful ones.
  const guess = result.detail?.best.likeliest ?? [];
  const doubtful = doubtfulReadings(result.detail ?? null);
  const pairs = doubtful.flatMap((a, i) => doubtful.slice(0, i).map((b) => [a, b]));
  const likely = guess.length > 1 ? [guess, ...pairs] : pairs;
  // What the parameters will be, given the readings, at a cell's middle: all readings taken well, or one without a say.
  const around = cached((cell: number) => {
    const at = cells[cell].lo.map((lo, k) => (lo + cells[cell].hi[k]) / 2);
    const linear = (base: readonly number[]) => {
      const y0 = forward(at, base);
      return { jacobian: jacobianAt(at, base, y0, forward, P), y0 };
    };
    const flat = linear(new Array<number>(P).fill(0));
    const off = readings.map((r, i) => r.value - flat.y0[i]);
    const base = new Posterior(flat.jacobian, sigma, guess).meanFor(off).map((v) => Math.max(-4, Math.min(4, v)));
    const { jacobian } = linear(base);
    const sets = [[], ...[...readings.keys()].map((i) => [i]), ...likely].map((without, n, all) => ({
      weight: n === 0 ? 0.4 : 0.6 / (all.length - 1),
      posterior: new Posterior(jacobian, sigma, without),
    }));
    return { base, jacobian, sets };
  });
  const logWeights = Array.from({ length: samples }, () => {
    const { at, cell, logDensity } = propose();
    const { base, jacobian, sets } = around(cell);
    // The cell's slopes, but this very point's readings.
    const y0 = forward(at, base);
    const residual = readings.map((r, i) => r.value - y0[i] + jacobian[i].reduce((s, v, p) => s + v * base[p], 0));
    const gaussians = sets.map(({ weight, posterior }) => ({ weight, posterior, mean: posterior.meanFor(residual) }));
    const chosen =
      gaussians[
        pick(
          gaussians.map((s) => s.weight),
          random,
        )
      ];
    const z = chosen.posterior.draw(chosen.mean, random);
    const logProposal = logSum(gaussians.map((s) => Math.log(s.weight) + s.posterior.logDensity(z, s.mean)));
    const logPrior = -0.5 * (z.reduce((s, v) => s + v * v, 0) + P * Math.log(2 * Math.PI));
    const y = forward(at, z);
    const logLikelihood = readings.reduce(
      (s, r, i) => s + Math.log(mixture(r.value, y[i], sigma[i], roundingOf(r), spans[i], priors)),
      0,
    );
    const own = hypothesis.logPriorAt?.(faultsAt(hypothesis.sites, at)) ?? 0;
    return logPrior + logLikelihood + own - logProposal - logDensity;
  });
  const top = Math.max(...logWeights);
  const weights = logWeights.map((w) => Math.exp(w - top));
  const mean = weights.reduce((s, w) => s + w, 0) / samples;
  const variance = weights.reduce((s, w) => s + (w - mean) ** 2, 0) / samples;
  return {
    logMass: hypothesis.logPrior + top + Math.log(mean),
    error: Math.sqrt(variance / samples) / mean,
  };
}

/** Density of one reading around its true value, every slip included. */
function mixture(
  y: number,
  mu: number,
  sigma: number,
  rounding: number,
  span: number,
  { blunder, blunderKinds }: Prepared["priors"],
) {
  const normal = (x: number, s: number) => Math.exp(-0.5 * (x / s) ** 2) / (s * Math.sqrt(2 * Math.PI));
  const { sign, unit, zero, other } = blunderKinds;
  return (
    (1 - blunder) * normal(y - mu, sigma) +
    blunder *
      (sign * normal(y + mu, sigma) +
        (unit / 2) * (normal(y - mu * 1000, sigma * 1000) + normal(y - mu / 1000, Math.hypot(sigma / 1000, rounding))) +
        zero * normal(y, sigma) +
        other / span)
  );
}

function proposalOf(cells: Integrated["cells"], random: Random) {
  const axes = cells[0].lo.length;
  const top = Math.max(...cells.map((c) => c.logMass));
  const masses = cells.map((c) => Math.exp(c.logMass - top) + 1e-6);
  const total = masses.reduce((s, m) => s + m, 0);
  const volume = (c: (typeof cells)[number]) => c.lo.reduce((v, lo, k) => v * (c.hi[k] - lo), 1);
  return () => {
    if (axes === 0) return { at: [] as number[], cell: 0, logDensity: 0 };
    let at: number[];
    if (random.next() < FROM_PRIOR) at = cells[0].lo.map(() => random.next());
    else {
      const cell = cells[pick(masses, random)];
      at = cell.lo.map((lo, k) => lo + (cell.hi[k] - lo) * random.next());
    }
    const inside = cells.findIndex((c) => at.every((t, k) => c.lo[k] <= t && t <= c.hi[k]));
    const density = FROM_PRIOR + ((1 - FROM_PRIOR) * masses[inside]) / total / volume(cells[inside]);
    return { at, cell: inside, logDensity: Math.log(density) };
  };
}

function jacobianAt(
  at: readonly number[],
  base: ArrayLike<number>,
  y0: readonly number[],
  forward: (at: readonly number[], z: ArrayLike<number>) => number[],
  P: number,
): number[][] {
  const step = 1e-3;
  const columns = Array.from({ length: P }, (_, p) => {
    const z = Float64Array.from(base);
    z[p] += step;
    return forward(at, z).map((v, i) => (v - y0[i]) / step);
  });
  return y0.map((_, i) => columns.map((c) => c[i]));
}

/** Gaussian of the parameters given linearised readings, some of them left out. */
class Posterior {
  private readonly cholesky: CholeskyDecomposition;
  private readonly lower: Matrix;
  private readonly logDet: number;
  private readonly weights: readonly number[];

  constructor(
    private readonly j: readonly (readonly number[])[],
    sigma: readonly number[],
    without: readonly number[],
  ) {
    const P = j[0].length;
    this.weights = sigma.map((s, i) => (without.includes(i) ? 0 : 1 / s ** 2));
    const precision = Matrix.eye(P);
    j.forEach((row, i) => {
      for (let a = 0; a < P; a += 1) {
        for (let b = 0; b <= a; b += 1) {
          const sum = precision.get(a, b) + this.weights[i] * row[a] * row[b];
          precision.set(a, b, sum);
          precision.set(b, a, sum);
        }
      }
    });
    this.cholesky = new CholeskyDecomposition(precision);
    this.lower = this.cholesky.lowerTriangularMatrix;
    this.logDet = this.lower.diagonal().reduce((s, v) => s + Math.log(v), 0);
  }

  meanFor(residual: readonly number[]): number[] {
    const rhs = this.j[0].map((_, p) => this.j.reduce((s, row, i) => s + this.weights[i] * row[p] * residual[i], 0));
    return this.cholesky.solve(Matrix.columnVector(rhs)).to1DArray();
  }

  /** z = mean + widen · L⁻ᵀ·n */
  draw(mean: readonly number[], random: Random): number[] {
    const P = mean.length;
    const n = Array.from({ length: P }, () => random.normal());
    for (let a = P - 1; a >= 0; a -= 1) {
      for (let b = a + 1; b < P; b += 1) n[a] -= this.lower.get(b, a) * n[b];
      n[a] /= this.lower.get(a, a);
    }
    return n.map((v, a) => mean[a] + WIDEN * v);
  }

  logDensity(z: readonly number[], mean: readonly number[]): number {
    const P = mean.length;
    let quadratic = 0;
    for (let a = 0; a < P; a += 1) {
      let sum = 0;
      for (let b = a; b < P; b += 1) sum += this.lower.get(b, a) * (z[b] - mean[b]);
      quadratic += (sum / WIDEN) ** 2;
    }
    return -0.5 * (quadratic + P * Math.log(2 * Math.PI)) + this.logDet - P * Math.log(WIDEN);
  }
}

/** The readings that the engine doubts most, at most three. */
function doubtfulReadings(detail: Detail | null): number[] {
  if (!detail) return [];
  const count = detail.slips.length / SLIPS.length;
  const doubt = Array.from({ length: count }, (_, i) =>
    detail.slips.subarray(i * SLIPS.length, (i + 1) * SLIPS.length).reduce((s, p) => s + p, 0),
  );
  return [...doubt.keys()]
    .filter((i) => doubt[i] > 0.02)
    .sort((a, b) => doubt[b] - doubt[a])
    .slice(0, 3);
}

function cached<T>(make: (key: number) => T): (key: number) => T {
  const known = new Map<number, T>();
  return (key) => {
    const found = known.get(key) ?? make(key);
    known.set(key, found);
    return found;
  };
}

/** Number of one of the weights, in proportion to it. */
function pick(weights: readonly number[], random: Random): number {
  let left = random.next() * weights.reduce((s, w) => s + w, 0);
  for (let i = 0; i < weights.length; i += 1) {
    left -= weights[i];
    if (left < 0) return i;
  }
  return 0;
}

function logSum(values: readonly number[]): number {
  const top = Math.max(...values);
  return top + Math.log(values.reduce((s, v) => s + Math.exp(v - top), 0));
}
