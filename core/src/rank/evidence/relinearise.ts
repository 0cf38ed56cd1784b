import { faultsAt } from "../hypotheses/cells.ts";
import type { Parameter } from "../prediction/parameters.ts";
import type { Detail, Integrated, Integrator } from "./integrator.ts";

/** A part is not moved nearer to zero than this share of its nominal value. */
const LEAST_FACTOR = 0.05;

/** Where no parameter is pulled further than this many standard deviations, nothing bends. */
const NO_PULL = 0.25;

/**
 * Tolerances bend: linearises the readings once more round the most probable parameters z₁ of a hypothesis' best cell.
 * @returns log N(r; y(z₁) − J₁z₁, C₁) − log N(r; y, C), to be added to the hypothesis' log mass
 */
export function bendCorrection(integrator: Integrator, result: Integrated, { best }: Detail): number {
  const { predictor, evidence } = integrator;
  const { set, parameters } = predictor;
  const P = parameters.length;
  if (P === 0 || evidence.measured === 0 || result.hypothesis.meter) return 0;
  const n = evidence.count;
  const faults = faultsAt(result.hypothesis.sites, best.at);
  const most = result.hypothesis.sites.length > 1 ? 2 : 3;
  const tolerance = new Float64Array((n * (n + 1)) / 2);
  const usual = predictor.predict(faults, "sensitivities");
  predictor.covarianceInto(usual, n, tolerance);
  const before = evidence.density({ mean: usual.y, covariances: [tolerance], spreads: best.spreads }, most).log;
  const z = new Float64Array(P);
  evidence.likeliestParameters(usual.y, tolerance, best.spreads, usual.j, best.likeliest, z);
  const factors = new Float64Array(P).fill(1);
  if (!z.some((pull) => Math.abs(pull) > NO_PULL)) return 0;
  parameters.forEach((parameter, p) => {
    if (!isMoved(parameter)) z[p] = 0;
  });
  const bySection = z.slice();
  predictor.tracks.turnBack(bySection);
  parameters.forEach((parameter, p) => {
    if (isMoved(parameter))
      factors[p] = Math.max(
        LEAST_FACTOR,
        1 + (set.network.branches[parameter.branch].part.tolerance / 2) * bySection[p],
      );
  });
  const moved = predictor.newOutcome();
  predictor.predictAfresh(faults, true, moved, factors);
  predictor.covarianceInto(moved, n, tolerance);
  const { y, j } = moved;
  for (let i = 0; i < n; i += 1) for (let p = 0; p < P; p += 1) y[i] -= j[i * P + p] * z[p];
  const after = evidence.density({ mean: y, covariances: [tolerance], spreads: best.spreads }, most).log;
  return Number.isFinite(after) && Number.isFinite(before) ? after - before : 0;
}

/** Spreads of filaments and motors are not moved: they do not change the network that is solved. */
function isMoved({ acts }: Parameter): boolean {
  return acts === "ohms" || acts === "volts";
}
