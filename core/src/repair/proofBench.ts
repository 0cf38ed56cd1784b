import type { Circuit } from "../circuit/index.ts";
import type { FaultAt, Site } from "../faults/index.ts";
import { errorOf } from "../measure/index.ts";
import { type Prediction, type Prepared, prepare, type RankInput, type RankProblem } from "../rank/index.ts";
import type { Meter, NumericReading, Priors, Repaired } from "../record/index.ts";
import { type Supposed, supposedAt } from "../whatif/index.ts";

/** What a repair is proved on. */
export interface ProofInput {
  readonly circuit: Circuit;
  readonly meter?: Meter;
  readonly priors?: Priors;
  readonly habits?: Priors | undefined;
  /** Levers as they stand while it is proved. */
  readonly switches?: Readonly<Record<string, "open" | "closed">>;
  /** Parts that were worked on: what the repair could have done to them counts as well. */
  readonly repaired: readonly string[];
  /** Suspects that mattered before the repair: none of them may be there any more. */
  readonly mattered: readonly (readonly Repaired[])[];
}

/** Lays out points on a circuit that is proved. */
export function benchOn(input: ProofInput, points: readonly NumericReading[]): ProofBench | RankProblem {
  const prepared = prepare(rankInputOf(input), points);
  return prepared.kind === "problem" ? prepared : new ProofBench(prepared, points.length);
}

/** How far faults move what the points show. */
export class ProofBench {
  readonly kind = "bench";
  readonly healthy: readonly Prediction[];
  /** Of every two points, by tolerances and the meter; packed lower triangle. */
  private readonly covariance: Float64Array;
  private readonly outcome;

  constructor(
    private readonly prepared: Prepared,
    private readonly count: number,
  ) {
    const { integrator, set, meter } = prepared;
    const { predictor } = integrator;
    this.outcome = predictor.newOutcome();
    predictor.predict([], "variances", this.outcome);
    const packed = new Float64Array((count * (count + 1)) / 2);
    predictor.covarianceInto(this.outcome, count, packed);
    const own = Float64Array.from({ length: count }, (_, r) => {
      const value = this.outcome.y[r];
      return errorOf({ ...set.probes[r].reading, value }, meter).own ** 2;
    });
    const varianceOf = (r: number) => packed[(r * (r + 1)) / 2 + r] + own[r];
    this.healthy = Array.from({ length: count }, (_, r) => ({
      value: this.outcome.y[r],
      plusMinus: 2 * Math.sqrt(varianceOf(r)),
    }));
    this.covariance = packed;
    for (let r = 0; r < count; r += 1) packed[(r * (r + 1)) / 2 + r] += own[r];
  }

  /** Of every two of the points named. */
  correlationOf(points: readonly number[]): Float64Array {
    const at = (a: number, b: number) => this.covariance[a >= b ? (a * (a + 1)) / 2 + b : (b * (b + 1)) / 2 + a];
    return Float64Array.from({ length: points.length ** 2 }, (_, i) => {
      const [a, b] = [points[Math.floor(i / points.length)], points[i % points.length]];
      return at(a, b) / Math.sqrt(at(a, a) * at(b, b));
    });
  }

  /** All single faults; a lead on the wrong node only of a part that was worked on. */
  sitesFor(repaired: ReadonlySet<string>): Site[] {
    const { prior } = this.prepared;
    return prior.singles.flatMap(({ sites: [site] }) =>
      !site.moved || repaired.has(prior.nameOf(site)) ? [site] : [],
    );
  }

  /** A fault of a repaired part, or a bridge at one of its ends. */
  isNear(site: Site, repaired: ReadonlySet<string>): boolean {
    const { prior, network, set } = this.prepared;
    if (site.branch >= 0) return repaired.has(prior.nameOf(site));
    const ends = network.branches.flatMap((b) => (repaired.has(b.part.designator) ? [b.from, b.to] : []));
    return set.bridges[site.bridge].some((n) => ends.includes(n));
  }

  supposed(site: Site): Supposed | null {
    const { network, set } = this.prepared;
    return supposedAt(network, set.bridges, site, 0.5);
  }

  /** Deviations under suspects as they are written up; null where the circuit has no such fault. */
  zOfNamed(faults: readonly Repaired[]): Float64Array | null {
    const at = faultsAt(this.prepared, faults);
    return at && this.zOf(at);
  }

  /** Deviations from healthy, in standard deviations; nothing where a point cannot be told. */
  zOf(faults: readonly FaultAt[]): Float64Array {
    this.prepared.integrator.predictor.predict(faults, "values", this.outcome);
    const { y } = this.outcome;
    return Float64Array.from({ length: this.count }, (_, r) => {
      const { value, plusMinus } = this.healthy[r];
      const z = (2 * (y[r] - value)) / plusMinus;
      return Number.isFinite(z) ? z : 0;
    });
  }
}

export function rankInputOf({ circuit, meter, priors, habits, switches }: ProofInput): RankInput {
  const standing = switches && Object.keys(switches).length > 0 ? { switches } : undefined;
  // A new build's misplaced leads are among what a repair can do to a part.
  return { circuit, readings: [], meter, priors, habits, situation: "newBuild", standing };
}

/** As suspects name it. */
const nameOfMode = ({ mode }: Site) => (mode === "wiperOpen" ? "open" : mode);

function faultsAt({ prior, network, set }: Prepared, faults: readonly Repaired[]): FaultAt[] | null {
  const found = faults.map((fault) => {
    const site = prior.singles
      .map((s) => s.sites[0])
      .find((s) => {
        if ("nodes" in fault) {
          const pair = s.bridge >= 0 ? set.bridges[s.bridge] : null;
          return pair?.every((n) => (fault.nodes as readonly string[]).includes(network.nodes[n])) ?? false;
        }
        return (
          s.branch >= 0 && !s.moved && network.branches[s.branch].name === fault.part && nameOfMode(s) === fault.mode
        );
      });
    if (!site) return null;
    const value = typeof fault.value === "number" ? fault.value : (site.value?.(0.5) ?? 0);
    return { site, value };
  });
  return found.every((f) => f !== null) ? found : null;
}
