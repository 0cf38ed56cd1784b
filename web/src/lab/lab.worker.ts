import type { RankInput, RankProblem } from "@hound/core/rank";
import type { MendStep, NumericReading } from "@hound/core/record";
import { type ProofInput, type ProofSet, type ProofVerdict, proofSet, proofVerdict } from "@hound/core/repair";
import {
  type Curve,
  curveOf,
  type History,
  historyOf,
  type Signatures,
  type Supposed,
  signaturesOf,
  type Then,
  type ValueDistribution,
  valueDistribution,
  type Wished,
  wishedFaults,
} from "@hound/core/whatif";

/** What is too long for the page's own thread. */
export type LabQuestion = { readonly input: RankInput } & (
  | { readonly kind: "signatures" }
  | { readonly kind: "history"; readonly then?: readonly Then[] }
  | {
      readonly kind: "curve";
      readonly point: NumericReading;
      readonly isRead: boolean;
      readonly part: string;
      readonly supposed: readonly Supposed[];
    }
  | { readonly kind: "wish"; readonly point: NumericReading }
  | { readonly kind: "distribution"; readonly supposed: readonly Supposed[]; readonly which: number }
  | { readonly kind: "proof"; readonly proof: ProofInput; readonly steps: readonly MendStep[] }
);

export type LabAnswer =
  | Signatures
  | Curve
  | { readonly kind: "wished"; readonly faults: readonly Wished[] }
  | ValueDistribution
  | History
  | Proved
  | { readonly kind: "none" }
  | RankProblem;

/** The readings that prove a repair, and what those that were taken come to. */
export interface Proved {
  readonly kind: "proved";
  readonly set: ProofSet;
  readonly verdict: ProofVerdict;
}

export interface LabRequest {
  readonly ticket: number;
  readonly question: LabQuestion;
}

self.onmessage = ({ data: { ticket, question } }: MessageEvent<LabRequest>) => {
  self.postMessage({ ticket, answer: answerTo(question) });
};

let planned: { readonly of: string; readonly set: ProofSet | RankProblem } | null = null;

/** The set does not depend on what was read: with each new reading it is the same. */
function plannedProof(proof: ProofInput): ProofSet | RankProblem {
  const of = JSON.stringify(proof);
  if (planned?.of !== of) planned = { of, set: proofSet(proof) };
  return planned.set;
}

function answerTo(question: LabQuestion): LabAnswer {
  const { input } = question;
  switch (question.kind) {
    case "signatures":
      return signaturesOf(input);
    case "history":
      return historyOf(input, question.then);
    case "curve":
      return curveOf(input, question.point, question.isRead, question.part, question.supposed);
    case "wish": {
      const found = wishedFaults(input, question.point);
      return "kind" in found ? found : { kind: "wished", faults: found };
    }
    case "distribution":
      return valueDistribution(input, question.supposed, question.which) ?? { kind: "none" };
    case "proof": {
      const set = plannedProof(question.proof);
      if (set.kind === "problem") return set;
      const verdict = proofVerdict(question.proof, set, input.readings, question.steps);
      return verdict.kind === "problem" ? verdict : { kind: "proved", set, verdict };
    }
    default:
      return question satisfies never;
  }
}
