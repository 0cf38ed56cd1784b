import { useDesk } from "../desk/DeskContext.tsx";
import type { ReadingLine } from "../session/useReadingLine.ts";
import { NextUp } from "./NextUp.tsx";
import { QuickLine } from "./QuickLine.tsx";

interface LineWithNextProps {
  readonly line: ReadingLine;
  /** The next measurement in one line only. */
  readonly isBrief: boolean;
  /** The reading line as low as it goes. */
  readonly isCompact?: boolean;
}

/** The reading line, and under it what comes next; taking a proposal writes it into the line. */
export function LineWithNext({ line, isBrief, isCompact }: LineWithNextProps) {
  const { select } = useDesk();
  const type = (text: string) => {
    line.type(text);
    select(null);
  };
  return (
    <QuickLine line={line} onType={type} isCompact={isCompact}>
      <NextUp
        steps={line.steps}
        isStopped={line.ranked.ranking?.kind === "problem"}
        isSettled={line.ranked.judgement?.toSettle === 0}
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
