import type { Trace } from "./sensitivities.ts";
import type { Waiting } from "./waiting.ts";

/** How much an outcome holds: what readings show; also how far tolerances move each; also by which part. */
export type Held = "values" | "variances" | "sensitivities";

/** What readings show under some faults: a predictor fills it, and whoever had it filled keeps it. */
export class Outcome {
  held: Held = "values";
  /** What every probe shows; NaN where the faults make the network unsolvable. */
  readonly y: Float64Array;
  private made: Float64Array | null = null;

  /** @param size of `j` */
  constructor(
    probes: number,
    private readonly size: number,
    readonly trace: Trace,
    readonly waiting: Waiting,
  ) {
    this.y = new Float64Array(probes);
  }

  /** Sensitivities, measured readings × parameters, row-major, per standard deviation; filled where they are held. */
  get j(): Float64Array {
    this.made ??= new Float64Array(this.size);
    return this.made;
  }
}
