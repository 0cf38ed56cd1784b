import type { PriorData } from "../../faults/index.ts";
import {
  Density,
  factorInPlace,
  normalTail,
  type Predicted,
  type SlipShares,
  type Spreads,
  solveFactoredInPlace,
  type Weight,
} from "../../kernels/index.ts";
import { Ceiling } from "./ceiling.ts";
import { type Exchange, Exchanges, WORTH } from "./exchanges.ts";
import { logSumExp } from "./gaussian.ts";
import type { Reader } from "./reader.ts";
import { LOG_2PI, SLIP_COUNT, SLIPS, SlipWeights, UNRELATED } from "./slips.ts";
import { Worst } from "./worst.ts";

/** Readings that an upper bound is made of. */
const WORST = 5;
/** Exchanged readings farther off than this many variances explain nothing. */
const FARTHEST = 20;

/** Ohms of leads that nobody took off, and their spread; how often that is forgotten, as a multiple of one reading's slips. */
const LEADS = { ohms: 0.3, spread: 0.15, often: 5 } as const;
/** Readings on which leads of that size do not show. */
const HIDES_LEADS = 3;

/** Factor of a variance that leaves a reading without a say. */
export const NO_SAY = 1e12;

const EXCHANGED = SLIPS.indexOf("exchanged");

/** Variances of the measured readings by tolerances. */
export interface Tolerances {
  readonly varianceOf: (reading: number) => number;
  /** What they are about, without asking. */
  readonly usual: Float64Array;
}

interface Exchanged {
  readonly pair: Exchange;
  readonly log: number;
}

/** The density with how the readings were probably taken. */
export interface Explained extends Weight {
  /** Probability of each slip of each measured reading, readings × slips. */
  readonly slips: Float64Array;
  /** The likeliest set of mis-taken readings. */
  readonly likeliest: readonly number[];
  /** Probability that the leads' ohms are in every ohms reading. */
  readonly leads: number;
}

/**
 * Density of all readings under a Gaussian prediction, mis-taken and censored readings included. One serves a whole
 * ranking. Measured values come first, censored readings last.
 */
export class Evidence {
  readonly measured: number;
  readonly count: number;
  private readonly y: Float64Array;
  private readonly variance: Float64Array;
  /** To which side each reading is censored. */
  private readonly side: Float64Array;
  private readonly r: Float64Array;
  private readonly marginal: Float64Array;
  private readonly variances: Float64Array;
  /** The readings that look worst. */
  private readonly worst = new Worst(WORST);
  private readonly looked = new Int32Array(WORST);
  private readonly slips: SlipWeights;
  private readonly gaussian: Density;
  private readonly ceiling: Ceiling;
  /** Ohms readings that may have the leads in them, all or none: a slip of the whole job. */
  private readonly withLeads: readonly number[];
  private readonly leadsPrior: number;
  private readonly logNulled: number;
  private readonly shifted: Float64Array;
  private readonly exchanges: Exchanges;
  /** Log density at most, where tolerances are zero and every reading fits. */
  private readonly logPeak: number;

  /** @param readings numeric readings, measured ones before censored ones */
  constructor(readings: readonly Reader[], priors: PriorData) {
    this.count = readings.length;
    const measured = readings.filter((p) => p.beyond === "none");
    this.measured = measured.length;
    const m = this.measured;
    this.y = Float64Array.from(readings, (r) => r.y);
    this.variance = Float64Array.from(readings, (r) => r.own);
    this.r = new Float64Array(m);
    this.marginal = new Float64Array(m);
    this.variances = new Float64Array(m);
    this.slips = new SlipWeights(measured, priors);
    this.side = Float64Array.from(readings, sideOf);
    const terms = { y: this.y, variance: this.variance, beyond: this.side };
    this.gaussian = new Density(this.slips, terms);
    this.exchanges = new Exchanges(measured, terms, priors.exchanged, (list) => new SlipWeights(list, priors));
    this.ceiling = new Ceiling(this.slips, this.variance.subarray(0, m));
    const isTold = (r: Reader) => r.hasLeads && r.sigma < HIDES_LEADS * LEADS.ohms;
    const found = readings.flatMap((r, i) => (r.hasLeads ? [i] : []));
    this.leadsPrior = Math.min(0.5, priors.blunder * LEADS.often);
    this.withLeads = this.leadsPrior > 0 && readings.some(isTold) ? found : [];
    this.logNulled = Math.log1p(-this.leadsPrior);
    this.shifted = new Float64Array(this.count);
    this.logPeak = -measured.reduce((sum, { own }) => sum + 0.5 * (Math.log(own) + LOG_2PI), 0);
  }

  /**
   * Log density of the readings under what is foretold with the meters' own variance.
   * @param most how many readings may have been mis-taken at once
   * @param floor log density below which a rough answer will do
   */
  density(predicted: Predicted, most: number, floor = Number.NEGATIVE_INFINITY): Weight {
    const { gaussian } = this;
    const exchanged = this.exchangedUnder(predicted, most, floor);
    const nulled = this.together(gaussian.of(predicted, most, floor), exchanged);
    if (this.withLeads.length === 0) return nulled;
    return {
      log: logSumExp([this.logNulled + nulled.log, this.logForgotten(predicted, most, floor)]),
      sizes: nulled.sizes,
    };
  }

  /** The same, with how the readings were probably taken. */
  explained(predicted: Predicted, most: number): Explained {
    const exchanged = this.exchangedUnder(predicted, most, Number.NEGATIVE_INFINITY);
    const own = this.gaussian.withSlips(predicted, most);
    const nulled = this.together(own, exchanged);
    const shareOf = (log: number) => Math.exp(log - nulled.log) || 0;
    const told = {
      slips: this.slipsOf(
        own,
        exchanged.map(({ pair, log }) => ({ pair, share: shareOf(log) })),
      ),
      likeliest: exchanged.find(({ log }) => shareOf(log) > 0.5)?.pair ?? own.likeliest ?? this.slips.spoiled,
    };
    if (this.withLeads.length === 0) return { ...nulled, ...told, leads: 0 };
    const forgotten = this.logForgotten(predicted, most, Number.NEGATIVE_INFINITY);
    const log = logSumExp([this.logNulled + nulled.log, forgotten]);
    return { ...told, log, sizes: nulled.sizes, leads: Number.isFinite(log) ? Math.exp(forgotten - log) : 0 };
  }

  /** Log of all readings at their own points, or two at each other's. */
  private together({ log, sizes }: Weight, exchanged: readonly Exchanged[]): Weight {
    const own = this.exchanges.logNone + log;
    return { log: exchanged.length === 0 ? own : logSumExp([own, ...exchanged.map((e) => e.log)]), sizes };
  }

  /** Pairs that may be each other's, with the log density of all readings where they are. */
  private exchangedUnder(predicted: Predicted, most: number, floor: number): readonly Exchanged[] {
    const { exchanges } = this;
    const found: Exchanged[] = [];
    for (let n = 0; n < exchanges.pairs.length; n += 1) {
      const pair = exchanges.pairs[n];
      // An exchange is one of those that were mis-taken.
      if (exchanges.isNear(pair, predicted))
        found.push({ pair, log: exchanges.density(n, predicted, most - 1, floor) });
    }
    return found;
  }

  /** Log density where the leads' ohms are in every ohms reading. */
  private logForgotten({ mean, covariances, spreads }: Predicted, most: number, floor: number): number {
    const { shifted, withLeads } = this;
    shifted.set(mean.subarray(0, this.count));
    for (const i of withLeads) shifted[i] += LEADS.ohms;
    // One of the covariances stands for the average of all, so it takes the spread of all.
    const [first, ...rest] = covariances;
    const wider = first.slice();
    const variance = LEADS.spread ** 2 * covariances.length;
    for (const i of withLeads) for (const k of withLeads) if (k <= i) wider[(i * (i + 1)) / 2 + k] += variance;
    const there = { mean: shifted, covariances: [wider, ...rest], spreads };
    return Math.log(this.leadsPrior) + this.gaussian.of(there, most, floor).log;
  }

  /**
   * An upper bound of `density` from the variances of the readings that look worst: no covariance is smaller than the
   * meter's own, and what the other readings would add to the verdict is hardly ever what decides it.
   * @param tolerances variance of each measured reading by tolerances, asked for few of them, and what it usually is
   * @param floor log density below which it does not matter how small it is
   */
  bound(
    mean: Float64Array,
    tolerances: Tolerances,
    spreads: Spreads,
    most: number,
    floor = Number.NEGATIVE_INFINITY,
  ): number {
    const { measured: m, y, variance, r, marginal, withLeads } = this;
    for (let i = 0; i < m; i += 1) {
      let v = variance[i];
      for (let s = 0; s < spreads.count; s += 1) v += spreads.weights[s] * spreads.vectors[s][i] ** 2;
      r[i] = y[i] - mean[i];
      // Leads may be in it or not: what is nearest to the reading bounds both.
      if (withLeads.includes(i)) r[i] -= Math.max(0, Math.min(r[i], 2 * LEADS.ohms));
      marginal[i] = v;
    }
    const own = this.boundOf(tolerances, most, floor);
    // Where the cell counts anyway, nobody asks for more.
    if (own >= floor || this.exchanges.pairs.length === 0) return own;
    return this.boundExchanged(own, mean, tolerances, most, floor);
  }

  /** The same where two readings may be each other's: both are among those that look worst, or others are left that do. */
  private boundExchanged(own: number, mean: Float64Array, tolerances: Tolerances, most: number, floor: number): number {
    const { y, r, marginal, worst } = this;
    const { usual } = tolerances;
    const { byFirst, logPrior } = this.exchanges;
    const [count, looked] = [worst.count, this.looked];
    looked.set(worst.index);
    let bound = own;
    for (let a = 0; a < count; a += 1) {
      const i = looked[a];
      if (byFirst[i] === 0 || !looked.subarray(0, count).includes(i + 1)) continue;
      const k = i + 1;
      const [one, two] = [r[i], r[k]];
      const [x, z] = [y[k] - mean[i], y[i] - mean[k]];
      const [v, w] = [marginal[i] + usual[i], marginal[k] + usual[k]];
      const gain = (one * one - x * x) / v + (two * two - z * z) / w;
      if (gain < WORTH || x * x > FARTHEST * v || z * z > FARTHEST * w) continue;
      r[i] = x;
      r[k] = z;
      bound = logSumExp([bound, logPrior + this.boundOf(tolerances, most - 1, floor - logPrior)]);
      r[i] = one;
      r[k] = two;
    }
    return bound;
  }

  /** The bound for residuals `r` with variances `marginal` by all but tolerances. */
  private boundOf({ varianceOf, usual }: Tolerances, most: number, floor: number): number {
    const { measured: m, r, worst, withLeads, variances } = this;
    worst.clear();
    for (let i = 0; i < m; i += 1) worst.offer((r[i] * r[i]) / (this.marginal[i] + usual[i]), i);
    variances.set(this.marginal);
    for (let k = 0; k < worst.count; k += 1) {
      const i = worst.index[k];
      variances[i] += varianceOf(i) + (withLeads.includes(i) ? LEADS.spread ** 2 : 0);
    }
    return this.ceiling.of(worst, r, variances, this.logPeak, most, floor);
  }

  /** Probability of each slip of each measured reading, readings × slips. */
  private slipsOf(
    { shares, spoiled }: SlipShares,
    exchanged: readonly { readonly pair: Exchange; readonly share: number }[],
  ): Float64Array {
    const { zeroShare, spoiled: silent } = this.slips;
    const out = new Float64Array(this.measured * SLIP_COUNT);
    let rest = 1;
    for (const { pair, share } of exchanged) {
      for (const i of pair) out[i * SLIP_COUNT + EXCHANGED] += share;
      rest -= share;
    }
    for (const i of silent) out[i * SLIP_COUNT + UNRELATED] += rest * spoiled;
    for (let i = 0, at = 0; i < this.measured; i += 1, at += SLIP_COUNT) {
      const from = i * (UNRELATED + 1);
      for (let kind = 0; kind < UNRELATED; kind += 1) out[at + kind] += rest * shares[from + kind];
      const unrelated = rest * shares[from + UNRELATED];
      out[at + UNRELATED] += unrelated * zeroShare[i];
      out[at + UNRELATED + 1] += unrelated * (1 - zeroShare[i]);
    }
    return out;
  }

  /** Adds `share` times the probability of each slip of each censored reading to `out`, by what is foretold of it alone. */
  addLost(share: number, mean: Float64Array, { varianceOf }: Tolerances, spreads: Spreads, out: Float64Array) {
    const { shown, lost, any } = this.slips.censored;
    for (let i = this.measured; i < this.count; i += 1) {
      let variance = this.variance[i] + varianceOf(i);
      for (let s = 0; s < spreads.count; s += 1) variance += spreads.weights[s] * spreads.vectors[s][i] ** 2;
      const side = this.side[i];
      const beyond = shown * normalTail((Math.sign(side) * (mean[i] - this.y[i])) / Math.sqrt(variance));
      const noContact = Math.abs(side) === 2 ? lost : 0;
      const all = beyond + noContact + any;
      if (!(all > 0)) continue;
      out[i * SLIP_COUNT + UNRELATED] += (share * noContact) / all;
      out[i * SLIP_COUNT + UNRELATED + 1] += (share * any) / all;
    }
  }

  /**
   * The most probable parameters z₁ = JᵀC⁻¹r, leaving out readings in `without`. Writes into `out`; j is readings ×
   * parameters, `tolerance` its J·Jᵀ as a packed lower triangle.
   */
  likeliestParameters(
    mean: Float64Array,
    tolerance: Float64Array,
    spreads: Spreads,
    j: Float64Array,
    without: readonly number[],
    out: Float64Array,
  ) {
    const { measured: m, y, variance } = this;
    const c = new Float64Array(m * m);
    for (let i = 0, at = 0; i < m; i += 1) {
      for (let k = 0; k <= i; k += 1, at += 1) {
        c[i * m + k] = tolerance[at];
        for (let s = 0; s < spreads.count; s += 1)
          c[i * m + k] += spreads.weights[s] * spreads.vectors[s][i] * spreads.vectors[s][k];
      }
      c[i * m + i] += variance[i];
    }
    for (const i of without) c[i * m + i] *= NO_SAY;
    factorInPlace(c, m);
    const x = Float64Array.from({ length: m }, (_, i) => y[i] - mean[i]);
    solveFactoredInPlace(c, x);
    const P = out.length;
    out.fill(0);
    for (let i = 0; i < m; i += 1) for (let p = 0; p < P; p += 1) out[p] += j[i * P + p] * x[i];
  }
}

/** To which side a reading is censored; twice that where a lost contact shows just that: OL of an ohmmeter, nothing of others. */
function sideOf({ beyond, isOff }: Reader): number {
  if (beyond === "none") return 0;
  const side = beyond === "over" ? 1 : -1;
  return isOff === (beyond === "over") ? 2 * side : side;
}
