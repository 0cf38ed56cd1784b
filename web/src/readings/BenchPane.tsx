import { Suspense } from "react";
import { Loading } from "../app/Loading.tsx";
import { lazyNamed } from "../app/lazyNamed.ts";
import { PaneBoundary } from "../app/PageError.tsx";
import type { Sent } from "../app/sent.ts";
import { useDesk } from "../desk/DeskContext.tsx";
import { LineWithNext } from "../line/LineWithNext.tsx";
import type { Streaming } from "../meter/useStreaming.ts";
import { Cautions } from "../session/cautions.tsx";
import { Standing } from "../session/Standing.tsx";
import type { ReadingLine } from "../session/useReadingLine.ts";
import type { SuspectBench } from "../suspects/ModeDetails.tsx";
import { ThreeSuspects } from "../suspects/ThreeSuspects.tsx";
import { inWords } from "../words/print.ts";
import { BenchSetup } from "./BenchSetup.tsx";
import { HabitNote } from "./HabitNote.tsx";
import { ReadingList } from "./ReadingList.tsx";
import { WhereItStands } from "./WhereItStands.tsx";

const CoachCard = lazyNamed(() => import("../coach/CoachCard.tsx"), "CoachCard", true);
const CoachLine = lazyNamed(() => import("../coach/CoachCard.tsx"), "CoachLine", true);
const LiveMeter = lazyNamed(() => import("../meter/LiveMeter.tsx"), "LiveMeter", true);
const Procedures = lazyNamed(() => import("../coach/Procedures.tsx"), "Procedures", true);
const SuspectsStage = lazyNamed(() => import("../suspects/SuspectsStage.tsx"), "SuspectsStage");

interface BenchPaneProps {
  readonly stage: "readings" | "suspects";
  readonly line: ReadingLine;
  readonly streaming: Streaming;
  readonly onBench: () => void;
  readonly sent: Sent | null;
  readonly onUsed: () => void;
  /** What stage Suspects can show beside the ranking. */
  readonly onChoose: SuspectBench["onChoose"];
  readonly onSuppose: SuspectBench["onSuppose"];
}

/**
 * Stages Readings and Suspects. In Readings four zones that keep their place and height: where the job stands, the line with
 * its proposal, three suspects, the last readings.
 */
export function BenchPane(props: BenchPaneProps) {
  const { stage, line, sent, onUsed } = props;
  return (
    <div className="flex flex-col gap-3">
      <WhereItStands ranked={line.ranked} />
      {stage === "readings" ? <AtTheBench {...props} /> : <SuspectsInFull {...props} />}
      {sent?.kind === "reading" && (
        <p
          role="status"
          className="sticky bottom-0 flex items-center gap-3 rounded-xl border-2 border-copper bg-sheet px-4 py-2"
        >
          <span className="grow">
            From the pocket sums: <strong className="font-mono">{sent.words}</strong>. Pick on the board where it was
            read.
          </span>
          <button
            type="button"
            className="shrink-0 rounded-lg border border-rule px-3 py-1.5 hover:bg-band"
            onClick={onUsed}
          >
            Put away
          </button>
        </p>
      )}
      <Standing />
    </div>
  );
}

/** Until there is a reading: how one is typed. */
const HELP = "“B 7.42”, “R3 12mA”, “B-D 470ohm”. Enter records.";

function AtTheBench({ line, streaming, onBench }: BenchPaneProps) {
  const { readings, state } = useDesk();
  const { complaint } = state.job;
  const { ranking } = line.ranked;
  return (
    <>
      <LineWithNext
        line={line}
        isBrief={false}
        atRest={
          <Suspense>
            <CoachLine line={line} help={readings.length === 0 ? inWords(HELP) : ""} />
          </Suspense>
        }
      />
      <PaneBoundary name="The coach">
        <Suspense>
          <CoachCard line={line} />
          {streaming.source !== "none" && <LiveMeter streaming={streaming} />}
        </Suspense>
      </PaneBoundary>
      <ThreeSuspects line={line} />
      <ReadingList verdicts={ranking?.kind === "ranking" ? ranking.readings : []} />
      <BenchSetup streaming={streaming} onBench={onBench} />
      <PaneBoundary name="The sequences">
        <Suspense>
          <Procedures line={line} />
        </Suspense>
      </PaneBoundary>
      <HabitNote ranked={line.ranked} />
      {/* Before there is a reading it stands in the readings' place. */}
      {complaint && readings.length > 0 && (
        <p dir="auto" className="break-words whitespace-pre-line text-faint">
          “{complaint}”
        </p>
      )}
    </>
  );
}

function SuspectsInFull({ line, onChoose, onSuppose }: BenchPaneProps) {
  const { ranked } = line;
  return (
    <>
      <LineWithNext line={line} isBrief isCompact />
      <HabitNote ranked={ranked} />
      <Suspense fallback={<Loading what="the suspects" />}>
        <Cautions place="suspects" />
        <SuspectsStage
          ranked={ranked}
          bench={{ input: line.input, judgement: ranked.judgement, onChoose, onSuppose }}
        />
      </Suspense>
    </>
  );
}
