import type { Probe } from "../../measure/index.ts";

/** No display shows so much: it stands for OL. */
const OVER = 1e12;

/**
 * A meter's gain is one factor for all readings of a function and range: a column of the sensitivities, y·γ, that they
 * share like a tolerance.
 */
export class Gains {
  readonly isNone: boolean;
  private readonly gamma: Float64Array;
  private readonly group: Int32Array;

  constructor(probes: readonly Probe[]) {
    this.gamma = Float64Array.from(probes, (p) => p.error.gain);
    const names = [...new Set(probes.map((p) => p.error.group))];
    this.group = Int32Array.from(probes, ({ error }) => (error.gain > 0 ? names.indexOf(error.group) : -1));
    this.isNone = this.group.every((g) => g < 0);
  }

  /** Covariance of readings a and b, predicted as `y`. */
  between(a: number, b: number, y: Float64Array): number {
    const { group, gamma } = this;
    return group[a] >= 0 && group[a] === group[b] ? gamma[a] * y[a] * gamma[b] * y[b] : 0;
  }

  /** Adds their covariance to that of the first `n` readings, a packed lower triangle. */
  addTo(packed: Float64Array, n: number, y: Float64Array) {
    if (this.isNone) return;
    const { group, gamma } = this;
    for (let i = 0, at = 0; i < n; i += 1) {
      const g = group[i];
      const own = gamma[i] * y[i];
      // What shows OL has no percentage.
      if (g < 0 || !(Math.abs(own) < OVER)) {
        at += i + 1;
        continue;
      }
      for (let k = 0; k <= i; k += 1, at += 1)
        if (group[k] === g && Math.abs(y[k]) < OVER) packed[at] += own * gamma[k] * y[k];
    }
  }
}
