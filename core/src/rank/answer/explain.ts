import { Evidence } from "../evidence/evidence.ts";
import { Integrator, isHealthy } from "../evidence/integrator.ts";
import { readerOf } from "../evidence/reader.ts";
import { spansOf } from "../evidence/spans.ts";
import type { Weighed, Weighing } from "../ranking.ts";
import { faultsOf, type SuspectFault } from "./describe.ts";

/** What each reading says for a suspect (positive) or against it, in bits, beside “nothing wrong”. */
export interface Explanation {
  readonly faults: readonly SuspectFault[];
  /** One for each numeric reading: its place among all readings given, and its say after those before it. */
  readonly bits: readonly { readonly index: number; readonly bits: number }[];
  /** What was seen, and bending tolerances, which belong to no single reading. */
  readonly rest: number;
  /** Sum of all: log₂ of how the odds against “nothing wrong” moved. */
  readonly total: number;
}

/**
 * Explains suspects by the chain rule: bits of reading i are log₂ p(yᵢ|y₁…yᵢ₋₁, suspect) − log₂ p(yᵢ|y₁…yᵢ₋₁, healthy).
 * Readings that say the same share what the first of them said.
 * @returns what explains one suspect, in O(readings) integrations; null without “nothing wrong” to compare with
 */
export function explainer(weighing: Weighing): ((suspect: Weighed) => Explanation) | null {
  const { prepared, hypotheses } = weighing;
  const { set, priors, numericCount, places, members, integrator, meter } = prepared;
  const healthy = hypotheses.find((h) => isHealthy(h.hypothesis));
  if (!healthy) return null;
  const spans = spansOf(set);
  const prefixes = Array.from({ length: numericCount }, (_, k) => {
    const readers = set.probes.slice(0, k + 1).map((p, i) => readerOf(p, meter, spans[i], places[i]));
    const evidence = new Evidence(readers, priors);
    return new Integrator(integrator.predictor, evidence);
  });
  const evidenceOf = ({ hypothesis }: Weighed) =>
    prefixes.map((p) => p.integrate(hypothesis, Number.NEGATIVE_INFINITY).logMass - hypothesis.logPrior);
  const odds = ({ logMass, hypothesis }: Weighed) => logMass - hypothesis.logPrior;
  const base = evidenceOf(healthy);
  return (suspect) => {
    const own = evidenceOf(suspect);
    const bits = own.map((log, k) => (log - (own[k - 1] ?? 0) - base[k] + (base[k - 1] ?? 0)) / Math.LN2);
    const total = (odds(suspect) - odds(healthy)) / Math.LN2;
    return {
      faults: faultsOf(prepared, suspect),
      // What many of one point say together is said by each in part.
      bits: bits
        .flatMap((b, k) => members[k].map((index) => ({ index, bits: b / members[k].length })))
        .sort((a, b) => a.index - b.index),
      rest: total - bits.reduce((s, b) => s + b, 0),
      total,
    };
  };
}
