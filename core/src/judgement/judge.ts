import { type Draws, isDismantling, type Plan, readingsToSettle, type Suggestion } from "../plan/index.ts";
import type { RankInput, Weighing } from "../rank/index.ts";
import { proofOf, type RepairProof } from "./proof.ts";
import { type Verdict, verdictOf } from "./verdict.ts";

/**
 * What is to be believed of a job, and done: page, command line, report and voice read this, and none judges for itself.
 */
export interface Judgement {
  readonly verdict: Verdict;
  /** How many more readings should settle it; 0 where it is settled, null where that cannot be foreseen. */
  readonly toSettle: number | null;
  /** What to do next, the best first; beside a verdict what can be read at leisure, without dismantling. */
  readonly next: readonly Suggestion[];
  /** How each repair that matters is proved, in the order of the repairs. */
  readonly proofs: readonly RepairProof[];
}

/** Repairs below this are not proved; and at most so many are. */
const MATTERS = 0.01;
const MOST_PROOFS = 6;

/** @param draws for the continuations that tell how many more readings it takes */
export function judge(input: RankInput, weighing: Weighing, plan: Plan, draws: Draws): Judgement {
  const verdict = verdictOf(weighing, plan);
  const isOver = verdict.kind === "settled" || verdict.kind === "healthy";
  const proofs = plan.repairs.shares
    .flatMap((s, number) => (s.repair.length > 0 && s.probability >= MATTERS ? [number] : []))
    .slice(0, MOST_PROOFS)
    .map((number) => proofOf(plan, input.readings, number));
  return {
    verdict,
    toSettle: isOver ? 0 : verdict.kind === "stuck" ? null : readingsToSettle(plan, draws),
    next: isOver ? plan.suggestions.filter((s) => !isDismantling(s.measurement)) : plan.suggestions,
    proofs,
  };
}

/** The proof of a repair, where it is among those that matter. */
export function proofAmong(proofs: readonly RepairProof[], repair: RepairProof["repair"]): RepairProof | null {
  const key = JSON.stringify(repair);
  return proofs.find((p) => JSON.stringify(p.repair) === key) ?? null;
}
