import { type Judgement, proofAmong, type RepairProof, type Turned } from "@hound/core/judgement";
import type { ReactNode } from "react";
import { useDesk } from "../desk/DeskContext.tsx";
import type { ReadingLine } from "../session/useReadingLine.ts";
import { NextUp } from "./NextUp.tsx";
import { QuickLine } from "./QuickLine.tsx";

interface LineWithNextProps {
  readonly line: ReadingLine;
  /** The next measurement in one line only. */
  readonly isBrief: boolean;
  /** What stands in the line's place for what is understood, while nothing is typed. */
  readonly atRest?: ReactNode;
  /** The reading line as low as it goes. */
  readonly isCompact?: boolean;
}

/** The reading line, and under it what comes next; taking a proposal writes it into the line. */
export function LineWithNext({ line, isBrief, atRest, isCompact }: LineWithNextProps) {
  const { select } = useDesk();
  const type = (text: string) => {
    line.type(text);
    select(null);
  };
  return (
    <QuickLine line={line} onType={type} atRest={atRest} isCompact={isCompact}>
      <NextUp
        steps={line.steps}
        isStopped={line.ranked.ranking?.kind === "problem"}
        settled={settledOf(line.ranked.judgement)}
        isBrief={isBrief}
        healthy={line.healthy}
        onChoose={line.choose}
        onPutOff={line.putOff}
        onTake={(words) => {
          type(words);
          line.field.current?.focus();
        }}
      />
    </QuickLine>
  );
}

/** What proves the repair of a settled job; null where more has to be read. */
function settledOf(judgement: Judgement | null): { proof: RepairProof | null; turned: Turned } | null {
  if (judgement?.toSettle !== 0) return null;
  const { verdict, proofs } = judgement;
  if (verdict.kind !== "settled") return { proof: null, turned: {} };
  return { proof: proofAmong(proofs, verdict.repair), turned: verdict.turned };
}
