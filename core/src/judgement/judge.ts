import {
  atOnce,
  type Draws,
  isDismantling,
  type Plan,
  type Steps,
  type Suggestion,
  settleSteps,
} from "../plan/index.ts";
import type { FalseMeter, RankInput, Weighing } from "../rank/index.ts";
import { isSamePlace } from "../record/index.ts";
import { proofOf, type RepairProof } from "./proof.ts";
import { TELLING, type Verdict, verdictOf } from "./verdict.ts";

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
  /** Meters that may well read false: a known value, or another meter, tells that from a fault. */
  readonly meters: readonly DoubtfulMeter[];
}

export interface DoubtfulMeter {
  readonly quantity: FalseMeter["quantity"];
  /** Its name; "" for the one in hand. */
  readonly meter: string;
  readonly probability: number;
}

/** Repairs below this are not proved; and at most so many are. */
const MATTERS = 0.01;
const MOST_PROOFS = 6;
/** Meters less likely false than this are not spoken of. */
const DOUBTFUL = 0.05;

/** @param draws for the continuations that tell how many more readings it takes */
export function* judgeSteps(input: RankInput, weighing: Weighing, plan: Plan, draws: Draws): Steps<Judgement> {
  const verdict = verdictOf(weighing, plan, input.readings);
  const isOver = verdict.kind === "settled" || verdict.kind === "healthy";
  const proofs = plan.repairs.shares
    .flatMap((s, number) => (s.repair.length > 0 && s.probability >= MATTERS ? [number] : []))
    .slice(0, MOST_PROOFS)
    .map((number) => proofOf(plan, input.readings, number));
  const isForeseen = !isOver && verdict.kind !== "stuck";
  const toSettle = isForeseen ? atLeastOne(yield* settleSteps(plan, draws)) : isOver ? 0 : null;
  return {
    verdict,
    toSettle,
    next: nextAfter(verdict, input, weighing, plan),
    proofs,
    meters: doubtfulMeters(weighing),
  };
}

/** The same at once. */
export function judge(...given: Parameters<typeof judgeSteps>): Judgement {
  return atOnce(judgeSteps(...given));
}

/**
 * In the order of the plan. Where nothing that is measured tells any more, only what dismantling would. Where nothing
 * speaks for a fault nothing is taken apart while a reading may tell; one that was probably mis-taken is taken again
 * first.
 */
function nextAfter(
  verdict: Verdict,
  { readings }: RankInput,
  { prepared }: Weighing,
  plan: Plan,
): readonly Suggestion[] {
  if (verdict.kind === "open" && !verdict.quiet) return plan.suggestions;
  if (verdict.kind === "stuck") return plan.suggestions.filter((s) => s.informationBits >= TELLING);
  const easy = plan.suggestions.filter((s) => !isDismantling(s.measurement));
  const doubtful = verdict.kind === "open" && verdict.again !== undefined ? readings[verdict.again] : null;
  if (!doubtful) return easy;
  const { nodes, reference } = prepared.network;
  const again = plan.offers.find(({ measurement: m }) =>
    doubtful.quantity === "observation"
      ? m.kind === (doubtful.alone ? "alone" : "look") && m.part === doubtful.part
      : "reading" in m && isSamePlace(m.reading, doubtful, nodes[reference]),
  );
  if (!again) return easy;
  const { outcome: _, ...suggestion } = again;
  return [suggestion, ...easy.filter((s) => s.measurement !== again.measurement)];
}

/** Where a repair holds enough without having earned it, the next reading tells. */
const atLeastOne = (count: number | null) => (count === null ? null : Math.max(1, count));

function doubtfulMeters({ hypotheses }: Weighing): DoubtfulMeter[] {
  const found = new Map<FalseMeter, number>();
  for (const { hypothesis, probability } of hypotheses)
    if (hypothesis.meter) found.set(hypothesis.meter, (found.get(hypothesis.meter) ?? 0) + probability);
  return [...found].flatMap(([{ quantity, meter }, probability]) =>
    probability >= DOUBTFUL ? [{ quantity, meter, probability }] : [],
  );
}

/** The proof of a repair, where it is among those that matter. */
export function proofAmong(proofs: readonly RepairProof[], repair: RepairProof["repair"]): RepairProof | null {
  const key = JSON.stringify(repair);
  return proofs.find((p) => JSON.stringify(p.repair) === key) ?? null;
}
