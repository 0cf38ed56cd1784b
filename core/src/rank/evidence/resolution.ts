/** How finely values are integrated. */
export interface Resolution {
  /** Cells along one unknown value, and along each of two. */
  readonly start: number;
  readonly startOfTwo: number;
  /** Split while a cell is longer than this many standard deviations, squared; twice that with two unknowns. */
  readonly split: number;
  /** … and holds more than this share of its hypothesis and, as a logarithm, of everything. */
  readonly ownShare: number;
  readonly totalLog: number;
  /** What a coarse cell's Gaussian may understate the mass in it by, as a logarithm, per factor of two in length. */
  readonly slack: number;
  /** The same for the bound of all of an unknown value's range as one cell. */
  readonly wholeSlack: number;
  /** Hypotheses that get no exact mass could together carry this share of everything, as a logarithm. */
  readonly rough: number;
  /** Smallest number of halvings of the whole range that a cell may measure, as an exponent. */
  readonly deepest: number;
}

export const DEFAULT_RESOLUTION: Resolution = {
  start: 2,
  startOfTwo: 1,
  split: 1,
  ownShare: 0.01,
  totalLog: -9,
  slack: 2,
  wholeSlack: 6,
  rough: -10,
  deepest: 22,
};
