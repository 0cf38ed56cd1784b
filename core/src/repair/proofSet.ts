import { bends, type Network } from "../circuit/index.ts";
import type { Site } from "../faults/index.ts";
import { type Measurement, measurementsOn } from "../plan/index.ts";
import { type Prediction, prepare, type RankProblem } from "../rank/index.ts";
import type { NumericReading } from "../record/index.ts";
import type { Supposed } from "../whatif/index.ts";
import { ALONE, coverOf, type Row } from "./cover.ts";
import { benchOn, type ProofBench, type ProofInput, rankInputOf } from "./proofBench.ts";

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
const STEPS = { usual: 10, bending: 4 } as const;
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
  const candidates = candidatesOn(network, input.switches);
  const isEasy = (m: Measurement) => m.kind === easyKind(network);
  // What needs nothing opened comes first: all else is worked out only for what does not show there.
  const offered = [...candidates.filter(isEasy), ...candidates.filter((m) => !isEasy(m))];
  const easy = [...candidates.filter(isEasy).keys()];
  const bench = benchOn(
    input,
    offered.slice(0, easy.length).map((m) => m.reading),
  );
  if (bench.kind === "problem") return bench;
  const others = new Later(() =>
    benchOn(
      input,
      offered.map((m) => m.reading),
    ),
  );
  const nodes = easy.filter((r) => offered[r].reading.quantity !== "voltage" || !("to" in offered[r].reading));
  const steps = network.branches.some((b) => bends(b.law)) ? STEPS.bending : STEPS.usual;
  const repaired = new Set(input.repaired);
  const shownBy = bench.sitesFor(repaired).map((site) => {
    const values = valuesOf(site, steps);
    return { site, zs: values.map((value) => bench.zOf([{ site, value }])) };
  });
  const rows = shownBy.flatMap(({ site, zs }) => zs.map((z): Row => ({ weight: site.weight / zs.length, z })));
  const all = rows.reduce((sum, r) => sum + r.weight, 0);
  const counted = rows.length;
  // What was worked on, and what solder or a strand there may join, weighs as much as all the rest.
  for (const { site, zs } of shownBy)
    if (bench.isNear(site, repaired)) rows.push(...zs.map((z): Row => ({ weight: all / zs.length, z })));
  const needed = new Set<number>();
  for (const faults of input.mattered) {
    const z = bench.zOfNamed(faults);
    if (!z) continue;
    const full = bestOf(z, easy) >= MATTERS ? null : others.get();
    const own = full?.kind === "bench" ? (full.zOfNamed(faults) ?? z) : z;
    // What mattered weighs so much that the set is not done before it shows.
    rows.push({ weight: all, z: own });
    const best = indexOfMost(own);
    if (best >= easy.length && Math.abs(own[best]) >= ALONE) needed.add(best);
  }
  const used = [...easy, ...needed];
  const full = needed.size > 0 ? others.get() : bench;
  const showing = {
    columns: easy,
    cost: used.map((r) => offered[r].minutes),
    rows: rows.map(({ weight, z }) => ({ weight, z: Float64Array.from(used, (r) => z[r] ?? 0) })),
    counted,
    correlation: (full.kind === "bench" ? full : bench).correlationOf(used),
    count: used.length,
  };
  const forced = [...needed].map((r) => used.indexOf(r));
  const chosen = coverOf(showing, nodes, forced).map((i) => used[i]);
  const healthyAt = (r: number) => {
    const own = r < easy.length ? bench : others.get();
    return (own.kind === "bench" ? own : bench).healthy[r];
  };
  return {
    kind: "proof",
    readings: chosen.map((r) => ({ measurement: offered[r], healthy: healthyAt(r) })),
    ...unseenBy(bench, others, offered, chosen),
  };
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

/** Worked out once, when it is asked for. */
class Later<T> {
  private made: { readonly value: T } | null = null;

  constructor(private readonly make: () => T) {}

  get(): T {
    this.made ??= { value: this.make() };
    return this.made.value;
  }
}

function valuesOf({ value }: Site, steps: number): number[] {
  return value ? Array.from({ length: steps }, (_, i) => value((i + 0.5) / steps)) : [0];
}

const bestOf = (z: Float64Array, among: readonly number[]) =>
  among.reduce((most, r) => Math.max(most, Math.abs(z[r])), 0);

function indexOfMost(z: Float64Array): number {
  let best = 0;
  for (let r = 1; r < z.length; r += 1) if (Math.abs(z[r]) > Math.abs(z[best])) best = r;
  return best;
}

/** What the chosen readings would not show, judged at the middle of what happens. */
function unseenBy(
  bench: ProofBench,
  others: Later<ProofBench | RankProblem>,
  offered: readonly ProofReading["measurement"][],
  chosen: readonly number[],
): Pick<ProofSet, "unseen" | "shown"> {
  const own = bench.sitesFor(new Set());
  const all = own.reduce((sum, s) => sum + s.weight, 0);
  let shown = 0;
  const unseen = own.flatMap((site, number): UnseenFault[] => {
    const share = site.weight / all;
    const middle = (s: Site) => [{ site: s, value: s.value?.(0.5) ?? 0 }];
    const seenIn = (z: Float64Array) => chosen.some((r) => Math.abs(z[r] ?? 0) >= ALONE);
    let z = bench.zOf(middle(site));
    if (!seenIn(z)) {
      const full = others.get();
      // The same faults in the same order: it is the same circuit.
      if (full.kind === "bench") z = full.zOf(middle(full.sitesFor(new Set())[number]));
    }
    if (seenIn(z)) {
      shown += share;
      return [];
    }
    const fault = bench.supposed(site);
    if (!fault) return [];
    const best = indexOfMost(z);
    return [{ fault, share, show: Math.abs(z[best]) >= ALONE ? offered[best].reading : null }];
  });
  return { unseen: unseen.sort((a, b) => b.share - a.share), shown };
}
