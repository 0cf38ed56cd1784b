import { CONTACT_KINDS, type Network, unitOfValue } from "../circuit/index.ts";
import type { FaultAt } from "../faults/index.ts";
import { faultsAt, type Prediction, type RankInput, type RankProblem } from "../rank/index.ts";
import type { NumericReading } from "../record/index.ts";
import { supposedAt } from "./points.ts";
import { predictionsUnder, preparedFor } from "./prepared.ts";
import { nominalOf, type Supposed } from "./supposed.ts";

/** What a reading would be against the value of one part. */
export interface Curve {
  readonly kind: "curve";
  readonly unit: "ohm" | "V";
  readonly nominal: number;
  /** Values of the part, ascending; logarithmic steps for ohms. */
  readonly xs: Float64Array;
  /** What the meter shows there, and two standard deviations of tolerances and meter. */
  readonly ys: Float64Array;
  readonly twos: Float64Array;
  /** What it shows in the healthy circuit. */
  readonly healthy: Prediction;
  /** Stretches of values at which what was read agrees with the curve; none where nothing was read. */
  readonly agrees: readonly (readonly [number, number])[];
}

const STEPS = 160;
/** Ohms of a part are followed over this factor either way, a contact from 10 mΩ to 10 kΩ, volts from none to 1.5 times. */
const FACTOR = 100;
const CONTACT = [0.01, 1e4] as const;

/**
 * Follows one reading over the values of a part, other supposed faults being there.
 * @param point what is read; its value is what the meter showed where `isRead`
 * @param part name of a branch
 */
export function curveOf(
  input: RankInput,
  point: NumericReading,
  isRead: boolean,
  part: string,
  supposed: readonly Supposed[] = [],
): Curve | RankProblem {
  const others = supposed.filter((f) => !("part" in f && f.part === part));
  const made = preparedFor(input, [point], others);
  if (made.kind === "problem") return made;
  const { prepared, faults } = made;
  const { network } = prepared;
  const shownUnder = (there: readonly FaultAt[]) => predictionsUnder(prepared, there)[0];
  const k = network.branches.findIndex((b) => b.name === part);
  if (k < 0) return { kind: "problem", what: "circuit", message: `there is no part ${part} in this circuit` };
  const isVolts = unitOfValue(network.branches[k].kind) === "V";
  const nominal = nominalOf(network.branches[k], "high");
  const xs = valuesOf(network, k, nominal);
  const at = (x: number): FaultAt => {
    // At the drawn value itself it is the drawn part, with its tolerance; here its value is given.
    const value = x === nominal ? x * (1 + 1e-9) : x;
    return { site: { branch: k, bridge: -1, mode: value > nominal ? "high" : "low", weight: 0, value: null }, value };
  };
  const shows = xs.map((x) => shownUnder([...faults, at(x)]));
  const ys = Float64Array.from(shows, (s) => s.value);
  const twos = Float64Array.from(shows, (s) => s.plusMinus);
  return {
    kind: "curve",
    unit: isVolts ? "V" : "ohm",
    nominal,
    xs: Float64Array.from(xs),
    ys,
    twos,
    healthy: shownUnder([]),
    agrees: isRead ? stretches(xs, ys, twos, point.value, !isVolts) : [],
  };
}

function valuesOf({ branches }: Network, k: number, nominal: number): number[] {
  const { kind } = branches[k];
  const steps = Array.from({ length: STEPS + 1 }, (_, i) => i / STEPS);
  if (unitOfValue(kind) === "V") return steps.map((t) => 1.5 * nominal * t);
  const [least, most] = CONTACT_KINDS.has(kind) ? CONTACT : [nominal / FACTOR, nominal * FACTOR];
  return steps.map((t) => least * (most / least) ** t);
}

/** Stretches of `xs` where `read` lies within the window, ends found between the steps by a straight line. */
function stretches(
  xs: readonly number[],
  ys: Float64Array,
  twos: Float64Array,
  read: number,
  isLogarithmic: boolean,
): [number, number][] {
  const side = xs.map((_, i) => {
    const off = read - ys[i];
    return Math.abs(off) <= twos[i] ? 0 : Math.sign(off);
  });
  const between = (i: number, k: number, share: number) =>
    isLogarithmic ? xs[i] * (xs[k] / xs[i]) ** share : xs[i] + (xs[k] - xs[i]) * share;
  /** Where the window's edge on the side of `out` passes the reading, on the way from step i to k. */
  const crossing = (i: number, k: number, edge: number) => {
    const gap = (n: number) => read - ys[n] - edge * twos[n];
    const share = gap(i) / (gap(i) - gap(k));
    return between(i, k, Math.min(1, Math.max(0, share)));
  };
  const found: [number, number][] = [];
  let from: number | null = side[0] === 0 ? xs[0] : null;
  for (let i = 1; i < xs.length; i += 1) {
    const [was, is] = [side[i - 1], side[i]];
    if (was === is) continue;
    const start = was === 0 ? from : crossing(i - 1, i, was);
    const end = is === 0 ? null : crossing(i - 1, i, is);
    if (end === null) from = start;
    else {
      if (start !== null) found.push([start, end]);
      from = null;
    }
  }
  if (from !== null) found.push([from, xs[xs.length - 1]]);
  return found;
}

/** A single fault that would make a reading what is wished for. */
export interface Wished {
  readonly fault: Supposed;
  /** Values between which it would, where it has one; the fault has the best of them. */
  readonly between: readonly [number, number] | null;
  /** What it would show, and two standard deviations. */
  readonly shows: Prediction;
  /** How often it happens, as a share of all single faults. */
  readonly share: number;
  /** Of the readings taken so far, how many it leaves further off than their limits. */
  readonly against: number;
}

const TRIED = 96;

/**
 * Which single faults would make a reading show its value, the commonest first; values are solved for.
 * @param point with the value that is wished for
 */
export function wishedFaults(input: RankInput, point: NumericReading): readonly Wished[] | RankProblem {
  const made = preparedFor(input, [point], []);
  if (made.kind === "problem") return made;
  const { prepared } = made;
  const { network, set, prior, numericCount } = prepared;
  const shownUnder = (there: readonly FaultAt[]) => predictionsUnder(prepared, there)[0];
  const all = prior.singles.reduce((sum, s) => sum + s.sites[0].weight, 0);
  const { predictor } = prepared.integrator;
  const outcome = predictor.newOutcome();
  const readings = set.probes.slice(0, numericCount);
  const againstOf = (faults: readonly FaultAt[]) => {
    predictor.predict(faults, "variances", outcome);
    return readings.filter(({ reading, error }, r) => {
      const two = 2 * Math.sqrt(predictor.varianceOf(outcome, r) + error.own ** 2);
      const off = reading.value - outcome.y[r];
      return reading.beyond === "over" ? off > two : reading.beyond === "under" ? -off > two : Math.abs(off) > two;
    }).length;
  };
  const found = prior.singles.flatMap(({ sites }): Wished[] => {
    const [site] = sites;
    const base = { share: site.weight / all };
    if (!site.value) {
      const fault = supposedAt(network, set.bridges, site, 0);
      const shows = shownUnder(faultsAt(sites, []));
      if (!fault || Math.abs(point.value - shows.value) > shows.plusMinus) return [];
      return [{ ...base, fault, between: null, shows, against: againstOf(faultsAt(sites, [])) }];
    }
    const shares = Array.from({ length: TRIED + 1 }, (_, i) => i / TRIED);
    const shows = shares.map((t) => shownUnder(faultsAt(sites, [t])));
    const isLevel = shows.every((s) => Math.abs(s.value - shows[0].value) < 1e-9);
    if (isLevel) return [];
    return stretches(
      shares,
      Float64Array.from(shows, (s) => s.value),
      Float64Array.from(shows, (s) => s.plusMinus),
      point.value,
      false,
    ).flatMap(([from, to]): Wished[] => {
      const best = bestShare(shares, shows, point.value, from, to);
      const fault = supposedAt(network, set.bridges, site, best);
      if (!fault || !site.value) return [];
      const ends = [site.value(from), site.value(to)] as const;
      const at = [{ site, value: "value" in fault ? (fault.value ?? 0) : 0 }];
      return [
        {
          ...base,
          fault,
          between: [Math.min(...ends), Math.max(...ends)],
          shows: shownUnder(at),
          against: againstOf(at),
        },
      ];
    });
  });
  return found.sort((a, b) => a.against - b.against || b.share - a.share);
}

/** Where in a stretch the curve passes what is wished for; its middle where it does not. */
function bestShare(
  shares: readonly number[],
  shows: readonly Prediction[],
  wished: number,
  from: number,
  to: number,
): number {
  for (let i = 1; i < shares.length; i += 1) {
    const [a, b] = [shows[i - 1].value - wished, shows[i].value - wished];
    if (shares[i] < from || shares[i - 1] > to || a * b > 0 || a === b) continue;
    return Math.min(to, Math.max(from, shares[i - 1] + ((shares[i] - shares[i - 1]) * a) / (a - b)));
  }
  return (from + to) / 2;
}
