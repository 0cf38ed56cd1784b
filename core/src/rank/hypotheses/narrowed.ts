import type { Circuit, Part } from "../../circuit/index.ts";
import { factorInPlace } from "../../kernels/index.ts";
import { solvePositive, type Unknown, WIDE, withValues } from "./unknownParts.ts";

/** What readings leave of the unknowns together: the most probable values, and the information about them, U × U. */
interface Left {
  readonly at: readonly number[];
  readonly information: Float64Array;
}

interface Told {
  readonly value: number;
  readonly low: number;
  readonly high: number;
  readonly isSettled: boolean;
}

/** What a resistance may be of which nothing is known; and up to what a supply, beside its estimate. */
const ANY_OHMS = [10, 1e7] as const;
const ANY_VOLTS = 2;
/** Standard deviations that the cases go out along each direction; unknowns of which every combination is tried. */
const OUT = 2;
const FEW = 4;

/** As far as the readings have narrowed it: settled values with their spread; where some are not, the cases that are left. */
export function narrow(
  circuit: Circuit,
  unknowns: readonly Unknown[],
  estimates: readonly Told[],
  found: Left,
): Circuit {
  const plain = withValues(circuit, unknowns, found.at, WIDE);
  const isSettled = estimates.every((e) => e.isSettled);
  const cases = isSettled ? [] : casesOf(unknowns, found);
  const parts = plain.parts.map((part): Part => {
    const u = unknowns.findIndex((one) => one.part.designator === part.designator);
    if (u < 0) return part;
    const { value, low, high } = estimates[u];
    const tolerance = Math.min(WIDE, Math.max(high - value, value - low) / Math.max(Math.abs(value), 1e-9));
    return isSettled ? { ...part, tolerance } : { ...part, reach: cases.map((c) => c[u]) };
  });
  return { ...plain, parts };
}

/** Values on the edge of what the readings leave, along the directions in which they leave it: ratios stay as they were read. */
function casesOf(unknowns: readonly Unknown[], { at, information }: Left): number[][] {
  const U = unknowns.length;
  const directions = directionsOf(information, U);
  const signs =
    U <= FEW
      ? Array.from({ length: 2 ** U }, (_, n) => unknowns.map((_, k) => ((n >> k) & 1 ? 1 : -1)))
      : unknowns.flatMap((_, u) => [-1, 1].map((s) => unknowns.map((_, k) => (k === u ? s : 0))));
  /** How far one can go from `at` along a step before a value is none that a part may have. */
  const room = (step: readonly number[]) =>
    Math.min(
      OUT,
      ...unknowns.map(({ isSupply }, u) => {
        const most = isSupply ? ANY_VOLTS * Math.max(Math.abs(at[u]), 1) : Math.log(ANY_OHMS[1]);
        const least = isSupply ? 0 : Math.log(ANY_OHMS[0]);
        const left = Math.max(0, step[u] > 0 ? most - at[u] : at[u] - least);
        return step[u] === 0 ? Number.POSITIVE_INFINITY : left / Math.abs(step[u]);
      }),
    );
  const inUnits = (v: number, u: number) => (unknowns[u].isSupply ? v : Math.exp(v));
  return [
    at.map(inUnits),
    ...signs.map((sign) => {
      const steps = directions.map((d, k) => d.map((v) => v * sign[k]));
      const far = steps.map(room);
      return at.map((v, u) => inUnits(v + steps.reduce((s, step, k) => s + far[k] * step[u], 0), u));
    }),
  ];
}

/** Directions in which the unknowns are uncertain, a standard deviation long each: the columns of L, with L·Lᵀ = H⁻¹. */
function directionsOf(information: Float64Array, U: number): number[][] {
  const covariance = new Float64Array(U * U);
  for (let u = 0; u < U; u += 1) {
    const unit = new Float64Array(U);
    unit[u] = 1;
    solvePositive(information, unit).forEach((v, k) => {
      covariance[k * U + u] = v;
    });
  }
  factorInPlace(covariance, U);
  return Array.from({ length: U }, (_, k) => Array.from({ length: U }, (_, u) => (u >= k ? covariance[u * U + k] : 0)));
}
