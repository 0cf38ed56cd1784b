import { factorInPlace, solveLowerInPlace } from "../kernels/index.ts";
import { errorOf, overLimit } from "../measure/index.ts";
import {
  faultsAt,
  meterFactor,
  NO_SAY,
  type Observation,
  type Prepared,
  prepare,
  type RankInput,
  type Weighed,
} from "../rank/index.ts";
import type { NumericReading } from "../record/index.ts";
import { atOnce, type Steps } from "./steps.ts";

/** One way the circuit may be: a hypothesis at a stretch of its unknown values, with what it foretells. */
export interface Outlook {
  /** Number of the hypothesis. */
  readonly hypothesis: number;
  readonly probability: number;
  /** Mean and standard deviation of every candidate reading, given the readings so far, the meter's error included. */
  readonly mean: Float64Array;
  readonly deviation: Float64Array;
  /** Probability of everything that might be seen. */
  readonly looks: Float64Array;
}

/** Outlooks that together hold this much are enough, and so many at most. */
const COVERED = 0.98;
const MOST_OUTLOOKS = 320;
/** Hypotheses below this share are not looked at, unless all are. */
const LEAST = 1e-5;
/** A stretch of an unknown value is at most this share of its prior: over a longer one readings do not run straight. */
const LONGEST = 1 / 8;
/** Shown for OL: twice the top of the ohms range. */
const OVER = 2;
/** A change from a figure to OL is no stretch of readings. */
const OVER_RANGE = 1e20;

/**
 * Foretells candidate readings under the leading hypotheses: a mixture of Gaussians, each conditioned on the readings
 * so far (tolerances and the meter's gain already pinned down move the candidates too; readings that were likeliest
 * mis-taken have no say).
 * @returns null where the circuit cannot be solved with the candidates on it
 */
export function* outlookSteps(
  input: RankInput,
  hypotheses: readonly Weighed[],
  candidates: readonly NumericReading[],
  looks: readonly Observation[],
  most: number = MOST_OUTLOOKS,
  enough: number = COVERED,
): Steps<Outlook[] | null> {
  const prepared = prepare(input, candidates, undefined, looks);
  if (prepared.kind === "problem") return null;
  const outlooks: Outlook[] = [];
  const teller = new Teller(prepared, candidates, looks.length);
  let covered = 0;
  for (const stretch of heaviest(hypotheses)) {
    if (outlooks.length >= most || covered > enough) break;
    covered += stretch.probability;
    const { hypothesis, detail } = hypotheses[stretch.number];
    const told = teller.foretell(hypothesis, stretch, detail?.best.likeliest ?? []);
    if (told) outlooks.push({ hypothesis: stretch.number, probability: stretch.probability, ...told });
    yield;
  }
  const sum = outlooks.reduce((s, o) => s + o.probability, 0);
  return outlooks.map((o) => ({ ...o, probability: o.probability / sum }));
}

/** The same at once. */
export function outlooksOn(...given: Parameters<typeof outlookSteps>): Outlook[] | null {
  return atOnce(outlookSteps(...given));
}

interface Stretch {
  readonly number: number;
  readonly lo: readonly number[];
  readonly hi: readonly number[];
  readonly probability: number;
}

/** Stretches of the values of all hypotheses, heaviest first; long cells in shorter pieces. */
function heaviest(hypotheses: readonly Weighed[]): Stretch[] {
  return hypotheses
    .flatMap(({ cells, probability }, number) => {
      if (probability < LEAST) return [];
      const top = Math.max(...cells.map((c) => c.logMass));
      const total = cells.reduce((s, c) => s + Math.exp(c.logMass - top), 0);
      return cells.flatMap(({ lo, hi, logMass }): Stretch[] => {
        const own = (probability * Math.exp(logMass - top)) / total;
        if (lo.length !== 1 || own < 1e-4) return [{ number, lo, hi, probability: own }];
        const pieces = Math.ceil((hi[0] - lo[0]) / LONGEST - 1e-9);
        const at = (k: number) => [lo[0] + ((hi[0] - lo[0]) * k) / pieces];
        return Array.from({ length: pieces }, (_, k) => ({
          number,
          lo: at(k),
          hi: at(k + 1),
          probability: own / pieces,
        }));
      });
    })
    .sort((a, b) => b.probability - a.probability);
}

class Teller {
  private readonly c: Float64Array;
  private readonly z: Float64Array;
  private readonly w: Float64Array;

  constructor(
    private readonly prepared: Prepared,
    private readonly candidates: readonly NumericReading[],
    private readonly looks: number,
  ) {
    const known = prepared.evidence.measured;
    this.c = new Float64Array(known * known);
    this.z = new Float64Array(known);
    this.w = new Float64Array(known);
  }

  foretell(
    hypothesis: Weighed["hypothesis"],
    { lo, hi }: Stretch,
    doubtful: readonly number[],
  ): Pick<Outlook, "mean" | "deviation" | "looks"> | null {
    const { integrator, set, numericCount: n, meter, evidence, observations, toldCount } = this.prepared;
    const { predictor } = integrator;
    const m = this.candidates.length;
    const P = predictor.parameters.length;
    // The stretch of the value is one more thing that moves readings, like a tolerance.
    const spread = this.spreadOf(hypothesis, lo, hi);
    const middle = lo.map((t, k) => (t + hi[k]) / 2);
    const faults = faultsAt(hypothesis.sites, middle);
    const { gains } = predictor;
    const { y, j } = predictor.predict(faults, "sensitivities");
    if (Number.isNaN(y[0])) return null;
    this.showThrough(hypothesis, meterFactor(hypothesis, middle), y, j, P);
    const dot = (a: number, b: number) => {
      let sum = spread[a] * spread[b] + gains.between(a, b, y);
      for (let p = 0, ka = a * P, kb = b * P; p < P; p += 1, ka += 1, kb += 1) sum += j[ka] * j[kb];
      return sum;
    };
    const { c, z, w } = this;
    const known = evidence.measured;
    for (let i = 0; i < known; i += 1) {
      for (let k = 0; k <= i; k += 1) c[i * known + k] = dot(i, k);
      c[i * known + i] += set.probes[i].error.own ** 2;
      if (doubtful.includes(i)) c[i * known + i] *= NO_SAY;
    }
    factorInPlace(c, known);
    for (let i = 0; i < known; i += 1) z[i] = set.probes[i].reading.value - y[i];
    solveLowerInPlace(c, z);
    const mean = new Float64Array(m);
    const deviation = new Float64Array(m);
    for (let k = 0; k < m; k += 1) {
      const row = n + k;
      let value = y[row];
      let variance = dot(row, row);
      for (let i = 0; i < known; i += 1) w[i] = dot(i, row);
      solveLowerInPlace(c, w);
      for (let i = 0; i < known; i += 1) {
        value += w[i] * z[i];
        variance -= w[i] * w[i];
      }
      const limit = overLimit(this.candidates[k], meter);
      const over = limit < Number.POSITIVE_INFINITY && !(value < limit);
      if (over) value = limit * OVER;
      const sigma = errorOf({ ...this.candidates[k], value }, meter, set.probes[row].range).own;
      mean[k] = value;
      deviation[k] = Math.sqrt((over ? 0 : Math.max(0, variance)) + sigma * sigma);
    }
    const seen = Float64Array.from(
      { length: this.looks },
      (_, i) => observations?.chanceOf(toldCount + i, y, faults) ?? 0,
    );
    return { mean, deviation, looks: seen };
  }

  /** What a false meter makes of what is there: readings of its function, and how tolerances move them; works in place. */
  private showThrough(
    { meter }: Weighed["hypothesis"],
    factor: number,
    y: Float64Array,
    j: Float64Array | null,
    P: number,
  ) {
    if (!meter) return;
    const { probes } = this.prepared.set;
    const { measured } = this.prepared.integrator.predictor;
    for (let r = 0; r < measured; r += 1) {
      if (!meter.takes(probes[r].reading)) continue;
      y[r] *= factor;
      if (j) for (let p = 0; p < P; p += 1) j[r * P + p] *= factor;
    }
  }

  private spreadOf(hypothesis: Weighed["hypothesis"], lo: readonly number[], hi: readonly number[]): Float64Array {
    const { predictor } = this.prepared.integrator;
    const spread = new Float64Array(this.prepared.set.probes.length);
    if (lo.length === 0) return spread;
    const low = predictor.predict(faultsAt(hypothesis.sites, lo), "values").y;
    const high = predictor.predict(faultsAt(hypothesis.sites, hi), "values").y;
    this.showThrough(hypothesis, meterFactor(hypothesis, lo), low, null, 0);
    this.showThrough(hypothesis, meterFactor(hypothesis, hi), high, null, 0);
    for (let i = 0; i < spread.length; i += 1) {
      const length = high[i] - low[i];
      spread[i] = Number.isFinite(length) && Math.abs(length) < OVER_RANGE ? length / Math.sqrt(12) : 0;
    }
    return spread;
  }
}
