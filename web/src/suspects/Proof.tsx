import { type Judgement, proofAmong } from "@hound/core/judgement";
import type { RepairStep } from "@hound/core/rank";
import { proofWords } from "../words/proof.ts";

/** How a repair is proved or ruled out: the same words wherever it stands. */
export function Proof({ judgement, repair }: { judgement: Judgement | null; repair: readonly RepairStep[] }) {
  const proof = judgement && proofAmong(judgement.proofs, repair);
  if (!proof) return null;
  return <p className="rounded-lg border border-copper px-3 py-2">{proofWords(proof)}</p>;
}
