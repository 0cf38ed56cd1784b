import { BYTES, workspace } from "./workspace.ts";

/** Rank-one terms of a covariance at most. */
const MOST_SPREADS = 4;
/** Readings in the largest set that may be mis-taken at once. */
const MOST = 3;

/** Rank-one terms of a covariance, v·vᵀ·weight each: how far a cell stretches. Owned by the caller, filled in place. */
export class Spreads {
  readonly vectors: readonly Float64Array[];
  readonly weights = new Float64Array(MOST_SPREADS);
  count = 0;

  constructor(readings: number) {
    this.vectors = Array.from({ length: MOST_SPREADS }, () => new Float64Array(readings));
  }

  /** The next vector to be filled. */
  next(weight: number): Float64Array {
    this.weights[this.count] = weight;
    return this.vectors[this.count++];
  }

  copy(): Spreads {
    const made = new Spreads(this.vectors[0].length);
    for (let k = 0; k < this.count; k += 1) made.next(this.weights[k]).set(this.vectors[k]);
    return made;
  }
}

/** What n readings are, the first m measured, the rest censored. */
export interface ReadingTerms {
  /**
   * Values, the meters' variances, and to which side a reading is censored (1: beyond its range, −1: below; twice that
   * where a lost contact shows just that).
   */
  readonly y: Float64Array;
  readonly variance: Float64Array;
  readonly beyond: Float64Array;
}

/** How the m measured readings may have been mis-taken. */
export interface SlipTerms {
  readonly isPossible: boolean;
  /** Log prior and density of an unrelated reading: m; and what each factor adds to a reading's variance: m × 5. */
  readonly logUnrelated: Float64Array;
  readonly widening: Float64Array;
  /** Whether a slip by each of the factors would show, m × 5; and their log priors with the Jacobians. */
  readonly shows: Uint8Array;
  readonly logScaled: Float64Array;
  /** Log prior of a reading taken well. */
  readonly logGood: number;
  /** Readings that may all show nothing together, and the log prior and density of that. */
  readonly spoiled: readonly number[];
  readonly logSpoiled: number;
  /** Chances that a censored reading shows what is there, what a lost contact shows, and anything. */
  readonly censored: { readonly shown: number; readonly lost: number; readonly any: number };
}

/** What is foretold: a mean, the average of one to four covariances (packed lower triangles), and how far a cell stretches. */
export interface Predicted {
  readonly mean: Float64Array;
  readonly covariances: readonly Float64Array[];
  readonly spreads: Spreads;
}

/** Log density of the readings; and DᵀC₀⁻¹D of the first two spreads: how many standard deviations each is long, squared. */
export interface Weight {
  readonly log: number;
  readonly sizes: readonly [number, number];
}

/** How the readings were probably taken. */
export interface SlipShares {
  /** Probability of each slip of each measured reading, readings × 6: by each factor, then unrelated. */
  readonly shares: Float64Array;
  /** Probability that all silent ones were spoiled together. */
  readonly spoiled: number;
  /** The likeliest set of mis-taken readings; null where all silent ones are it. */
  readonly likeliest: readonly number[] | null;
}

/** The readings' density, with one layout for every call. */
export class Density {
  private readonly fixed: Float64Array;
  private readonly n: number;
  private readonly m: number;
  private readonly spoiled: number;
  private readonly room: Int32Array;

  constructor(slips: SlipTerms, { y, variance, beyond }: ReadingTerms) {
    this.n = y.length;
    this.m = slips.logUnrelated.length;
    this.spoiled = slips.spoiled.length;
    const { logUnrelated, widening, shows, logScaled } = slips;
    const { shown, lost, any } = slips.censored;
    const scalars = [slips.logGood, slips.logSpoiled, shown, lost, any, Number(slips.isPossible)];
    const blocks = [y, variance, beyond, logUnrelated, widening, shows, logScaled, scalars, slips.spoiled];
    this.fixed = Float64Array.from(blocks.flatMap((block) => [...block]));
    this.room = Int32Array.from({ length: 5 }, (_, k) => workspace().kernels.roomOf(this.n, this.m, k, this.spoiled));
  }

  /**
   * Density of the readings under what is foretold with the meters' own variance.
   * @param most how many readings may have been mis-taken at once
   * @param floor log density below which a rough answer will do
   */
  of({ mean, covariances, spreads }: Predicted, most: number, floor = Number.NEGATIVE_INFINITY): Weight {
    const { fixed, n, m } = this;
    const space = workspace();
    const { start, kernels } = space;
    const view = space.withRoom(this.room[covariances.length]);
    let at = start;
    view.set(fixed, at);
    at += fixed.length;
    view.set(mean, at);
    at += n;
    for (let k = 0; k < covariances.length; k += 1, at += (n * (n + 1)) / 2) view.set(covariances[k], at);
    for (let s = 0; s < spreads.count; s += 1) view.set(spreads.vectors[s], at + s * n);
    view.set(spreads.weights, at + MOST_SPREADS * n);
    const { spoiled } = this;
    const log = kernels.density(start * BYTES, n, m, covariances.length, spreads.count, spoiled, most, floor);
    return { log, sizes: [kernels.spreadSize(0), kernels.spreadSize(1)] };
  }

  /** The same with how the readings were probably taken: what the kernels still hold of that one call. */
  withSlips(predicted: Predicted, most: number): Weight & SlipShares {
    const weight = this.of(predicted, most);
    const { kernels, start } = workspace();
    const members = Array.from({ length: MOST }, (_, s) => kernels.likeliest(s));
    const likeliest = members[0] === -2 ? null : members.filter((i) => i >= 0);
    // The constants at the beginning have done their work.
    kernels.slipShares(this.m, start * BYTES);
    const shares = workspace()
      .withRoom(0)
      .slice(start, start + 6 * this.m);
    return { ...weight, shares, spoiled: Math.exp(kernels.logShareOfSpoiled()), likeliest };
  }
}
