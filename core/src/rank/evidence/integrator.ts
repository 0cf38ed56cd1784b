import type { FaultAt, Site } from "../../faults/index.ts";
import { type Predicted, Spreads } from "../../kernels/index.ts";
import {
  type Cell,
  centreOf,
  cornersAt,
  FaultsAtShares,
  faultsAt,
  middleOf,
  pointsIn,
  put,
  startCells,
  unknownsOf,
  volumeOf,
} from "../hypotheses/cells.ts";
import { type FalseMeter, scaleInPlace } from "../hypotheses/falseMeter.ts";
import type { Noticed } from "../hypotheses/noticed.ts";
import type { Predictor } from "../prediction/predictor.ts";
import { box, CornerTolerances, otherOf, type Point, stretch } from "./corners.ts";
import type { Evidence } from "./evidence.ts";
import { logSumExp } from "./gaussian.ts";
import type { Observations } from "./observations.ts";
import { DEFAULT_RESOLUTION, type Resolution } from "./resolution.ts";
import { SLIP_COUNT } from "./slips.ts";

export interface Hypothesis {
  readonly sites: readonly Site[];
  readonly logPrior: number;
  /** Prior that goes with the unknown values (a fault that blows a fuse): added to `logPrior` in each cell. */
  readonly logPriorAt?: (faults: readonly FaultAt[]) => number;
  /** Average chance that it was noticed, which `logPrior` holds; each cell is weighed by its own, relative to that. */
  readonly average?: number;
  /** The meter is false as well, or alone; its factor is the last of the unknown values. */
  readonly meter?: FalseMeter;
}

/** Nothing is wrong, the meter included. */
export function isHealthy({ sites, meter }: Hypothesis): boolean {
  return sites.length === 0 && meter === undefined;
}

/** Values that a hypothesis leaves open: of its faults, then of its meter. */
function openValues({ sites, meter }: Hypothesis): number {
  return unknownsOf(sites) + (meter ? 1 : 0);
}

/** The meter's factor at shares of the priors; 1 of a good one. */
export function meterFactor({ meter }: Hypothesis, at: readonly number[]): number {
  return meter ? meter.factor(at[at.length - 1]) : 1;
}

export interface Integrated {
  readonly hypothesis: Hypothesis;
  /** log (prior × evidence). */
  readonly logMass: number;
  readonly cells: readonly Cell[];
}

/** What is worth knowing of a hypothesis that matters. */
export interface Detail {
  /** Share of the mass in which each reading was mis-taken in each way, readings × slips. */
  readonly slips: Float64Array;
  /** Share of the mass in which the eye was mistaken, for each observation made. */
  readonly looks: Float64Array;
  /** Share in which the leads' ohms are in every ohms reading. */
  readonly leads: number;
  /** The heaviest cell: its centre, its spreads, and the readings likeliest mis-taken there. */
  readonly best: { readonly at: readonly number[]; readonly likeliest: readonly number[]; readonly spreads: Spreads };
}

/** Points of a cell that its mean and spreads are made of. */
interface Shape {
  readonly corners: readonly Point[];
  readonly middle: Point;
}

interface LiveCell extends Cell {
  readonly size0: number;
  readonly size1: number;
}

/** A fault that moves no reading by more than this share of the meter's own standard deviation shows nowhere. */
const SILENT = 1e-3;

/** Cells with less than these shares of the heaviest one's mass change nothing that is shown. */
const LIGHT = { detail: 1e-4, prediction: 1e-3, noticed: 1e-3 } as const;

/** Integrates the evidence for a hypothesis over its unknown values, over cells that are refined where they matter. */
export class Integrator {
  /** What was done so far: networks predicted, variances of single readings, covariances of all, densities. */
  readonly work = { predictions: 0, variances: 0, covariances: 0, densities: 0 };
  private readonly faults = new FaultsAtShares();
  private readonly points = new Map<number, Point>();
  private readonly pool: Point[] = [];
  private used = 0;
  private floor = Number.NEGATIVE_INFINITY;
  private readonly mean: Float64Array;
  private readonly tolerances: CornerTolerances;
  /** Nothing wrong; and by how much a reading may move without being told from that. */
  private readonly healthy: Point;
  private readonly silence: Float64Array;
  private readonly spreads: Spreads;

  constructor(
    readonly predictor: Predictor,
    readonly evidence: Evidence,
    private readonly observations: Observations | null = null,
    private readonly resolution: Resolution = DEFAULT_RESOLUTION,
    private readonly noticed: Noticed | null = null,
  ) {
    const n = evidence.count;
    this.mean = new Float64Array(n);
    this.tolerances = new CornerTolerances(predictor, this.work);
    this.healthy = this.newPoint();
    predictor.predict([], "variances", this.healthy.outcome);
    predictor.covarianceInto(this.healthy.outcome, n, this.healthy.tolerance);
    this.silence = Float64Array.from({ length: n }, (_, r) => SILENT * predictor.set.probes[r].error.own);
    this.spreads = new Spreads(n);
  }

  /**
   * @param total log of all mass found so far, against which cells that no longer matter are left alone
   * @param among number of hypotheses of this kind: what cannot carry its part of the share that may stay rough does
   */
  integrate(hypothesis: Hypothesis, total: number, among = 1): Integrated {
    this.forget();
    const { sites, logPrior } = hypothesis;
    const unknowns = openValues(hypothesis);
    const { start, startOfTwo, split, ownShare, totalLog, slack, deepest, rough } = this.resolution;
    const steps = unknowns === 1 ? start : startOfTwo;
    this.floor = total - logPrior + rough - Math.log(among);
    if (unknowns === 1) {
      const cell = this.whole(hypothesis);
      if (cell !== null) return { hypothesis, logMass: logPrior + cell.logMass, cells: [cell] };
    }
    let cells = startCells(unknowns, steps).map(([lo, hi]) => this.weigh(hypothesis, lo, hi));
    const limit = sites.length > 1 ? split * 2 : split;
    for (let round = 0; unknowns > 0 && round < 40; round += 1) {
      const mass = logSumExp(cells.map((c) => c.logMass));
      const own = mass + Math.log(ownShare);
      const all = Math.max(total, mass + logPrior) + totalLog - logPrior;
      const next: LiveCell[] = [];
      for (const cell of cells) {
        const axis = cell.size1 > cell.size0 ? 1 : 0;
        const size = axis === 1 ? cell.size1 : cell.size0;
        const { lo, hi } = cell;
        const length = hi[axis] - lo[axis];
        // A cell that is long one way or the other may hide a peak that its one Gaussian spreads thin.
        const longest = Math.max(hi[0] - lo[0], hi[hi.length - 1] - lo[lo.length - 1]);
        const upper = cell.logMass + slack * Math.max(0, Math.log2(longest * 4) + 1);
        if (size <= limit || upper < own || upper < all || length <= 2 ** -deepest) next.push(cell);
        else {
          const middle = (lo[axis] + hi[axis]) / 2;
          next.push(
            this.weigh(hypothesis, lo, put(hi, axis, middle)),
            this.weigh(hypothesis, put(lo, axis, middle), hi),
          );
        }
      }
      const done = next.length === cells.length;
      cells = next;
      if (done) break;
    }
    return { hypothesis, logMass: logPrior + logSumExp(cells.map((c) => c.logMass)), cells };
  }

  /** Goes through a result's heavier cells once more for what `integrate` does not keep. */
  detail({ hypothesis, cells }: Integrated): Detail {
    this.forget();
    this.floor = Number.NEGATIVE_INFINITY;
    const top = logSumExp(cells.map((c) => c.logMass));
    const slips = new Float64Array(this.evidence.count * SLIP_COUNT);
    const looks = new Float64Array(this.observations?.toldCount ?? 0);
    let leads = 0;
    let heaviest = cells[0];
    for (const cell of cells) if (cell.logMass > heaviest.logMass) heaviest = cell;
    for (const cell of cells) {
      const share = Math.exp(cell.logMass - top);
      if (!(share > LIGHT.detail)) continue;
      const shape = this.shape(hypothesis, cell.lo, cell.hi);
      const told = this.evidence.explained(this.predicted(shape), mostOf(hypothesis));
      for (let k = 0; k < told.slips.length; k += 1) slips[k] += share * told.slips[k];
      this.evidence.addLost(share, this.mean, this.tolerances, this.spreads, slips);
      this.observations?.addMistaken(share, shape.middle.outcome.y, shape.middle.faults, looks);
      leads += share * told.leads;
    }
    const best = this.predicted(this.shape(hypothesis, heaviest.lo, heaviest.hi));
    const { likeliest } = this.evidence.explained(best, mostOf(hypothesis));
    return { slips, looks, leads, best: { at: centreOf(heaviest), likeliest, spreads: best.spreads.copy() } };
  }

  /** Mean and variance (tolerances and the values' own spread) of every numeric reading under a result. */
  predictionsOf(result: Integrated): { mean: number; variance: number }[] {
    const { sites, meter } = result.hypothesis;
    const n = this.evidence.count;
    const top = logSumExp(result.cells.map((c) => c.logMass));
    const mean = new Float64Array(n);
    const square = new Float64Array(n);
    const outcome = this.predictor.newOutcome();
    const { y } = outcome;
    let used = 0;
    for (const cell of result.cells) {
      const share = Math.exp(cell.logMass - top);
      if (!(share > LIGHT.prediction)) continue;
      used += share;
      const at = centreOf(cell);
      this.predictor.predict(faultsAt(sites, at), "variances", outcome);
      const factor = meterFactor(result.hypothesis, at);
      for (let r = 0; r < n; r += 1) {
        const f = meter?.took[r] ? factor : 1;
        mean[r] += share * f * y[r];
        square[r] += share * f * f * (this.predictor.varianceOf(outcome, r) + y[r] * y[r]);
      }
    }
    return Array.from(mean, (sum, r) => {
      const centre = sum / used;
      return { mean: centre, variance: Math.max(0, square[r] / used - centre * centre) };
    });
  }

  /** All of an unknown value's range as one cell, where even with a good deal more than its bound it would not count; else null. */
  private whole(hypothesis: Hypothesis): Cell | null {
    const [[lo, hi]] = startCells(1, 1);
    const { corners, middle } = this.shape(hypothesis, lo, hi);
    const logOther = Math.max(middle.logOther, ...corners.map((c) => c.logOther));
    const floor = this.floor - logOther - this.resolution.wholeSlack;
    const bound = this.evidence.bound(this.mean, this.tolerances, this.spreads, mostOf(hypothesis), floor);
    return bound < floor ? { lo, hi, logMass: bound + logOther } : null;
  }

  /** Corners and middle of a cell; its mean and spreads are made of them. */
  private shape(hypothesis: Hypothesis, lo: readonly number[], hi: readonly number[]): Shape {
    this.spreads.count = 0;
    const corners = this.cornersOf(hypothesis, lo, hi);
    const middle = lo.length === 0 ? corners[0] : this.pointAt(hypothesis, middleOf(lo, hi), false);
    if (lo.length === 1) stretch(corners, middle, this.mean, this.spreads);
    else if (lo.length === 2) box(corners, middle, this.mean, this.spreads);
    else this.mean.set(corners[0].y);
    this.tolerances.corners = corners;
    return { corners, middle };
  }

  /** What a cell foretells, with full covariances. */
  private predicted({ corners }: Shape): Predicted {
    for (const corner of corners) this.completeTolerance(corner);
    this.work.densities += 1;
    return { mean: this.mean, covariances: corners.map((c) => c.tolerance), spreads: this.spreads };
  }

  /** Mass of a cell: one Gaussian with the cell's own mean and spread, matched to second order. */
  private weigh(hypothesis: Hypothesis, lo: readonly number[], hi: readonly number[]): LiveCell {
    const { mean, tolerances, spreads, evidence } = this;
    const shape = this.shape(hypothesis, lo, hi);
    const logOther = otherOf(shape.corners, shape.middle) + Math.log(volumeOf(lo, hi));
    const floor = this.floor - logOther;
    const bound = evidence.bound(mean, tolerances, spreads, mostOf(hypothesis), floor);
    if (bound < floor) return { lo, hi, logMass: bound + logOther, size0: 0, size1: 0 };
    const { log, sizes } = evidence.density(this.predicted(shape), mostOf(hypothesis), floor);
    const size0 = lo.length > 0 ? sizes[0] : 0;
    const size1 = lo.length > 1 ? sizes[1] : 0;
    return { lo, hi, logMass: log + logOther, size0, size1 };
  }

  private cornersOf(hypothesis: Hypothesis, lo: readonly number[], hi: readonly number[]): Point[] {
    return cornersAt(lo, hi).map((at) => this.pointAt(hypothesis, at, true));
  }

  private pointAt(hypothesis: Hypothesis, at: readonly number[], traced: boolean): Point {
    // Shares of the priors are multiples of start⁻¹·2⁻ᵏ: a rounded pair of them is a safe key.
    const key = at.length === 0 ? 0 : at.length === 1 ? at[0] : Math.round(at[0] * 2 ** 25) * 2 ** 26 + at[1] * 2 ** 25;
    const known = this.points.get(key);
    if (known && (known.outcome.held !== "values" || !traced)) return known;
    const point = known ?? this.fresh(key);
    point.faults = this.faults.at(hypothesis.sites, at);
    this.work.predictions += 1;
    this.predictor.predict(point.faults, traced ? "variances" : "values", point.outcome);
    this.showThrough(hypothesis, at, point);
    point.logOther =
      (this.observations?.logLikelihood(point.outcome.y, point.faults) ?? 0) +
      (hypothesis.logPriorAt?.(point.faults) ?? 0) +
      this.logNoticed(hypothesis, point.faults);
    return point;
  }

  /** What the meter makes of what is there. */
  private showThrough(hypothesis: Hypothesis, at: readonly number[], point: Point) {
    const { meter } = hypothesis;
    point.took = null;
    point.y = point.own;
    if (!meter) return;
    point.took = meter.took;
    point.factor = meterFactor(hypothesis, at);
    point.y = point.shown;
    point.shown.set(point.own);
    scaleInPlace(point.shown, meter.took, point.factor);
  }

  /** Log of how likely faults at these values were noticed, beside the hypothesis on the average. */
  private logNoticed({ average }: Hypothesis, faults: readonly FaultAt[]): number {
    return this.noticed && average !== undefined ? Math.log(this.noticed.weightAbout(faults) / average) : 0;
  }

  /**
   * Where a complaint weighs faults: what a cell's few points, and each fault by itself, get wrong of that, as the log of
   * a factor of the mass. It is taken where the mass lies.
   */
  noticedCorrection({ hypothesis, cells }: Integrated): number {
    const { noticed } = this;
    if (!noticed || hypothesis.average === undefined || hypothesis.sites.length === 0) return 0;
    const about = (at: readonly number[]) => noticed.weightAbout(this.faults.at(hypothesis.sites, at));
    const exact = (at: readonly number[]) => noticed.weightOf(faultsAt(hypothesis.sites, at));
    const top = Math.max(...cells.map((c) => c.logMass));
    let before = 0;
    let after = 0;
    for (const { lo, hi, logMass } of cells) {
      const mass = Math.exp(logMass - top);
      if (!(mass > LIGHT.noticed)) continue;
      const corners = cornersAt(lo, hi);
      const taken = (corners.reduce((s, at) => s + about(at) / corners.length, 0) + 2 * about(middleOf(lo, hi))) / 3;
      const inner = pointsIn(lo, hi);
      before += mass;
      after += (mass * inner.reduce((s, at) => s + exact(at) / inner.length, 0)) / taken;
    }
    return before > 0 ? Math.log(after / before) : 0;
  }

  /** The full covariance of a point that its variances alone did not rule out. */
  private completeTolerance(point: Point) {
    if (point.hasTolerance) return;
    this.work.covariances += 1;
    point.hasTolerance = true;
    const { took, factor, tolerance } = point;
    if (point.faults.length === 1 && !took && this.isSilent(point)) tolerance.set(this.healthy.tolerance);
    else this.predictor.covarianceInto(point.outcome, this.evidence.count, tolerance);
    if (!took) return;
    for (let i = 0, at = 0; i < this.evidence.count; i += 1)
      for (let k = 0; k <= i; k += 1, at += 1) tolerance[at] *= (took[i] ? factor : 1) * (took[k] ? factor : 1);
  }

  /** One fault that changes no reading: nor does what its part's own tolerance was. */
  private isSilent({ y }: Point): boolean {
    const { healthy } = this;
    for (let r = 0; r < y.length; r += 1) if (!(Math.abs(y[r] - healthy.y[r]) < this.silence[r])) return false;
    return true;
  }

  private fresh(key: number): Point {
    if (this.used === this.pool.length) this.pool.push(this.newPoint());
    const point = this.pool[this.used++];
    point.hasTolerance = false;
    this.points.set(key, point);
    return point;
  }

  private newPoint(): Point {
    const n = this.evidence.count;
    const outcome = this.predictor.newOutcome();
    const tolerance = new Float64Array((n * (n + 1)) / 2);
    const own = outcome.y.subarray(0, n);
    return {
      outcome,
      y: own,
      own,
      shown: new Float64Array(n),
      tolerance,
      hasTolerance: false,
      faults: [],
      logOther: 0,
      took: null,
      factor: 1,
    };
  }

  private forget() {
    this.points.clear();
    this.used = 0;
  }
}

/** How many readings may have been mis-taken at once. */
export const mostOf = ({ sites, meter }: Hypothesis) => (sites.length + (meter ? 1 : 0) > 1 ? 2 : 3);
