import type { RankInput, RankProblem } from "@hound/core/rank";
import type { NumericReading } from "@hound/core/record";
import {
  type Curve,
  curveOf,
  type Signatures,
  type Supposed,
  signaturesOf,
  type Wished,
  wishedFaults,
} from "@hound/core/whatif";

/** What is too long for the page's own thread. */
export type LabQuestion =
  | { readonly kind: "signatures"; readonly input: RankInput }
  | {
      readonly kind: "curve";
      readonly input: RankInput;
      readonly point: NumericReading;
      readonly isRead: boolean;
      readonly part: string;
      readonly supposed: readonly Supposed[];
    }
  | { readonly kind: "wish"; readonly input: RankInput; readonly point: NumericReading };

export type LabAnswer =
  | Signatures
  | Curve
  | { readonly kind: "wished"; readonly faults: readonly Wished[] }
  | RankProblem;

export interface LabRequest {
  readonly ticket: number;
  readonly question: LabQuestion;
}

self.onmessage = ({ data: { ticket, question } }: MessageEvent<LabRequest>) => {
  self.postMessage({ ticket, answer: answerTo(question) });
};

function answerTo(question: LabQuestion): LabAnswer {
  switch (question.kind) {
    case "signatures":
      return signaturesOf(question.input);
    case "curve":
      return curveOf(question.input, question.point, question.isRead, question.part, question.supposed);
    case "wish": {
      const found = wishedFaults(question.input, question.point);
      return "kind" in found ? found : { kind: "wished", faults: found };
    }
    default:
      return question satisfies never;
  }
}
