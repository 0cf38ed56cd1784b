import { buildNetwork, type Circuit } from "../../circuit/index.ts";
import { factorInPlace, solveLowerInPlace } from "../../kernels/index.ts";
import { buildProbes } from "../../measure/index.ts";
import { isSamePlace, type MeterData, type NumericReading, type Reading } from "../../record/index.ts";
import { Predictor } from "../prediction/predictor.ts";
import { narrow } from "./narrowed.ts";
import { solvePositive, type Unknown, unknownParts, WIDE, withValues } from "./unknownParts.ts";

/** What the readings say of a value that was left unknown. */
export interface Estimate {
  readonly designator: string;
  readonly unit: "ohm" | "V";
  readonly value: number;
  /** Two standard deviations to either side; an unknown resistance has them by ratio. */
  readonly low: number;
  readonly high: number;
  /** False where the readings hardly narrow it: the value is no more than a beginning. */
  readonly isSettled: boolean;
}

export interface Settled {
  /** The circuit with the estimates in place of the unknowns, each with a wide spread. */
  readonly circuit: Circuit;
  /** As far as the readings have narrowed it: settled values with their own spread, the others with what they may be. */
  readonly narrowed: Circuit;
  /** The same with other values, round which a fault may make more sense of the readings. */
  readonly others: readonly Circuit[];
  readonly estimates: readonly Estimate[];
  /** Where values are not settled: readings that would narrow them, the most telling first. */
  readonly wanted: readonly NumericReading[];
}

/** Standard deviation of ln R before any reading, and of an unknown supply's volts. */
const PRIOR_LOG = Math.log(300);
const PRIOR_VOLTS = 50;
/** Middle of the priors. */
const MIDDLE_OHMS = 1000;
const START_OHMS = [1000, 30, 50_000];
/** An estimate looser than this (of ln R; of a supply's volts as a fraction) is not settled. */
const LOOSE = 0.5;
const MOST_ROUNDS = 60;

/**
 * Estimates unknown resistances and supply voltages from readings: the most probable values under wide priors (ln R and
 * E Gaussian), the known parts' tolerances and the meter's limits in the covariance, linearised again until nothing
 * moves (Gauss–Newton with Levenberg's damping). The covariance at the end gives the limits.
 * @returns null for a circuit without unknowns
 */
export function settleUnknowns(circuit: Circuit, readings: readonly Reading[], meter: MeterData): Settled | null {
  const unknowns = unknownParts(circuit);
  if (unknowns.length === 0) return null;
  const numeric = readings.filter((r): r is NumericReading => r.quantity !== "observation" && r.beyond === undefined);
  const most = numeric.reduce((top, r) => Math.max(top, r.quantity === "voltage" ? Math.abs(r.value) : 0), 0) || 12;
  let best: Fit | null = null;
  for (const ohms of START_OHMS) {
    const start = unknowns.map(({ isSupply }) => (isSupply ? most : Math.log(ohms)));
    const found = fit(circuit, unknowns, numeric, meter, start);
    if (found && (!best || found.cost < best.cost)) best = found;
  }
  const at = best?.at ?? unknowns.map(({ isSupply }) => (isSupply ? most : Math.log(MIDDLE_OHMS)));
  const deviation = best?.deviation ?? unknowns.map(({ isSupply }) => (isSupply ? PRIOR_VOLTS : PRIOR_LOG));
  const estimates = unknowns.map(({ part, isSupply }, u): Estimate => {
    const spread = 2 * deviation[u];
    const [value, low, high] = isSupply
      ? [at[u], at[u] - spread, at[u] + spread]
      : [Math.exp(at[u]), Math.exp(at[u] - spread), Math.exp(at[u] + spread)];
    const isSettled = isTight(deviation[u], unknowns[u], at[u]);
    return { designator: part.designator, unit: isSupply ? "V" : "ohm", value, low, high, isSettled };
  });
  const wanted = estimates.every((e) => e.isSettled)
    ? []
    : telling(circuit, unknowns, numeric, meter, { at, deviation });
  const others = startsFor(unknowns, most).map((values) => withValues(circuit, unknowns, values, WIDE));
  const narrowed = narrow(circuit, unknowns, estimates, best ?? { at, deviation, ...nothingKnown(unknowns) });
  return { circuit: withValues(circuit, unknowns, at, WIDE), narrowed, others, estimates, wanted };
}

/** Values of one or two unknowns about as far apart as the wide spread reaches. More of them have only their estimates. */
function startsFor(unknowns: readonly Unknown[], most: number): number[][] {
  const step = unknowns.length === 1 ? 1 : 2;
  const axis = ({ isSupply }: Unknown) =>
    isSupply
      ? [0.75, 1, 1.4, 2].map((factor) => most * factor)
      : Array.from({ length: Math.floor(14 / step) }, (_, i) => i * step + 0.5);
  if (unknowns.length === 1) return axis(unknowns[0]).map((v) => [v]);
  if (unknowns.length > 2) return [];
  return axis(unknowns[0]).flatMap((a) => axis(unknowns[1]).map((b) => [a, b]));
}

interface Fit {
  readonly at: number[];
  readonly deviation: number[];
  /** Of the unknowns together, U × U. */
  readonly information: Float64Array;
  /** −log of prior times likelihood, but for a constant. */
  readonly cost: number;
}

function fit(
  circuit: Circuit,
  unknowns: readonly Unknown[],
  readings: readonly NumericReading[],
  meter: MeterData,
  start: readonly number[],
): Fit | null {
  let at = [...start];
  let here = linearise(circuit, unknowns, readings, meter, at);
  if (!here) return null;
  let damping = 1e-3;
  for (let round = 0; round < MOST_ROUNDS; round += 1) {
    const step = solveDamped(here, damping);
    const next = at.map((v, u) => v + Math.max(-2.5, Math.min(2.5, step[u])) * (unknowns[u].isSupply ? 4 : 1));
    const there = linearise(circuit, unknowns, readings, meter, next);
    if (there && there.cost <= here.cost + 1e-12) {
      const moved = Math.max(...next.map((v, u) => Math.abs(v - at[u])));
      at = next;
      here = there;
      damping = Math.max(damping / 10, 1e-12);
      if (moved < 1e-10) break;
    } else {
      damping = Math.max(damping * 10, 1e-6);
      if (damping > 1e8) break;
    }
  }
  return {
    at,
    deviation: deviationsOf(here.information, unknowns.length),
    information: here.information,
    cost: here.cost,
  };
}

/** Standard deviations of the unknowns, each by itself. @param information U × U */
function deviationsOf(information: Float64Array, U: number): number[] {
  return Array.from({ length: U }, (_, u) => {
    const unit = new Float64Array(U);
    unit[u] = 1;
    return Math.sqrt(solvePositive(information, unit)[u]);
  });
}

/** Whether an estimate is more than a beginning. */
function isTight(deviation: number, { isSupply }: Unknown, at: number): boolean {
  return deviation < (isSupply ? LOOSE * Math.max(1, Math.abs(at)) : LOOSE);
}

function nothingKnown(unknowns: readonly Unknown[]): Pick<Fit, "information" | "cost"> {
  const U = unknowns.length;
  const information = new Float64Array(U * U);
  unknowns.forEach(({ isSupply }, u) => {
    information[u * U + u] = (isSupply ? PRIOR_VOLTS : PRIOR_LOG) ** -2;
  });
  return { information, cost: 0 };
}

interface Linear {
  /** Information about the unknowns, prior included, U × U; and the gradient towards better values. */
  readonly information: Float64Array;
  readonly gradient: Float64Array;
  readonly cost: number;
}

/** Sensitivities of readings to unknowns (readings × unknowns) and their covariance by all else, packed square. */
function sensitivities(
  circuit: Circuit,
  unknowns: readonly Unknown[],
  readings: readonly NumericReading[],
  meter: MeterData,
  at: readonly number[],
) {
  const tolerance = 0.5;
  const network = buildNetwork(withValues(circuit, unknowns, at, tolerance));
  const set = buildProbes(network, readings, { meter });
  if (set.kind !== "probes") return null;
  const predictor = new Predictor(set, meter);
  const { parameters } = predictor;
  const { y, j } = predictor.predict([], "sensitivities");
  const [m, P, U] = [readings.length, parameters.length, unknowns.length];
  const column = parameters.map(({ branch, acts }) =>
    acts === "ohms" || acts === "volts"
      ? unknowns.findIndex((u) => u.part.designator === network.branches[branch].part.designator)
      : -1,
  );
  const ju = new Float64Array(m * U);
  const c = new Float64Array(m * m);
  for (let r = 0; r < m; r += 1) {
    for (let p = 0; p < P; p += 1) {
      const u = column[p];
      if (u < 0) continue;
      const scale = (tolerance / 2) * (unknowns[u].isSupply ? Math.abs(at[u]) : 1);
      ju[r * U + u] += j[r * P + p] / scale;
    }
    for (let k = 0; k <= r; k += 1) {
      let sum = 0;
      for (let p = 0; p < P; p += 1) if (column[p] < 0) sum += j[r * P + p] * j[k * P + p];
      c[r * m + k] = sum;
    }
    for (let k = 0; k <= r; k += 1) c[r * m + k] += predictor.gains.between(r, k, y);
    c[r * m + r] += set.probes[r].error.own ** 2;
  }
  return { y, ju, c };
}

function linearise(
  circuit: Circuit,
  unknowns: readonly Unknown[],
  readings: readonly NumericReading[],
  meter: MeterData,
  at: readonly number[],
): Linear | null {
  const U = unknowns.length;
  const m = readings.length;
  const information = new Float64Array(U * U);
  const gradient = new Float64Array(U);
  let cost = 0;
  unknowns.forEach(({ isSupply }, u) => {
    const [middle, spread] = isSupply ? [0, PRIOR_VOLTS] : [Math.log(MIDDLE_OHMS), PRIOR_LOG];
    information[u * U + u] = 1 / spread ** 2;
    gradient[u] = (middle - at[u]) / spread ** 2;
    cost += 0.5 * ((at[u] - middle) / spread) ** 2;
  });
  if (m === 0) return { information, gradient, cost };
  const found = sensitivities(circuit, unknowns, readings, meter, at);
  if (!found?.y.every(Number.isFinite)) return null;
  const { y, ju, c } = found;
  factorInPlace(c, m);
  // Whitened residuals and sensitivities: L⁻¹·r and L⁻¹·J.
  const white = (column: (r: number) => number) => {
    const z = Float64Array.from({ length: m }, (_, r) => column(r));
    solveLowerInPlace(c, z);
    return z;
  };
  const z = white((r) => readings[r].value - y[r]);
  const w = unknowns.map((_, u) => white((r) => ju[r * U + u]));
  for (let i = 0; i < m; i += 1) cost += 0.5 * z[i] * z[i] + Math.log(c[i * m + i]);
  for (let u = 0; u < U; u += 1) {
    for (let i = 0; i < m; i += 1) gradient[u] += w[u][i] * z[i];
    for (let v = 0; v < U; v += 1) for (let i = 0; i < m; i += 1) information[u * U + v] += w[u][i] * w[v][i];
  }
  return { information, gradient, cost };
}

function solveDamped({ information, gradient }: Linear, damping: number): Float64Array {
  const U = gradient.length;
  const damped = Float64Array.from(information);
  for (let u = 0; u < U; u += 1) damped[u * U + u] *= 1 + damping;
  return solvePositive(damped, gradient);
}

/**
 * Readings not taken yet: first those that leave fewest unknowns open, then by how much they would narrow them,
 * ½ log(1 + jᵀH⁻¹j/σ²); both at the values that are most probable and at others that the readings leave.
 */
function telling(
  circuit: Circuit,
  unknowns: readonly Unknown[],
  readings: readonly NumericReading[],
  meter: MeterData,
  { at, deviation }: Pick<Fit, "at" | "deviation">,
): NumericReading[] {
  const nodes = [...new Set(circuit.parts.flatMap((p) => [p.from, p.to]))].filter((n) => n !== circuit.reference);
  const offered = [
    ...nodes.map((from): NumericReading => ({ quantity: "voltage", from, value: 0 })),
    ...circuit.parts.map((p): NumericReading => ({ quantity: "current", through: p.designator, value: 0 })),
  ].filter((o) => !readings.some((r) => isSamePlace(r, o, circuit.reference)));
  const cases = [
    at,
    ...unknowns.flatMap((one, u) => (isTight(deviation[u], one, at[u]) ? [] : around(at, deviation, u))),
  ];
  const found = cases.flatMap((values) => worthOf(circuit, unknowns, readings, offered, meter, values) ?? []);
  if (found.length < offered.length) return [];
  return offered
    .map((reading, r) => {
      const own = found.filter((f) => f.r === r);
      const mean = (of: (f: Worth) => number) => own.reduce((s, f) => s + of(f), 0) / own.length;
      return { reading, open: mean((f) => f.open), gain: mean((f) => f.gain) };
    })
    .filter((g) => g.gain > 0.1)
    .sort((a, b) => a.open - b.open || b.gain - a.gain)
    .slice(0, 3)
    .map((g) => g.reading);
}

/** A standard deviation to either side of one unknown, as far as it may be thought of. */
function around(at: readonly number[], deviation: readonly number[], u: number): number[][] {
  const step = Math.min(deviation[u], FAR);
  return [-1, 1].map((sign) => at.map((v, k) => (k === u ? v + sign * step : v)));
}

const FAR = 2;

interface Worth {
  /** Number of the reading. */
  readonly r: number;
  /** Unknowns that would still be open with it. */
  readonly open: number;
  readonly gain: number;
}

function worthOf(
  circuit: Circuit,
  unknowns: readonly Unknown[],
  readings: readonly NumericReading[],
  offered: readonly NumericReading[],
  meter: MeterData,
  at: readonly number[],
): Worth[] | null {
  const now = linearise(circuit, unknowns, readings, meter, at);
  // The meter's limits are those of what it would show there.
  const shown = sensitivities(circuit, unknowns, offered, meter, at);
  const set = shown && offered.map((o, r): NumericReading => ({ ...o, value: shown.y[r] }));
  const found = set && sensitivities(circuit, unknowns, set, meter, at);
  if (!now || !found) return null;
  const U = unknowns.length;
  return offered.map((_, r): Worth => {
    const j = found.ju.subarray(r * U, (r + 1) * U);
    const spread = solvePositive(now.information, Float64Array.from(j)).reduce((sum, v, u) => sum + v * j[u], 0);
    // Tolerances of the known parts limit what the reading can say as well.
    const noise = found.c[r * offered.length + r];
    const after = Float64Array.from(now.information, (h, i) => h + (j[Math.floor(i / U)] * j[i % U]) / noise);
    const open = deviationsOf(after, U).filter((d, u) => !isTight(d, unknowns[u], at[u])).length;
    return { r, open, gain: Math.log1p(spread / noise) / 2 };
  });
}
