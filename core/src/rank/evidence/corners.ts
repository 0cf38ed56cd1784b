import type { FaultAt } from "../../faults/index.ts";
import type { Spreads } from "../../kernels/index.ts";
import type { Outcome } from "../prediction/outcome.ts";
import type { Predictor } from "../prediction/predictor.ts";
import type { Tolerances } from "./evidence.ts";

/** What is known of a hypothesis with its values settled: a corner or the middle of a cell. */
export interface Point {
  readonly outcome: Outcome;
  /** What the numeric readings show: `own` of the outcome, or `shown` as a false meter has it, by its factor on what it took. */
  y: Float64Array;
  readonly own: Float64Array;
  readonly shown: Float64Array;
  took: readonly boolean[] | null;
  factor: number;
  /** Their covariance, packed lower triangle; only once the variances alone do not rule the point out. */
  readonly tolerance: Float64Array;
  hasTolerance: boolean;
  faults: readonly FaultAt[];
  /** Log likelihood of what was seen, and of the prior that goes with the values. */
  logOther: number;
}

/** Along one unknown the readings run on a parabola through both ends and the middle: its mean and variance. */
export function stretch([a, b]: readonly Point[], middle: Point, mean: Float64Array, spreads: Spreads) {
  const slope = spreads.next(1 / 12);
  const bend = spreads.next(1 / 180);
  for (let i = 0; i < mean.length; i += 1) {
    const average = (a.y[i] + b.y[i]) / 2;
    mean[i] = average / 3 + (2 / 3) * middle.y[i];
    slope[i] = b.y[i] - a.y[i];
    bend[i] = 4 * (average - middle.y[i]);
  }
}

/** A box of two unknowns: its four corners and its middle. */
export function box([p00, p10, p01, p11]: readonly Point[], middle: Point, mean: Float64Array, spreads: Spreads) {
  const along0 = spreads.next(1 / 12);
  const along1 = spreads.next(1 / 12);
  const twist = spreads.next(1 / 144);
  const bend = spreads.next(1 / 180);
  for (let i = 0; i < mean.length; i += 1) {
    const a = p00.y[i];
    const b = p10.y[i];
    const c = p01.y[i];
    const d = p11.y[i];
    const average = (a + b + c + d) / 4;
    mean[i] = average / 3 + (2 / 3) * middle.y[i];
    along0[i] = (b - a + d - c) / 2;
    along1[i] = (c - a + d - b) / 2;
    twist[i] = a - b - c + d;
    bend[i] = 4 * (average - middle.y[i]);
  }
}

/** What was seen, and the prior of the values, averaged over a cell as the readings are. */
export function otherOf(corners: readonly Point[], middle: Point): number {
  let sum = 2;
  for (let k = 0; k < corners.length; k += 1) sum += Math.exp(corners[k].logOther - middle.logOther) / corners.length;
  return Number.isFinite(sum) ? middle.logOther + Math.log(sum / 3) : Math.max(...corners.map((c) => c.logOther));
}

/** Variances of a cell: the mean of those at its corners. */
export class CornerTolerances implements Tolerances {
  corners: readonly Point[] = [];
  readonly usual: Float64Array;

  constructor(
    private readonly predictor: Predictor,
    private readonly work: { variances: number },
  ) {
    const healthy = predictor.predict([], "variances");
    this.usual = Float64Array.from({ length: predictor.measured }, (_, r) => predictor.varianceOf(healthy, r));
  }

  varianceOf = (reading: number) => {
    let sum = 0;
    this.work.variances += this.corners.length;
    for (const { outcome, took, factor } of this.corners)
      sum += this.predictor.varianceOf(outcome, reading) * (took?.[reading] ? factor * factor : 1);
    return sum / this.corners.length;
  };
}
