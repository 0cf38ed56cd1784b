import { type Fact, factsOf, only } from "../configuration/index.ts";
import { corrected, errorOf } from "../measure/index.ts";
import { faultsOf, isHealthy, prepare, type RankProblem, type SuspectFault, weighToEnd } from "../rank/index.ts";
import { isMended, isSamePlace, type MendStep, meterData, type NumericReading, type Reading } from "../record/index.ts";
import type { ProofInput } from "./proofBench.ts";
import { OFF, type ProofSet } from "./proofSet.ts";

/** A reading taken after the repair, beside what a healthy circuit shows. */
export interface ProofRow {
  readonly reading: NumericReading;
  /** Number among the readings given; null of one still to be taken. */
  readonly index: number | null;
  readonly healthy: { readonly value: number; readonly plusMinus: number };
  /** In limits (two standard deviations of tolerances and meter together); null of one still to be taken. */
  readonly off: number | null;
  readonly says: "agrees" | "edge" | "disagrees" | null;
}

/**
 * What the readings after a repair come to. `open`: some of the set are still to be taken. `repaired`: each agrees with
 * healthy, and together they speak for no fault. `doubtful`: each may pass, but together they look like a fault.
 * `notSettled`: at least one disagrees.
 */
export interface ProofVerdict {
  readonly kind: "open" | "repaired" | "doubtful" | "notSettled";
  readonly rows: readonly ProofRow[];
  readonly agree: number;
  readonly taken: number;
  /** Probability that nothing is wrong, by these readings alone: evens before them. */
  readonly healthy: number;
  /** What leads where it is not that. */
  readonly suspect: { readonly faults: readonly SuspectFault[]; readonly probability: number } | null;
}

/** What a repair leaves behind, and levers. */
const STAYS: ReadonlySet<Fact["is"]> = new Set(["swapped", "cleared", "leads", "lever"]);

/** Whether a reading was taken of the circuit as it is to stay: everything as drawn but levers, with these steps done. */
export function isOfProof(reading: Reading, steps: readonly MendStep[]): boolean {
  const { state = {} } = reading;
  return factsOf(state).every(({ is }) => STAYS.has(is)) && steps.every((step) => isMended(step, state));
}

/**
 * Judges the readings that were taken after the steps were done. The new parts are under suspicion like all others: what
 * was repaired is what is proved.
 * @param readings all readings of the job
 */
export function proofVerdict(
  input: ProofInput,
  set: ProofSet,
  readings: readonly Reading[],
  steps: readonly MendStep[],
): ProofVerdict | RankProblem {
  const data = meterData(input.meter);
  const own = readings.flatMap((reading, index) =>
    isOfProof(reading, steps) ? [{ reading: plain(reading), index }] : [],
  );
  const numeric = own.flatMap(({ reading, index }) =>
    reading.quantity === "observation" || reading.beyond !== undefined ? [] : [{ reading, index }],
  );
  const { circuit, meter, priors, habits } = input;
  const common = { circuit, meter, priors, habits, situation: "repaired" as const };
  const prepared = prepare(
    { ...common, readings: [] },
    numeric.map((n) => n.reading),
  );
  if (prepared.kind === "problem") return prepared;
  const { predictor } = prepared.integrator;
  const outcome = predictor.predict([], "variances");
  const rows = numeric.map(({ reading, index }, r): ProofRow => {
    const value = outcome.y[r];
    const { own: spread } = errorOf({ ...reading, value }, data);
    const plusMinus = 2 * Math.sqrt(predictor.varianceOf(outcome, r) + spread ** 2);
    const off = (corrected(reading, data).value - value) / plusMinus;
    return { reading, index, healthy: { value, plusMinus }, off, says: sayOf(off) };
  });
  const reference = prepared.network.nodes[prepared.network.reference];
  const missing = set.readings
    .filter((p) => !numeric.some((n) => isSamePlace(n.reading, p.measurement.reading, reference)))
    .map((p): ProofRow => ({ reading: p.measurement.reading, index: null, healthy: p.healthy, off: null, says: null }));
  // Two faults that hide each other at every reading of the set are not looked for.
  const weighing = weighToEnd({ ...common, readings: own.map((o) => o.reading) }, { pairs: false });
  if (weighing.kind === "problem") return weighing;
  const healthy = weighing.hypotheses.find((h) => isHealthy(h.hypothesis))?.probability ?? 0;
  const first = weighing.hypotheses.find((h) => h.hypothesis.sites.length > 0);
  const isOff = rows.some((r) => r.says === "disagrees");
  const isDoubtful = rows.length > 0 && healthy < 0.5;
  return {
    kind: isOff
      ? "notSettled"
      : isDoubtful
        ? "doubtful"
        : missing.length > 0 || rows.length === 0
          ? "open"
          : "repaired",
    rows: [...rows, ...missing],
    agree: rows.filter((r) => r.says !== "disagrees").length,
    taken: rows.length,
    healthy,
    suspect:
      first && (isOff || isDoubtful)
        ? { faults: faultsOf(weighing.prepared, first), probability: first.probability }
        : null,
  };
}

function sayOf(off: number): ProofRow["says"] {
  const size = Math.abs(off);
  return size <= 1 ? "agrees" : size <= OFF ? "edge" : "disagrees";
}

/** A reading without what was repaired before it: the new part is as good as it reads. */
function plain<R extends Reading>(reading: R): R {
  const { state: before = {}, ...rest } = reading;
  const state = only(before, ({ is }) => is !== "swapped" && is !== "cleared");
  return (Object.keys(state).length > 0 ? { ...rest, state } : rest) as R;
}
