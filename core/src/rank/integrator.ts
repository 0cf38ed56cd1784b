import type { Site } from "../faults/index.ts";
import { type Cell, centreOf, faultsAt, middleOf, NONE, put, startCells, unknownsOf, volumeOf } from "./cells.ts";
import type { FaultAt } from "./change.ts";
import { type Evidence, Spreads } from "./evidence.ts";
import { logSumExp } from "./gaussian.ts";
import type { Observations } from "./observations.ts";
import type { Predictor } from "./predictor.ts";
import { SLIP_COUNT } from "./slips.ts";
import { packTolerance } from "./tolerance.ts";

/** How finely values are integrated. */
export interface Resolution {
  /** Cells along one unknown value, and along each of two. */
  readonly start: number;
  readonly startOfTwo: number;
  /** Split while a cell is longer than this many standard deviations, squared; twice that with two unknowns. */
  readonly split: number;
  /** … and holds more than this share of its hypothesis and, as a logarithm, of everything. */
  readonly ownShare: number;
  readonly totalLog: number;
  /** What a coarse cell's Gaussian may understate the mass in it by, as a logarithm, per factor of two in length. */
  readonly slack: number;
  /** Smallest number of halvings of the whole range that a cell may measure, as an exponent. */
  readonly deepest: number;
}

export const DEFAULT_RESOLUTION: Resolution = {
  start: 3,
  startOfTwo: 2,
  split: 1,
  ownShare: 0.01,
  totalLog: -7,
  slack: 2,
  deepest: 22,
};

export interface Hypothesis {
  readonly sites: readonly Site[];
  readonly logPrior: number;
  /** Prior that goes with the unknown values (a fault that blows a fuse): added to `logPrior` in each cell. */
  readonly logPriorAt?: (faults: readonly FaultAt[]) => number;
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
  /** The heaviest cell: its centre, its spreads, and the readings likeliest mis-taken there. */
  readonly best: { readonly at: readonly number[]; readonly likeliest: readonly number[]; readonly spreads: Spreads };
}

interface Point {
  readonly y: Float64Array;
  /** Variances by tolerances; only where asked for. */
  readonly diagonal: Float64Array;
  hasDiagonal: boolean;
  /** Their covariance, packed lower triangle; only once the variances alone do not rule the point out. */
  readonly tolerance: Float64Array;
  hasTolerance: boolean;
  faults: readonly FaultAt[];
  /** Log likelihood of what was seen, and of the prior that goes with the values. */
  logOther: number;
}

interface LiveCell extends Cell {
  readonly size0: number;
  readonly size1: number;
}

/**
 * Logarithm of the share of everything found so far below which a hypothesis needs no exact mass: 2e-9, of which ten
 * thousand pairs together could carry 2e-5.
 */
const NEGLIGIBLE = 20;

/** Integrates the evidence for a hypothesis over its unknown values, over cells that are refined where they matter. */
export class Integrator {
  /** What was done so far: networks predicted with sensitivities, covariances built from them, densities evaluated. */
  readonly work = { predictions: 0, covariances: 0, densities: 0 };
  private readonly points = new Map<number, Point>();
  private readonly pool: Point[] = [];
  private used = 0;
  private floor = Number.NEGATIVE_INFINITY;
  private readonly mean: Float64Array;
  private readonly diagonal: Float64Array;
  private readonly tolerance: Float64Array;
  private readonly spreads: Spreads;
  /** The point that was predicted last with sensitivities, which the predictor still holds. */
  private last: Point | null = null;

  constructor(
    readonly predictor: Predictor,
    readonly evidence: Evidence,
    private readonly observations: Observations | null = null,
    private readonly resolution: Resolution = DEFAULT_RESOLUTION,
  ) {
    const n = evidence.count;
    this.mean = new Float64Array(n);
    this.diagonal = new Float64Array(n);
    this.tolerance = new Float64Array((n * (n + 1)) / 2);
    this.spreads = new Spreads(n);
  }

  /** @param total log of all mass found so far, against which cells that no longer matter are left alone */
  integrate(hypothesis: Hypothesis, total: number): Integrated {
    this.forget();
    const { sites, logPrior } = hypothesis;
    const unknowns = unknownsOf(sites);
    const { start, startOfTwo, split, ownShare, totalLog, slack, deepest } = this.resolution;
    const steps = unknowns === 1 ? start : startOfTwo;
    this.floor = total - logPrior - NEGLIGIBLE;
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
        // A long cell may hide a peak that its one Gaussian spreads thin.
        const upper = cell.logMass + slack * Math.max(0, Math.log2(length * 4) + 1);
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
    const slips = new Float64Array(this.evidence.measured * SLIP_COUNT);
    let heaviest = cells[0];
    for (const cell of cells) if (cell.logMass > heaviest.logMass) heaviest = cell;
    for (const cell of cells) {
      const share = Math.exp(cell.logMass - top);
      if (!(share > 1e-4)) continue;
      this.weigh(hypothesis, cell.lo, cell.hi);
      this.evidence.addSlips(share, slips);
    }
    this.weigh(hypothesis, heaviest.lo, heaviest.hi);
    const at = centreOf(heaviest);
    return { slips, best: { at, likeliest: this.evidence.likeliestSlips(), spreads: this.spreads.copy() } };
  }

  /** Mean and variance (tolerances and the values' own spread) of every numeric reading under a result. */
  predictionsOf(result: Integrated): { mean: number; variance: number }[] {
    const { sites } = result.hypothesis;
    const n = this.evidence.count;
    const top = logSumExp(result.cells.map((c) => c.logMass));
    const mean = new Float64Array(n);
    const square = new Float64Array(n);
    const variances = new Float64Array(this.predictor.measured);
    let used = 0;
    for (const cell of result.cells) {
      const share = Math.exp(cell.logMass - top);
      if (!(share > 1e-3)) continue;
      used += share;
      this.predictor.predictVariances(faultsAt(sites, centreOf(cell)), variances);
      const { y } = this.predictor;
      for (let r = 0; r < n; r += 1) {
        mean[r] += share * y[r];
        square[r] += share * (variances[r] + y[r] * y[r]);
      }
    }
    return Array.from(mean, (sum, r) => {
      const centre = sum / used;
      return { mean: centre, variance: Math.max(0, square[r] / used - centre * centre) };
    });
  }

  /** Mass of a cell: one Gaussian with the cell's own mean and spread, matched to second order. */
  private weigh(hypothesis: Hypothesis, lo: readonly number[], hi: readonly number[]): LiveCell {
    const { mean, diagonal, tolerance, spreads, evidence } = this;
    spreads.count = 0;
    const most = hypothesis.sites.length > 1 ? 2 : 3;
    const corners = this.cornersOf(hypothesis, lo, hi);
    const middle = lo.length === 0 ? corners[0] : this.pointAt(hypothesis, middleOf(lo, hi), false);
    if (lo.length === 1) this.stretch(corners, middle);
    else if (lo.length === 2) this.box(corners, middle);
    else mean.set(corners[0].y);
    averageInto(diagonal, corners, "diagonal");
    const logOther = middle.logOther + Math.log(volumeOf(lo, hi));
    const floor = this.floor - logOther;
    const bound = evidence.bound(mean, diagonal, spreads, most, floor);
    if (bound < floor) return { lo, hi, logMass: bound + logOther, size0: 0, size1: 0 };
    for (const corner of corners) this.completeTolerance(corner);
    averageInto(tolerance, corners, "tolerance");
    this.work.densities += 1;
    const logDensity = evidence.density(mean, tolerance, spreads, most, floor);
    const size0 = lo.length > 0 ? evidence.spreadSizes[0] : 0;
    const size1 = lo.length > 1 ? evidence.spreadSizes[1] : 0;
    return { lo, hi, logMass: logDensity + logOther, size0, size1 };
  }

  private cornersOf(hypothesis: Hypothesis, lo: readonly number[], hi: readonly number[]): Point[] {
    if (lo.length === 0) return [this.pointAt(hypothesis, NONE, true)];
    if (lo.length === 1) return [this.pointAt(hypothesis, lo, true), this.pointAt(hypothesis, hi, true)];
    return [
      this.pointAt(hypothesis, lo, true),
      this.pointAt(hypothesis, [hi[0], lo[1]], true),
      this.pointAt(hypothesis, [lo[0], hi[1]], true),
      this.pointAt(hypothesis, hi, true),
    ];
  }

  /** Along one unknown the readings run on a parabola through both ends and the middle: its mean and variance. */
  private stretch([a, b]: readonly Point[], middle: Point) {
    const { mean, spreads } = this;
    const slope = spreads.next(1 / 12);
    const bend = spreads.next(1 / 180);
    for (let i = 0; i < mean.length; i += 1) {
      const average = (a.y[i] + b.y[i]) / 2;
      mean[i] = average / 3 + (2 / 3) * middle.y[i];
      slope[i] = b.y[i] - a.y[i];
      bend[i] = 4 * (average - middle.y[i]);
    }
  }

  /** A box of two unknowns: its four corners and its middle. */
  private box([p00, p10, p01, p11]: readonly Point[], middle: Point) {
    const { mean, spreads } = this;
    const along0 = spreads.next(1 / 12);
    const along1 = spreads.next(1 / 12);
    const twist = spreads.next(1 / 144);
    const bend = spreads.next(1 / 180);
    for (let i = 0; i < mean.length; i += 1) {
      const a = p00.y[i];
      const b = p10.y[i];
      const c = p01.y[i];
      const d = p11.y[i];
      const average = (a + b + c + d) / 4;
      mean[i] = average / 3 + (2 / 3) * middle.y[i];
      along0[i] = (b - a + d - c) / 2;
      along1[i] = (c - a + d - b) / 2;
      twist[i] = a - b - c + d;
      bend[i] = 4 * (average - middle.y[i]);
    }
  }

  private pointAt(hypothesis: Hypothesis, at: readonly number[], withDiagonal: boolean): Point {
    // Shares of the priors are multiples of start⁻¹·2⁻ᵏ: a rounded pair of them is a safe key.
    const key = at.length === 0 ? 0 : at.length === 1 ? at[0] : Math.round(at[0] * 2 ** 25) * 2 ** 26 + at[1] * 2 ** 25;
    const known = this.points.get(key);
    if (known && (known.hasDiagonal || !withDiagonal)) return known;
    const point = known ?? this.fresh(key);
    const { predictor } = this;
    point.faults = faultsAt(hypothesis.sites, at);
    // Without sensitivities the predictor keeps those of the point before, unless the network could not be solved.
    let holdsAll = false;
    if (withDiagonal) {
      this.work.predictions += 1;
      holdsAll = !predictor.predictVariances(point.faults, point.diagonal);
      point.hasDiagonal = true;
    } else predictor.predict(point.faults, false);
    const n = this.evidence.count;
    for (let i = 0; i < n; i += 1) point.y[i] = predictor.y[i];
    if (holdsAll) this.last = point;
    else if (Number.isNaN(predictor.y[0])) this.last = null;
    point.logOther =
      (this.observations?.logLikelihood(predictor.y, point.faults) ?? 0) + (hypothesis.logPriorAt?.(point.faults) ?? 0);
    return point;
  }

  /** The full covariance of a point that its variances alone did not rule out: predicted once more unless still there. */
  private completeTolerance(point: Point) {
    if (point.hasTolerance) return;
    const { predictor } = this;
    if (this.last !== point) predictor.predict(point.faults, true);
    this.last = point;
    this.work.covariances += 1;
    packTolerance(predictor.j, this.evidence.count, predictor.parameters.length, point.tolerance);
    point.hasTolerance = true;
  }

  private fresh(key: number): Point {
    const n = this.evidence.count;
    if (this.used === this.pool.length) {
      this.pool.push({
        y: new Float64Array(n),
        diagonal: new Float64Array(n),
        hasDiagonal: false,
        tolerance: new Float64Array((n * (n + 1)) / 2),
        hasTolerance: false,
        faults: [],
        logOther: 0,
      });
    }
    const point = this.pool[this.used++];
    point.hasDiagonal = false;
    point.hasTolerance = false;
    this.points.set(key, point);
    return point;
  }

  private forget() {
    this.points.clear();
    this.used = 0;
    this.last = null;
  }
}

function averageInto(out: Float64Array, points: readonly Point[], what: "diagonal" | "tolerance") {
  const share = 1 / points.length;
  out.fill(0);
  for (const point of points) {
    const values = point[what];
    for (let at = 0; at < out.length; at += 1) out[at] += values[at] * share;
  }
}
