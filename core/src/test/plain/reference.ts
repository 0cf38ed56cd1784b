import { CholeskyDecomposition, Matrix } from "ml-matrix";
import type { Circuit } from "../../circuit/index.ts";
import type { NumericReading, Reading } from "../../record/index.ts";
import {
  type PlainDraw,
  type PlainElement,
  type PlainFault,
  type PlainMeter,
  plainElements,
  plainPiece,
  plainReading,
} from "./bench.ts";
import { beyondProbability, lookProbability, plainError, readingDensity, type Slips } from "./evidence.ts";
import type { LastRest } from "./settle.ts";

/** A seeded source of uniform and normal numbers. */
export interface Draws {
  next(): number;
  normal(): number;
}

/** What is to be weighed, and with which meter. */
export interface PlainCase {
  readonly circuit: Circuit;
  readonly readings: readonly Reading[];
  readonly meter: PlainMeter;
  readonly blunder: number;
  /** Widths of the range in which each numeric reading would lie if it were anything else. */
  readonly spans: readonly number[];
  readonly accuracy?: { readonly percent: number; readonly counts: number; readonly offset: number };
  /** The meter is false on this function, by a factor at the last of the values' shares. */
  readonly falseOn?: NumericReading["quantity"];
  /** Its limit, as a fraction. */
  readonly falseLimit?: number;
}

/** Where samples are drawn from: it decides how good they are, not what they come to. */
export interface Proposal {
  /** Boxes in shares of the values' priors with their masses; one empty box where there are no values. */
  readonly cells: readonly { readonly lo: readonly number[]; readonly hi: readonly number[]; readonly mass: number }[];
  /** Readings that may have been mis-taken together. */
  readonly doubtful: readonly number[];
}

/** How much wider than the linearised posterior the samples are drawn, and the share of values drawn from the prior itself. */
const WIDEN = 1.25;
const FROM_PRIOR = 0.15;

/**
 * log evidence of one hypothesis by importance sampling: unknown values, every tolerance, the meter's gains and every way
 * of mis-taking a reading are integrated over with exact solutions of the network.
 * @param faultsAt its faults with values at shares of their priors
 * @returns the estimate and its relative standard error
 */
export function referenceEvidence(
  given: PlainCase,
  faultsAt: (at: readonly number[]) => readonly PlainFault[],
  logPriorAt: (faults: readonly PlainFault[]) => number,
  { cells, doubtful }: Proposal,
  samples: number,
  random: Draws,
): { readonly log: number; readonly error: number } {
  const { circuit, readings, meter, blunder, spans } = given;
  const numeric = readings.filter((r): r is NumericReading => r.quantity !== "observation");
  const measured = numeric.filter((r) => r.beyond === undefined);
  const censored = numeric.filter((r) => r.beyond !== undefined);
  const looks = readings.filter((r) => r.quantity === "observation");
  const errors = measured.map((r) => plainError(r, given.accuracy ?? { percent: 0, counts: 0, offset: 0 }));
  const parameters = parametersOf(circuit, readings, numeric, errors);
  const P = parameters.length;
  const drawOf = (z: ArrayLike<number>) => drawFrom(circuit, parameters, z);
  const gainOf = (i: number, z: ArrayLike<number>) => {
    const p = parameters.findIndex((x) => x.gainOf === measured[i].quantity);
    return p < 0 ? 1 : 1 + errors[i].gain * z[p];
  };
  const clean = (v: number) => (Number.isFinite(v) ? Math.min(v, 1e30) : 1e30);
  // As many low as high, log-uniform from the limit to a fifth.
  const falseAt = (at: readonly number[]) => {
    const t = at[at.length - 1];
    const size = (given.falseLimit ?? 0.005) * (0.2 / (given.falseLimit ?? 0.005)) ** Math.abs(2 * t - 1);
    return t < 0.5 ? 1 - size : 1 + size;
  };
  // Where each reading's network last came to rest: the next one is much like it.
  const rests = measured.map((): LastRest => ({}));
  const forward = (at: readonly number[], z: ArrayLike<number>) => {
    const faults = faultsAt(at);
    return measured.map((r, i) => {
      const shown = given.falseOn === r.quantity ? falseAt(at) : 1;
      return clean(plainReading(circuit, r, faults, drawOf(z), meter, rests[i])) * gainOf(i, z) * shown;
    });
  };
  const sigma = errors.map((e) => e.own);
  const slips = measured.map((r, i): Slips => {
    const step = r.step ?? usualStep(r);
    // A limit written beside a reading belongs to the number as written; a meter errs as it does at what it shows.
    const sigmaAt = (k: number) =>
      r.plusMinus !== undefined
        ? sigma[i]
        : Math.abs(k) *
          plainError(
            { ...r, value: r.value / k, step: step / Math.abs(k) },
            given.accuracy as NonNullable<PlainCase["accuracy"]>,
          ).own;
    return { blunder, span: spans[i], rounding: step / Math.sqrt(12), sigmaAt, isOhms: r.quantity === "resistance" };
  });
  const silent = measured.flatMap((r, i) => (r.quantity === "current" && Math.abs(r.value) <= 3 * sigma[i] ? [i] : []));
  const neighbours = measured.flatMap((r, i): [number, number][] =>
    i > 0 && areExchangeable(measured[i - 1], r, readings) ? [[i - 1, i]] : [],
  );
  const logLikelihood = (at: readonly number[], z: ArrayLike<number>, y: readonly number[]) => {
    const faults = faultsAt(at);
    const draw = drawOf(z);
    const each = measured.map((r, i) => readingDensity(r.value, y[i], sigma[i], slips[i]));
    const product = each.reduce((p, d) => p * d, 1);
    let density = (1 - 0.1 * blunder * neighbours.length) * product;
    // Of two taken one after the other each may hold the other's.
    for (const [a, b] of neighbours) {
      const others = each.reduce((p, d, i) => (i === a || i === b ? p : p * d), 1);
      const turned = (i: number, k: number) => readingDensity(measured[i].value, y[k], sigma[i], slips[i]);
      density += 0.1 * blunder * others * turned(a, b) * turned(b, a);
    }
    // One blown fuse in the meter spoils every current reading together.
    if (silent.length > 1)
      density +=
        blunder *
        0.2 *
        each.reduce((p, d, i) => {
          const { value } = measured[i];
          return (
            p *
            (silent.includes(i) ? Math.exp(-0.5 * (value / sigma[i]) ** 2) / (sigma[i] * Math.sqrt(2 * Math.PI)) : d)
          );
        }, 1);
    let log = Math.log(density);
    for (const r of censored) {
      const { own } = plainError({ ...r, step: r.step ?? 0 }, given.accuracy ?? { percent: 0, counts: 0, offset: 0 });
      log += Math.log(beyondProbability(r, clean(plainReading(circuit, r, faults, draw, meter)), own, blunder));
    }
    for (const look of looks) log += Math.log(lookProbability(circuit, look, readings, faults, draw, blunder));
    return log;
  };
  const propose = proposalOf(cells, random);
  const singles = measured.map((_, i) => [i]);
  const pairs = doubtful.flatMap((a, i) => doubtful.slice(0, i).map((b) => [a, b]));
  const sets = [[], ...singles, ...pairs, ...(doubtful.length > 2 ? [doubtful] : [])];
  // What the parameters will be, given the readings, at a cell's middle: all readings taken well, or some without a say.
  const around = cached((cell: number) => {
    const at = cells[cell].lo.map((lo, k) => (lo + cells[cell].hi[k]) / 2);
    const origin = new Array<number>(P).fill(0);
    const flat = forward(at, origin);
    const first = jacobianAt(at, origin, flat, forward, P);
    const off = measured.map((r, i) => r.value - flat[i]);
    const base = new Posterior(first, sigma, doubtful, P).meanFor(off).map((v) => Math.max(-4, Math.min(4, v)));
    const jacobian = jacobianAt(at, base, forward(at, base), forward, P);
    return {
      base,
      jacobian,
      posteriors: sets.map((without, n) => ({
        weight: n === 0 ? 0.4 : 0.6 / (sets.length - 1 || 1),
        posterior: new Posterior(jacobian, sigma, without, P),
      })),
    };
  });
  const logWeights = Array.from({ length: samples }, () => {
    const { at, cell, logDensity } = propose();
    const { base, jacobian, posteriors } = around(cell);
    // The cell's slopes, but this very point's readings.
    const y0 = forward(at, base);
    const residual = measured.map((r, i) => r.value - y0[i] + jacobian[i].reduce((s, v, p) => s + v * base[p], 0));
    const gaussians = posteriors.map((g) => ({ ...g, mean: g.posterior.meanFor(residual) }));
    const chosen =
      gaussians[
        pick(
          gaussians.map((g) => g.weight),
          random,
        )
      ];
    const z = chosen.posterior.draw(chosen.mean, random);
    const logProposal = logSum(gaussians.map((g) => Math.log(g.weight) + g.posterior.logDensity(z, g.mean)));
    const logPrior = -0.5 * (z.reduce((s, v) => s + v * v, 0) + P * Math.log(2 * Math.PI));
    return logPrior + logLikelihood(at, z, forward(at, z)) + logPriorAt(faultsAt(at)) - logProposal - logDensity;
  });
  const top = Math.max(...logWeights);
  const weights = logWeights.map((w) => Math.exp(w - top));
  const mean = weights.reduce((s, w) => s + w, 0) / samples;
  const variance = weights.reduce((s, w) => s + (w - mean) ** 2, 0) / samples;
  return { log: top + Math.log(mean), error: Math.sqrt(variance / samples) / mean };
}

/** Two readings of one quantity, one after the other among all, of the circuit as it stood, at two points. */
function areExchangeable(a: NumericReading, b: NumericReading, all: readonly Reading[]): boolean {
  const { value: _, plusMinus: __, step: ___, ...one } = a as Record<string, unknown>;
  const { value: ____, plusMinus: _____, step: ______, ...two } = b as Record<string, unknown>;
  if (all.indexOf(b) !== all.indexOf(a) + 1 || a.quantity !== b.quantity) return false;
  return (
    JSON.stringify(one.state ?? {}) === JSON.stringify(two.state ?? {}) && JSON.stringify(one) !== JSON.stringify(two)
  );
}

/** One thing that may lie anywhere: an element's value, a track, a wiper's place, a spread of its own, a meter's gain. */
interface PlainParameter {
  readonly element?: string;
  readonly acts?: "value" | "place" | "cold" | "running";
  readonly spread?: number;
  readonly gainOf?: NumericReading["quantity"];
}

function parametersOf(
  circuit: Circuit,
  readings: readonly Reading[],
  numeric: readonly NumericReading[],
  errors: readonly { gain: number }[],
): PlainParameter[] {
  const isOff = numeric.some((r) => r.quantity === "resistance");
  const states = [{}, ...readings.map((r) => r.state ?? {})];
  // Sections of a potentiometer are one track; diodes of a bridge are four.
  const whole = circuit.parts.filter((p) => p.kind === "potentiometer");
  const own: PlainElement[] = [
    ...plainElements(circuit).filter(({ part }) => part.kind !== "potentiometer"),
    ...whole.map((part) => ({ part, name: part.designator, from: part.from, to: part.to })),
  ];
  const found = own.flatMap((one) => {
    const { part } = one;
    const pieces = new Set(states.map((state) => plainPiece(one, state)));
    return [...pieces].flatMap((element): PlainParameter[] => {
      const own: PlainParameter[] = [];
      if (part.tolerance > 0) own.push({ element, acts: "value", spread: part.tolerance / 2 });
      if (part.kind === "potentiometer" && part.tolerance > 0) own.push({ element, acts: "place", spread: 0.005 });
      if (part.kind === "lamp" && part.resistance.by === "rating" && isOff)
        own.push({ element, acts: "cold", spread: 0.35 });
      if (part.kind === "coil" && /^m\d/i.test(element)) own.push({ element, acts: "running", spread: 0.5 });
      return own;
    });
  });
  const gains = new Set(numeric.filter((_, i) => (errors[i]?.gain ?? 0) > 0).map((r) => r.quantity));
  return [...found, ...[...gains].map((gainOf): PlainParameter => ({ gainOf }))];
}

function drawFrom(circuit: Circuit, parameters: readonly PlainParameter[], z: ArrayLike<number>): PlainDraw {
  const factor: Record<string, number> = {};
  const cold: Record<string, number> = {};
  const running: Record<string, number> = {};
  parameters.forEach(({ element, acts, spread = 0 }, p) => {
    if (element === undefined) return;
    const [designator, ...piece] = element.split(" ");
    const of = (section: string) => [`${designator}.${section}`, ...piece].join(" ");
    const part = circuit.parts.find((x) => x.designator === designator);
    const f = Math.max(0.02, 1 + spread * z[p]);
    if (acts === "cold") cold[element] = f;
    else if (acts === "running") running[element] = f;
    else if (part?.kind !== "potentiometer") factor[element] = f;
    else if (acts === "value") {
      factor[of("top")] = f;
      factor[of("bottom")] = f;
    } else {
      // The wiper moves: what the upper section gains the lower one loses.
      if (part.at > 0) factor[of("top")] *= Math.max(0.02, 1 + (spread * z[p]) / part.at);
      if (part.at < 1) factor[of("bottom")] *= Math.max(0.02, 1 - (spread * z[p]) / (1 - part.at));
    }
  });
  return { factor, cold, running };
}

/** Last digit of a display of 2,000 counts on the lowest range that holds the value. */
function usualStep({ value, quantity }: NumericReading): number {
  const spans = {
    voltage: [0.2, 2, 20, 200, 1000],
    current: [2e-3, 2e-2, 0.2, 10],
    resistance: [200, 2e3, 2e4, 2e5, 2e6, 4e7],
  };
  const span = spans[quantity].find((s) => s >= Math.abs(value)) ?? (spans[quantity].at(-1) as number);
  return 10 ** Math.ceil(Math.log10(span / 2000) - 1e-9);
}

function proposalOf(cells: Proposal["cells"], random: Draws) {
  const axes = cells[0].lo.length;
  const masses = cells.map((c) => c.mass + 1e-6);
  const total = masses.reduce((s, m) => s + m, 0);
  const volume = (c: Proposal["cells"][number]) => c.lo.reduce((v, lo, k) => v * (c.hi[k] - lo), 1);
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
    private readonly P: number,
  ) {
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
    const rhs = Array.from({ length: this.P }, (_, p) =>
      this.j.reduce((s, row, i) => s + this.weights[i] * row[p] * residual[i], 0),
    );
    return this.cholesky.solve(Matrix.columnVector(rhs)).to1DArray();
  }

  /** z = mean + widen · L⁻ᵀ·n */
  draw(mean: readonly number[], random: Draws): number[] {
    const n = Array.from({ length: this.P }, () => random.normal());
    for (let a = this.P - 1; a >= 0; a -= 1) {
      for (let b = a + 1; b < this.P; b += 1) n[a] -= this.lower.get(b, a) * n[b];
      n[a] /= this.lower.get(a, a);
    }
    return n.map((v, a) => mean[a] + WIDEN * v);
  }

  logDensity(z: readonly number[], mean: readonly number[]): number {
    let quadratic = 0;
    for (let a = 0; a < this.P; a += 1) {
      let sum = 0;
      for (let b = a; b < this.P; b += 1) sum += this.lower.get(b, a) * (z[b] - mean[b]);
      quadratic += (sum / WIDEN) ** 2;
    }
    return -0.5 * (quadratic + this.P * Math.log(2 * Math.PI)) + this.logDet - this.P * Math.log(WIDEN);
  }
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
function pick(weights: readonly number[], random: Draws): number {
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
