import { faultsAt } from "../hypotheses/cells.ts";
import type { Outcome } from "../prediction/outcome.ts";
import type { Parameter } from "../prediction/parameters.ts";
import type { Predictor } from "../prediction/predictor.ts";
import { type Detail, type Hypothesis, type Integrated, type Integrator, meterFactor, mostOf } from "./integrator.ts";

/** A part is not moved nearer to zero than this share of its nominal value. */
const LEAST_FACTOR = 0.05;

/** Where no parameter is pulled further than this many standard deviations, nothing bends … */
const NO_PULL = 0.25;
/** … and further than this no part is: that would be a fault. */
const FARTHEST = 5;
/** What a mass may have beside its densest cell's readings: looks, the complaint. */
const ROOM = 3;
/** Lines laid through one point after the other until they are laid through the most probable one. */
const MOST_ROUNDS = 4;

/**
 * Tolerances bend: linearises the readings once more round the most probable parameters z₁ of a hypothesis' best cell,
 * which are found as Gauss and Newton do.
 * @returns log N(r; y(z₁) − J₁z₁, C₁) − log N(r; y, C), to be added to the hypothesis' log mass; 0 where there is no z₁
 */
export function bendCorrection(integrator: Integrator, { hypothesis, logMass }: Integrated, { best }: Detail): number {
  const { predictor, evidence } = integrator;
  const { parameters } = predictor;
  const P = parameters.length;
  if (P === 0 || evidence.measured === 0) return 0;
  const most = mostOf(hypothesis);
  const faults = faultsAt(hypothesis.sites, best.at);
  const usual = shownBy(integrator, hypothesis, best.at, predictor.predict(faults, "sensitivities"));
  const density = ({ y, tolerance }: Shown) =>
    evidence.density({ mean: y, covariances: [tolerance], spreads: best.spreads }, most).log;
  const before = density(usual);
  const z = new Float64Array(P);
  const last = new Float64Array(P);
  const moved = predictor.newOutcome();
  let there = usual;
  for (let round = 0; ; round += 1) {
    evidence.likeliestParameters(there.y, there.tolerance, best.spreads, there.j, best.likeliest, z);
    if (round === 0 && !z.some((pull) => Math.abs(pull) > NO_PULL)) return 0;
    parameters.forEach((parameter, p) => {
      if (!isMoved(parameter)) z[p] = 0;
    });
    if (!z.some((pull, p) => Math.abs(pull - last[p]) > NO_PULL)) break;
    // What runs far off, or on from round to round, is not explained by its parts.
    if (round === MOST_ROUNDS || z.some((pull) => Math.abs(pull) > FARTHEST)) return 0;
    last.set(z);
    predictor.predictAfresh(faults, true, moved, factorsAt(predictor, z));
    there = shownBy(integrator, hypothesis, best.at, moved);
    const { y, j } = there;
    for (let i = 0; i < evidence.count; i += 1) for (let p = 0; p < P; p += 1) y[i] -= j[i * P + p] * z[p];
  }
  const after = density(there);
  if (!Number.isFinite(after) || !Number.isFinite(before)) return 0;
  // Where the mass is but a bound, it rises to no more than the readings there allow.
  return Math.min(after - before, Math.max(0, after - (logMass - hypothesis.logPrior) + ROOM));
}

/** Factors of the parts' values at so many standard deviations of each; a potentiometer's two sections have their track's. */
function factorsAt({ set, parameters, tracks }: Predictor, z: Float64Array): Float64Array {
  const bySection = z.slice();
  tracks.turnBack(bySection);
  return Float64Array.from(parameters, (parameter, p) => {
    if (!isMoved(parameter)) return 1;
    const { tolerance } = set.network.branches[parameter.branch].part;
    return Math.max(LEAST_FACTOR, 1 + (tolerance / 2) * bySection[p]);
  });
}

/** What readings show, how parameters move them, and their covariances: of a false meter by its factor. */
interface Shown {
  readonly y: Float64Array;
  readonly j: Float64Array;
  readonly tolerance: Float64Array;
}

function shownBy(
  { predictor, evidence: { count } }: Integrator,
  hypothesis: Hypothesis,
  at: readonly number[],
  outcome: Outcome,
): Shown {
  const P = predictor.parameters.length;
  const tolerance = new Float64Array((count * (count + 1)) / 2);
  predictor.covarianceInto(outcome, count, tolerance);
  const y = outcome.y.slice(0, count);
  const j = outcome.j.slice(0, count * P);
  const { meter } = hypothesis;
  if (meter) {
    const factor = meterFactor(hypothesis, at);
    const of = (reading: number) => (meter.took[reading] ? factor : 1);
    for (let i = 0, cell = 0; i < count; i += 1) {
      y[i] *= of(i);
      for (let p = 0; p < P; p += 1) j[i * P + p] *= of(i);
      for (let k = 0; k <= i; k += 1, cell += 1) tolerance[cell] *= of(i) * of(k);
    }
  }
  return { y, j, tolerance };
}

/** Spreads of filaments and motors are not moved: they do not change the network that is solved. */
function isMoved({ acts }: Parameter): boolean {
  return acts === "ohms" || acts === "volts";
}
