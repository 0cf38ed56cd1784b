import type { FaultAt } from "../../faults/index.ts";
import { Spreads } from "../../kernels/index.ts";
import { Evidence } from "../evidence/evidence.ts";
import { readerOf } from "../evidence/reader.ts";
import { spansOf } from "../evidence/spans.ts";
import type { Prepared } from "../prepare.ts";
import type { Prediction } from "./describe.ts";

/** How faults at settled values go with the readings. */
export interface Fit {
  /** For each numeric reading, in the order given: its place among all readings, and what it should be. */
  readonly readings: readonly (Prediction & { readonly index: number })[];
  /** log₂ of the density of each, those before it given; slips included. */
  readonly bits: readonly number[];
  /** The same of all that was read and seen. */
  readonly total: number;
}

/**
 * Weighs faults at settled values, however many: no prior, and no value left to integrate over.
 * @returns what gives the fit of some faults, in O(readings²) each
 */
export function fitter(prepared: Prepared): (faults: readonly FaultAt[]) => Fit | null {
  const { set, meter, priors, places, members, numericCount, integrator, observations } = prepared;
  const { predictor } = integrator;
  const spans = spansOf(set);
  const readers = set.probes.slice(0, numericCount).map((p, i) => readerOf(p, meter, spans[i], places[i]));
  const prefixes = readers.map((_, k) => new Evidence(readers.slice(0, k + 1), priors));
  const outcome = predictor.newOutcome();
  const covariance = new Float64Array((numericCount * (numericCount + 1)) / 2);
  const inOrder = members.flatMap((all, i) => all.map((index) => ({ i, index }))).sort((a, b) => a.index - b.index);
  return (faults) => {
    predictor.predict(faults, "variances", outcome);
    const { y } = outcome;
    if (!y.subarray(0, numericCount).every(Number.isFinite)) return null;
    predictor.covarianceInto(outcome, numericCount, covariance);
    const most = faults.length > 1 ? 2 : 3;
    const logs = prefixes.map((evidence, k) => {
      const n = k + 1;
      const covariances = [covariance.slice(0, (n * (n + 1)) / 2)];
      return evidence.density({ mean: y.slice(0, n), covariances, spreads: new Spreads(n) }, most).log;
    });
    const seen = observations?.logLikelihood(y, faults) ?? 0;
    return {
      readings: inOrder.map(({ i, index }) => ({
        index,
        value: y[i],
        plusMinus: 2 * Math.sqrt(predictor.varianceOf(outcome, i) + set.probes[i].error.own ** 2 * members[i].length),
      })),
      bits: inOrder.map(({ i }) => (logs[i] - (logs[i - 1] ?? 0)) / Math.LN2 / members[i].length),
      total: ((logs[logs.length - 1] ?? 0) + seen) / Math.LN2,
    };
  };
}
