import type { FaultAt, Site } from "../../faults/index.ts";
import { factorInPlace, solveLowerInPlace } from "../../kernels/index.ts";
import type { Outcome } from "../prediction/outcome.ts";
import type { Prepared } from "../prepare.ts";

/** Steps of a promise that count as one, in nats. */
const STEP = 1 / 16;
/** No pair is promised less than this below the best. */
const RANGE = 400;

/**
 * All pairs of single faults, those first that could explain the readings best. Whatever two elements do, they act
 * through a source each, so that readings move within a plane; the χ² that the plane can take away from the healthy
 * circuit's residual, in the metric of its covariance, with the priors, and what each fault takes from the spread of the
 * readings (a dead circuit shows nothing, whatever its parts are), is the promise: about what the pair can weigh at most,
 * beside the healthy circuit.
 */
export class PairsByPromise {
  readonly length: number;
  /** Pairs by falling promise, i · n + k, and the log of the sum of their promises from each hundredth on. */
  private readonly codes: Float64Array;
  private readonly logFrom: Float64Array;
  private readonly n: number;

  /** @param isLeftOut pairs that are weighed elsewhere */
  constructor(prepared: Prepared, isLeftOut: (i: number, k: number) => boolean) {
    const { prior, set } = prepared;
    const elementOf = ({ branch, bridge }: Site) => (branch >= 0 ? branch : set.branchCount + bridge);
    const elements = Int32Array.from(prior.singles, (s) => elementOf(s.sites[0]));
    const gains = new Gains(prepared);
    const n = prior.singles.length;
    this.n = n;
    const codes: number[] = [];
    const promises: number[] = [];
    for (let i = 0; i < n; i += 1) {
      for (let k = i + 1; k < n; k += 1) {
        if (!prior.canPair(i, k) || isLeftOut(i, k)) continue;
        codes.push(i * n + k);
        const peak = gains.narrowed[i] + gains.narrowed[k];
        promises.push(prior.logPairOf(i, k) + 0.5 * gains.of(elements[i], elements[k]) + peak);
      }
    }
    this.length = codes.length;
    const best = promises.reduce((most, promise) => Math.max(most, promise), Number.NEGATIVE_INFINITY);
    const bucketOf = (promise: number) => Math.min(RANGE / STEP, Math.floor((best - promise) / STEP));
    const starts = new Int32Array(RANGE / STEP + 2);
    for (const promise of promises) starts[bucketOf(promise) + 1] += 1;
    for (let b = 1; b < starts.length; b += 1) starts[b] += starts[b - 1];
    this.codes = new Float64Array(codes.length);
    const sorted = new Float64Array(codes.length);
    promises.forEach((promise, at) => {
      const place = starts[bucketOf(promise)]++;
      this.codes[place] = codes[at];
      sorted[place] = promise;
    });
    this.logFrom = new Float64Array(codes.length + 1).fill(Number.NEGATIVE_INFINITY);
    let sum = 0;
    for (let at = codes.length - 1; at >= 0; at -= 1) {
      sum += Math.exp(sorted[at] - best);
      this.logFrom[at] = best + Math.log(sum);
    }
  }

  at(place: number): readonly [number, number] {
    const code = this.codes[place];
    return [Math.floor(code / this.n), code % this.n];
  }

  /** Log of what the pairs from this place on could weigh at most, together, in units of how well nothing wrong explains all. */
  logLeftFrom(place: number): number {
    return this.logFrom[place];
  }
}

/** Standard deviations beyond which a reading is of another kind altogether. */
const FARTHEST = 1e3;
/** Share of its size below which a determinant of two levers is rounding: they pull the same way. */
const PARALLEL = 1e-9;
/** Shares of an unknown value's prior at which it does least and most. */
const ENDS = [0.02, 0.98];

/** For each single fault, how much lower ½·log|C| is where it is than `healthy`, at the end of its values where that is most. */
function narrowedFrom(prepared: Prepared, healthy: number): Float64Array {
  const { predictor } = prepared.integrator;
  const outcome = predictor.newOutcome();
  const under = (fault: FaultAt) => {
    predictor.predict([fault], "variances", outcome);
    return healthy - halfLogDet(factorOf(prepared, outcome), prepared.evidence.measured);
  };
  return Float64Array.from(prepared.prior.singles, ({ sites: [site] }) => {
    const { value } = site;
    const narrowings = value ? ENDS.map((at) => under({ site, value: value(at) })) : [under({ site, value: 0 })];
    // What cannot be solved narrows nothing.
    return Math.max(0, ...narrowings.filter((n) => !Number.isNaN(n)));
  });
}

/** Cholesky factor of the measured readings' covariance, tolerances and the meter's own. */
function factorOf({ set, integrator, evidence }: Prepared, outcome: Outcome): Float64Array {
  const m = evidence.measured;
  const packed = new Float64Array((m * (m + 1)) / 2);
  integrator.predictor.covarianceInto(outcome, m, packed);
  const l = new Float64Array(m * m);
  for (let i = 0, at = 0; i < m; i += 1) {
    for (let k = 0; k <= i; k += 1, at += 1) l[i * m + k] = packed[at];
    l[i * m + i] += set.probes[i].error.own ** 2;
  }
  factorInPlace(l, m);
  return l;
}

/** ½·log|C| of a Cholesky factor. */
function halfLogDet(l: Float64Array, m: number): number {
  let sum = 0;
  for (let i = 0; i < m; i += 1) sum += Math.log(l[i * m + i]);
  return sum;
}

/** χ² that a source at one or two elements takes away from the residual at most, in the healthy circuit's metric. */
class Gains {
  private readonly m: number;
  private readonly levers: Float64Array;
  private readonly along: Float64Array;
  private readonly size: Float64Array;
  private readonly known: Float32Array;
  private readonly count: number;
  /** Log of how much higher the density's peak is under each single fault than in the healthy circuit; never below 0. */
  readonly narrowed: Float64Array;

  constructor(prepared: Prepared) {
    const { set, integrator, evidence } = prepared;
    const m = evidence.measured;
    const healthy = integrator.predictor.predict([], "variances");
    const c = factorOf(prepared, healthy);
    this.narrowed = narrowedFrom(prepared, halfLogDet(c, m));
    const residual = Float64Array.from({ length: m }, (_, r) => set.probes[r].reading.value - healthy.y[r]);
    solveLowerInPlace(c, residual);
    // A reading of another kind altogether is a slip, and no pair's merit.
    for (let r = 0; r < m; r += 1) residual[r] = Math.max(-FARTHEST, Math.min(FARTHEST, residual[r]));
    const E = set.elementCount;
    this.m = m;
    this.count = E;
    this.levers = new Float64Array(E * m);
    this.along = new Float64Array(E);
    this.size = new Float64Array(E);
    for (let e = 0; e < E; e += 1) {
      const lever = this.levers.subarray(e * m, e * m + m);
      for (let r = 0; r < m; r += 1) lever[r] = set.probes[r].a[e];
      solveLowerInPlace(c, lever);
      for (let r = 0; r < m; r += 1) {
        this.along[e] += lever[r] * residual[r];
        this.size[e] += lever[r] * lever[r];
      }
    }
    this.known = new Float32Array(E * E).fill(Number.NaN);
  }

  of(e: number, f: number): number {
    const place = Math.min(e, f) * this.count + Math.max(e, f);
    if (Number.isNaN(this.known[place])) this.known[place] = this.compute(e, f);
    return this.known[place];
  }

  private compute(e: number, f: number): number {
    const { levers, along, size, m } = this;
    let cross = 0;
    for (let r = 0; r < m; r += 1) cross += levers[e * m + r] * levers[f * m + r];
    const det = size[e] * size[f] - cross * cross;
    if (det > PARALLEL * size[e] * size[f])
      return (size[f] * along[e] ** 2 - 2 * cross * along[e] * along[f] + size[e] * along[f] ** 2) / det;
    return Math.max(size[e] > 0 ? along[e] ** 2 / size[e] : 0, size[f] > 0 ? along[f] ** 2 / size[f] : 0);
  }
}
