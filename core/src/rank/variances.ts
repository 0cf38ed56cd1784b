import type { ProbeSet } from "../measure/index.ts";
import type { Change } from "./change.ts";
import type { Couplings } from "./couplings.ts";
import { Moments } from "./moments.ts";
import { PairMoments } from "./pairMoments.ts";
import type { Parameter } from "./parameters.ts";

/** What a prediction remembers, so that each reading's variance by tolerances is worked out only when it is asked for. */
export interface Trace {
  /** The one or two changed elements in every setting; null where `diagonal` is complete. */
  changes: readonly (readonly Change[])[] | null;
  /** Sources and adjoints of the changed elements, readings × 2. */
  readonly source: Float64Array;
  readonly adjoint: Float64Array;
  /** Variances of the measured readings; NaN until asked for. */
  readonly diagonal: Float64Array;
}

export function newTrace(readings: number): Trace {
  return {
    changes: null,
    source: new Float64Array(2 * readings),
    adjoint: new Float64Array(2 * readings),
    diagonal: new Float64Array(readings),
  };
}

/** Variances of readings by tolerances under one or two changed elements, without the sensitivities. */
export class Variances {
  private readonly moments: Moments;
  private readonly pairMoments: PairMoments;
  /** Parameters that belong to each element. */
  private readonly own: readonly (readonly number[])[];
  private readonly isVolts: readonly boolean[];

  constructor(
    private readonly set: ProbeSet,
    parameters: readonly Parameter[],
    measured: number,
    couplings: Couplings,
  ) {
    this.isVolts = parameters.map((p) => p.acts === "volts");
    const own = Array.from({ length: set.elementCount }, (): number[] => []);
    parameters.forEach(({ branch }, p) => {
      own[branch].push(p);
    });
    this.own = own;
    this.moments = new Moments(set, parameters.length, measured, couplings);
    this.pairMoments = new PairMoments(parameters.length, measured, couplings);
  }

  /** Variance of a measured reading. */
  of(trace: Trace, r: number): number {
    const { changes, diagonal } = trace;
    if (changes === null || !Number.isNaN(diagonal[r])) return diagonal[r];
    const here = changes[this.set.probes[r].setting];
    const variance = here.length === 1 ? this.underOne(trace, r, here[0]) : this.underTwo(trace, r, here[0], here[1]);
    diagonal[r] = Math.max(variance, 0);
    return diagonal[r];
  }

  private underOne({ source, adjoint }: Trace, r: number, change: Change): number {
    const { element } = change;
    const s = source[2 * r];
    const l = adjoint[2 * r];
    let variance = this.moments.variance(r, element, s, l);
    const own = this.own[element];
    for (let i = 0; i < own.length; i += 1)
      if (this.isForgotten(own[i], change)) variance -= this.moments.moved(r, own[i], element, s, l) ** 2;
    return variance;
  }

  private underTwo({ source, adjoint }: Trace, r: number, one: Change, two: Change): number {
    const { pairMoments } = this;
    const s1 = source[2 * r];
    const s2 = source[2 * r + 1];
    const l1 = adjoint[2 * r];
    const l2 = adjoint[2 * r + 1];
    pairMoments.attend(one.element, two.element);
    let variance = pairMoments.variance(r, s1, s2, l1, l2);
    for (let which = 0; which < 2; which += 1) {
      const change = which === 0 ? one : two;
      const own = this.own[change.element];
      for (let i = 0; i < own.length; i += 1)
        if (this.isForgotten(own[i], change)) variance -= pairMoments.moved(r, own[i], s1, s2, l1, l2) ** 2;
    }
    return variance;
  }

  /** A changed element's own tolerance is replaced by the fault, but a weak supply keeps that of its voltage. */
  isForgotten(p: number, { added, gain }: Change): boolean {
    return !this.isVolts[p] || added !== 0 || !Number.isFinite(gain);
  }

  ownOf(element: number): readonly number[] {
    return this.own[element];
  }
}
