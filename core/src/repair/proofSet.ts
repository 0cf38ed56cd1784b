import type { Circuit, Network } from "../circuit/index.ts";
import type { FaultAt, Site } from "../faults/index.ts";
import { errorOf } from "../measure/index.ts";
import { type Measurement, measurementsOn } from "../plan/index.ts";
import { type Prediction, type Prepared, prepare, type RankInput, type RankProblem } from "../rank/index.ts";
import type { Meter, NumericReading, Priors, Repaired } from "../record/index.ts";
import { type Supposed, supposedAt } from "../whatif/index.ts";
import { ALONE, coverOf, type Row } from "./cover.ts";

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

/** The shortest set found of readings that show, each beside what it should be, that nothing is wrong any more. */
export interface ProofSet {
  readonly kind: "proof";
  readonly readings: readonly ProofReading[];
  /** Single faults that none of them would show, the likeliest first, each with what would. */
  readonly unseen: readonly UnseenFault[];
  /** Share of all single faults, by how often they happen, that the set shows. */
  readonly shown: number;
}

export interface ProofReading {
  readonly measurement: Extract<Measurement, { readonly reading: NumericReading }>;
  /** What a healthy circuit shows, two standard deviations of tolerances and meter together. */
  readonly healthy: Prediction;
}

export interface UnseenFault {
  readonly fault: Supposed;
  /** Of all single faults. */
  readonly share: number;
  readonly show: NumericReading | null;
}

/** Deviations in limits (two standard deviations): a reading disagrees beyond this. */
export const OFF = ALONE / 2;
/** Values at which a fault that has one is tried, as shares of what happens; fewer where each has to be settled anew. */
const STEPS = { usual: 10, filaments: 4 } as const;
/** What the easy points do not show of a suspect that mattered is looked for by current and ohms. */
const MATTERS = 1.5 * ALONE;

/**
 * Plans the proof: a small set of voltages that sees nearly all that a voltage at any node would show of any single fault,
 * at every size it may have, and every suspect that mattered. Voltages need nothing opened; ohms and currents come in
 * only where a suspect that mattered shows nowhere else.
 */
export function proofSet(input: ProofInput): ProofSet | RankProblem {
  const base = prepare(rankInputOf(input));
  if (base.kind === "problem") return base;
  const { network } = base;
  const offered = candidatesOn(network, input.switches);
  const prepared = prepare(
    rankInputOf(input),
    offered.map((c) => c.reading),
  );
  if (prepared.kind === "problem") return prepared;
  const bench = new ProofBench(prepared, offered.length);
  const repaired = new Set(input.repaired);
  const sites = prepared.prior.singles.flatMap(({ sites: [site] }) =>
    !site.moved || repaired.has(prepared.prior.nameOf(site)) ? [site] : [],
  );
  const easy = offered.flatMap((c, r) => (c.kind === easyKind(network) ? [r] : []));
  const nodes = easy.filter((r) => offered[r].reading.quantity !== "voltage" || !("to" in offered[r].reading));
  const hasFilaments = network.branches.some((b) => b.law.kind === "filament");
  const steps = hasFilaments ? STEPS.filaments : STEPS.usual;
  const shownBy = sites.map((site) => {
    const values = valuesOf(site, steps);
    return { site, zs: values.map((value) => bench.zOf([{ site, value }])) };
  });
  const rows = shownBy.flatMap(({ site, zs }) => zs.map((z): Row => ({ weight: site.weight / zs.length, z })));
  const all = rows.reduce((sum, r) => sum + r.weight, 0);
  const counted = rows.length;
  // What was worked on, and what solder or a strand there may join, weighs as much as all the rest.
  for (const { site, zs } of shownBy)
    if (isNear(site, prepared, repaired)) rows.push(...zs.map((z): Row => ({ weight: all / zs.length, z })));
  const needed = new Set<number>();
  for (const faults of input.mattered) {
    const at = faultsAt(prepared, faults);
    if (!at) continue;
    const z = bench.zOf(at);
    // What mattered weighs so much that the set is not done before it shows.
    rows.push({ weight: all, z });
    if (bestOf(z, easy) >= MATTERS) continue;
    const best = indexOfMost(z);
    if (Math.abs(z[best]) >= ALONE && !easy.includes(best)) needed.add(best);
  }
  const used = [...new Set([...easy, ...needed])];
  const at = new Map(used.map((r, i) => [r, i]));
  const numbersOf = (wanted: Iterable<number>) => [...wanted].map((r) => at.get(r) as number);
  const showing = {
    columns: numbersOf(easy),
    cost: used.map((r) => offered[r].minutes),
    rows: rows.map(({ weight, z }) => ({ weight, z: Float64Array.from(used, (r) => z[r]) })),
    counted,
    correlation: bench.correlationOf(used),
    count: used.length,
  };
  const chosen = coverOf(showing, numbersOf(nodes), numbersOf(needed)).map((i) => used[i]);
  return {
    kind: "proof",
    readings: chosen.map((r) => ({ measurement: offered[r], healthy: bench.healthy[r] })),
    ...unseenBy(bench, prepared, sites, chosen),
  };
}

function rankInputOf({ circuit, meter, priors, habits, switches }: ProofInput): RankInput {
  const standing = switches && Object.keys(switches).length > 0 ? { switches } : undefined;
  // A new build's misplaced leads are among what a repair can do to a part.
  return { circuit, readings: [], meter, priors, habits, situation: "newBuild", standing };
}

function candidatesOn(network: Network, switches: ProofInput["switches"]): ProofReading["measurement"][] {
  const state = switches && Object.keys(switches).length > 0 ? { state: { switches } } : {};
  return measurementsOn(network).flatMap((m): ProofReading["measurement"][] =>
    "reading" in m && m.kind !== "lift" ? [{ ...m, reading: { ...m.reading, ...state } }] : [],
  );
}

/** What needs nothing opened: volts, or ohms where there is no supply. */
const easyKind = ({ branches }: Network): Measurement["kind"] =>
  branches.some((b) => b.kind === "supply") ? "voltage" : "ohms";

/** How far faults move what the points show. */
class ProofBench {
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

function valuesOf({ value }: Site, steps: number): number[] {
  return value ? Array.from({ length: steps }, (_, i) => value((i + 0.5) / steps)) : [0];
}

/** A fault of a repaired part, or a bridge at one of its ends. */
function isNear(site: Site, { prior, network, set }: Prepared, repaired: ReadonlySet<string>): boolean {
  if (site.branch >= 0) return repaired.has(prior.nameOf(site));
  const ends = network.branches.flatMap((b) => (repaired.has(b.part.designator) ? [b.from, b.to] : []));
  return set.bridges[site.bridge].some((n) => ends.includes(n));
}

const bestOf = (z: Float64Array, among: readonly number[]) =>
  among.reduce((most, r) => Math.max(most, Math.abs(z[r])), 0);

function indexOfMost(z: Float64Array): number {
  let best = 0;
  for (let r = 1; r < z.length; r += 1) if (Math.abs(z[r]) > Math.abs(z[best])) best = r;
  return best;
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

/** What the chosen readings would not show, judged at the middle of what happens. */
function unseenBy(
  bench: ProofBench,
  { network, set }: Prepared,
  sites: readonly Site[],
  chosen: readonly number[],
): Pick<ProofSet, "unseen" | "shown"> {
  const own = sites.filter((s) => !s.moved);
  const all = own.reduce((sum, s) => sum + s.weight, 0);
  let shown = 0;
  const unseen = own.flatMap((site): UnseenFault[] => {
    const z = bench.zOf([{ site, value: site.value?.(0.5) ?? 0 }]);
    const share = site.weight / all;
    if (bestOf(z, chosen) >= ALONE) {
      shown += share;
      return [];
    }
    const fault = supposedAt(network, set.bridges, site, 0.5);
    if (!fault) return [];
    const best = indexOfMost(z);
    return [{ fault, share, show: Math.abs(z[best]) >= ALONE ? (set.probes[best].reading as NumericReading) : null }];
  });
  return { unseen: unseen.sort((a, b) => b.share - a.share), shown };
}
