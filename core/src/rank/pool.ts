import { logSumExp } from "./evidence/gaussian.ts";
import { type Detail, type Hypothesis, type Integrated, isHealthy } from "./evidence/integrator.ts";
import { bendCorrection } from "./evidence/relinearise.ts";
import type { Prepared } from "./prepare.ts";
import type { Weighed, Weighing } from "./ranking.ts";

/** Hypotheses above this share, and at most so many, are asked which readings are doubtful. */
const MATTERS = 3e-4;
const LEADING = 24;
/** Those that may come above this share are linearised once more, each for itself, and at most so many. */
const BENT = 2e-3;
const MOST_BENT = 48;
/** Hypotheses below this share are not listed: a thousand of them are a thousandth of a percent. */
const LISTED = 4e-9;

/** One fault at most, and a good meter. */
const isSingle = ({ sites, meter }: Hypothesis) => sites.length < 2 && meter === undefined;

/** Gathers what was weighed, keeping what counts. */
export class Pool {
  total = Number.NEGATIVE_INFINITY;
  /** How well nothing wrong explains everything, whatever its prior. */
  logHealthy = Number.NEGATIVE_INFINITY;
  private kept: Integrated[] = [];
  private readonly details = new Map<Hypothesis, Detail>();
  private readonly bends = new Map<Hypothesis, number>();
  private readonly noticed = new Map<Hypothesis, number>();

  constructor(private readonly prepared: Prepared) {}

  take(result: Integrated, hypothesis: Hypothesis) {
    if (Number.isNaN(result.logMass)) return;
    this.total = logSumExp([this.total, result.logMass]);
    if (isHealthy(hypothesis)) this.logHealthy = result.logMass - hypothesis.logPrior;
    if (result.logMass > this.total + Math.log(LISTED) || isSingle(hypothesis)) this.kept.push(result);
  }

  settle(progress: number, left: number): Weighing {
    const floor = this.total + Math.log(LISTED);
    this.kept = this.kept.filter((r) => r.logMass > floor || isSingle(r.hypothesis));
    this.kept.sort((a, b) => b.logMass - a.logMass);
    const leading = this.kept.filter((r) => r.logMass > this.total + Math.log(MATTERS)).slice(0, LEADING);
    for (const result of leading) this.lookAt(result);
    const usual = this.bend();
    const masses = this.kept.map(
      ({ hypothesis, logMass }) =>
        logMass + (this.bends.get(hypothesis) ?? usual) + (this.noticed.get(hypothesis) ?? 0),
    );
    const sum = logSumExp(masses);
    const hypotheses = this.kept.map(
      ({ hypothesis, cells }, k): Weighed => ({
        hypothesis,
        cells,
        logMass: masses[k],
        detail: this.details.get(hypothesis) ?? null,
        probability: Math.exp(masses[k] - sum),
        isConsequence: hypothesis.logPriorAt !== undefined,
      }),
    );
    hypotheses.sort((a, b) => b.logMass - a.logMass);
    return { kind: "weighing", prepared: this.prepared, hypotheses, progress, left };
  }

  /**
   * Linearises once more what counts, or would if it rose by as much as another did: what one hypothesis explains by parts
   * far from their values may look e⁸ times too unlikely on the straight lines of another.
   * @returns what the rest is to rise by: as the others do on the average
   */
  private bend(): number {
    // Nothing wrong is what a verdict is held against, however little it counts.
    let waiting: readonly Integrated[] = [
      ...this.kept.filter((r) => isHealthy(r.hypothesis)),
      ...this.kept.filter((r) => r.logMass > this.total + Math.log(BENT)).slice(0, MOST_BENT),
    ];
    let known: { readonly logMass: number; readonly bend: number }[] = [];
    while (waiting.length > 0) {
      for (const result of waiting)
        if (!this.bends.has(result.hypothesis))
          this.bends.set(result.hypothesis, bendCorrection(this.prepared.integrator, result, this.lookAt(result)));
      known = this.kept.flatMap(({ hypothesis, logMass }) => {
        const bend = this.bends.get(hypothesis);
        return bend === undefined ? [] : [{ logMass, bend }];
      });
      const most = Math.max(0, ...known.map((k) => k.bend));
      const counts = logSumExp(known.map((k) => k.logMass + k.bend)) + Math.log(BENT);
      waiting = this.kept
        .filter((r) => !this.bends.has(r.hypothesis) && r.logMass + most > counts)
        .slice(0, Math.max(0, MOST_BENT - known.length));
    }
    const shares = known.map((k) => Math.exp(k.logMass - this.total));
    const covered = shares.reduce((s, share) => s + share, 0);
    return covered > 0 ? known.reduce((s, { bend }, k) => s + shares[k] * bend, 0) / covered : 0;
  }

  /** What only those that count have: their detail, and what a complaint's weight gets wrong of them. */
  private lookAt(result: Integrated): Detail {
    const { hypothesis } = result;
    const { integrator } = this.prepared;
    const known = this.details.get(hypothesis);
    if (known) return known;
    const detail = integrator.detail(result);
    this.details.set(hypothesis, detail);
    this.noticed.set(hypothesis, integrator.noticedCorrection(result));
    return detail;
  }
}
