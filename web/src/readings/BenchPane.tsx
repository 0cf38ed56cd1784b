import { Hand } from "lucide-react";
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
import { HabitNote } from "./HabitNote.tsx";
import { ReadingsStage } from "./ReadingsStage.tsx";
import { Headline, WhereItStands } from "./WhereItStands.tsx";

const CoachCard = lazyNamed(() => import("../coach/CoachCard.tsx"), "CoachCard", true);
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

/** Stages Readings and Suspects: where the job stands, the reading line, what comes next, and what was found so far. */
export function BenchPane({ stage, line, streaming, onBench, sent, onUsed, onChoose, onSuppose }: BenchPaneProps) {
  const { state } = useDesk();
  const { complaint } = state.job;
  const { ranked } = line;
  return (
    <>
      <Headline ranked={ranked} />
      <LineWithNext line={line} isBrief={stage === "suspects"} />
      {stage === "readings" && (
        <PaneBoundary name="The coach">
          <Suspense>
            <CoachCard line={line} />
            <div className="flex flex-wrap items-center gap-2">
              <button
                type="button"
                className="flex items-center gap-2 rounded-lg border border-rule bg-sheet px-3 py-1.5 hover:bg-band"
                onClick={onBench}
              >
                <Hand size={18} aria-hidden /> Bench view
              </button>
              {streaming.source === "none" && <LiveMeter streaming={streaming} />}
            </div>
            {streaming.source !== "none" && <LiveMeter streaming={streaming} />}
            <Procedures line={line} />
          </Suspense>
        </PaneBoundary>
      )}
      <WhereItStands ranked={ranked} />
      <HabitNote ranked={ranked} />
      {sent?.kind === "reading" && (
        <p role="status" className="flex items-center gap-3 rounded-xl border-2 border-copper px-4 py-2">
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
      {complaint && stage === "readings" && (
        <p dir="auto" className="whitespace-pre-line break-words text-faint">
          “{complaint}”
        </p>
      )}
      {stage === "readings" ? (
        <ReadingsStage ranked={ranked} />
      ) : (
        <Suspense fallback={<Loading what="the suspects" />}>
          <Cautions place="suspects" />
          <SuspectsStage
            ranked={ranked}
            bench={{ input: line.input, judgement: ranked.judgement, onChoose, onSuppose }}
          />
        </Suspense>
      )}
    </>
  );
}
