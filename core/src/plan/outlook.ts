import { factorInPlace } from "../kernels/index.ts";
import { errorOf } from "../measure/index.ts";
import { type Cell, centreOf, faultsAt, type Prepared, prepare, type RankInput, type Weighed } from "../rank/index.ts";
import type { NumericReading } from "../record/index.ts";

/** One way the circuit may be: a hypothesis at a stretch of its unknown values, with what it foretells. */
export interface Outlook {
  /** Number of the hypothesis. */
  readonly hypothesis: number;
  readonly probability: number;
  /** Mean and standard deviation of every candidate reading, given the readings so far, the meter's error included. */
  readonly mean: Float64Array;
  readonly deviation: Float64Array;
}

/** Outlooks that together hold this much are enough, and so many at most. */
const COVERED = 0.995;
const MOST = 36;
/** Shown for OL: twice the top of the ohms range. */
const OVER = 2;

/**
 * Foretells candidate readings under the leading hypotheses: a mixture of Gaussians, each conditioned on the readings
 * so far (tolerances already pinned down move the candidates too; readings that were likeliest mis-taken have no say).
 * @returns null where the circuit cannot be solved with the candidates on it
 */
export function outlooksOn(
  input: RankInput,
  hypotheses: readonly Weighed[],
  candidates: readonly NumericReading[],
): { outlooks: Outlook[]; prepared: Prepared } | null {
  const prepared = prepare(input, candidates);
  if (prepared.kind === "problem") return null;
  const outlooks: Outlook[] = [];
  let covered = 0;
  for (const { number, cell, probability } of heaviest(hypotheses)) {
    if (outlooks.length >= MOST || covered > COVERED) break;
    covered += probability;
    const { sites } = hypotheses[number].hypothesis;
    const doubtful = hypotheses[number].detail?.best.likeliest ?? [];
    outlooks.push({ hypothesis: number, probability, ...foretell(prepared, sites, cell, doubtful, candidates) });
  }
  const sum = outlooks.reduce((s, o) => s + o.probability, 0);
  return { outlooks: outlooks.map((o) => ({ ...o, probability: o.probability / sum })), prepared };
}

/** Cells of all hypotheses, heaviest first. */
function heaviest(hypotheses: readonly Weighed[]) {
  return hypotheses
    .flatMap(({ cells, probability }, number) => {
      if (probability < 1e-4) return [];
      const top = Math.max(...cells.map((c) => c.logMass));
      const total = cells.reduce((s, c) => s + Math.exp(c.logMass - top), 0);
      return cells.map((cell) => ({
        number,
        cell,
        probability: (probability * Math.exp(cell.logMass - top)) / total,
      }));
    })
    .sort((a, b) => b.probability - a.probability);
}

function foretell(
  prepared: Prepared,
  sites: Weighed["hypothesis"]["sites"],
  cell: Cell,
  doubtful: readonly number[],
  candidates: readonly NumericReading[],
): { mean: Float64Array; deviation: Float64Array } {
  const { integrator, set, numericCount: n, meter, evidence } = prepared;
  const { predictor } = integrator;
  const m = candidates.length;
  const P = predictor.parameters.length;
  // The cell's own stretch is one more thing that moves readings, like a tolerance.
  const spread = stretchOf(prepared, sites, cell);
  predictor.predict(faultsAt(sites, centreOf(cell)), true);
  const { y, j } = predictor;
  const dot = (a: number, b: number) => {
    let sum = spread[a] * spread[b] + predictor.gains.between(a, b, y);
    for (let p = 0, ka = a * P, kb = b * P; p < P; p += 1, ka += 1, kb += 1) sum += j[ka] * j[kb];
    return sum;
  };
  const known = evidence.measured;
  const c = new Float64Array(known * known);
  const z = new Float64Array(known);
  for (let i = 0; i < known; i += 1) {
    for (let k = 0; k <= i; k += 1) c[i * known + k] = dot(i, k);
    c[i * known + i] += set.probes[i].error.own ** 2;
    if (doubtful.includes(i)) c[i * known + i] *= 1e12;
  }
  factorInPlace(c, known);
  const forward = (from: (i: number) => number, into: Float64Array) => {
    for (let i = 0; i < known; i += 1) {
      let sum = from(i);
      for (let k = 0; k < i; k += 1) sum -= c[i * known + k] * into[k];
      into[i] = sum / c[i * known + i];
    }
  };
  forward((i) => set.probes[i].reading.value - y[i], z);
  const mean = new Float64Array(m);
  const deviation = new Float64Array(m);
  const w = new Float64Array(known);
  for (let k = 0; k < m; k += 1) {
    const row = n + k;
    let value = y[row];
    let variance = dot(row, row);
    forward((i) => dot(i, row), w);
    for (let i = 0; i < known; i += 1) {
      value += w[i] * z[i];
      variance -= w[i] * w[i];
    }
    const over = candidates[k].quantity === "resistance" && !(value < meter.topOhms);
    if (over) value = meter.topOhms * OVER;
    const sigma = errorOf({ ...candidates[k], value }, meter, set.probes[row].range).own;
    mean[k] = value;
    deviation[k] = Math.sqrt((over ? 0 : Math.max(0, variance)) + sigma * sigma);
  }
  return { mean, deviation };
}

function stretchOf({ integrator }: Prepared, sites: Weighed["hypothesis"]["sites"], cell: Cell): Float64Array {
  const { predictor } = integrator;
  const spread = new Float64Array(predictor.y.length);
  if (cell.lo.length === 0) return spread;
  predictor.predict(faultsAt(sites, cell.lo), false);
  const low = predictor.y.slice();
  predictor.predict(faultsAt(sites, cell.hi), false);
  for (let i = 0; i < spread.length; i += 1) {
    const length = predictor.y[i] - low[i];
    spread[i] = Number.isFinite(length) && Math.abs(length) < 1e20 ? length / Math.sqrt(12) : 0;
  }
  return spread;
}
