import type { Configuration } from "@hound/core/configuration";
import type { Measurement } from "@hound/core/plan";
import { madeBy } from "@hound/core/reduce";
import { type KeyboardEvent, Suspense, useEffect, useMemo, useRef, useState } from "react";
import { Navigate, useLocation, useNavigate, useParams, useSearchParams } from "react-router";
import { Loading } from "../app/Loading.tsx";
import { lazyNamed } from "../app/lazyNamed.ts";
import { altDigit, isCommand, isKeyOf } from "../app/letterKeys.ts";
import { NoticeBar, useNotice } from "../app/Notice.tsx";
import { PaneBoundary } from "../app/PageError.tsx";
import { type Sent, sentIn } from "../app/sent.ts";
import { STAGE_NAMES, STAGES, type Stage } from "../app/stages.ts";
import { isTyping } from "../app/typing.ts";
import { useIsWide } from "../app/useIsWide.ts";
import { useKeys } from "../app/useKeys.ts";
import { useArrival, useTitle } from "../app/useTitle.ts";
import { BoardView } from "../board/BoardView.tsx";
import { useCircuitEdits } from "../circuit/useCircuitEdits.ts";
import { InHandStrip } from "../coach/InHandStrip.tsx";
import { useDesk } from "../desk/DeskContext.tsx";
import { OpenedDesk } from "../desk/OpenedDesk.tsx";
import type { Selection } from "../desk/pointing.ts";
import { foldedBoard } from "../expected/foldedBoard.ts";
import type { Fold } from "../expected/Reduce.tsx";
import { Unsaved } from "../frame/Unsaved.tsx";
import { useStreaming } from "../meter/useStreaming.ts";
import { BenchPane } from "../readings/BenchPane.tsx";
import { isLarge, TooLarge } from "../session/large.tsx";
import { measurementAt } from "../session/proposal.ts";
import { useStanding } from "../session/Standing.tsx";
import { type ReadingLine, useReadingLine } from "../session/useReadingLine.ts";
import { useWhatIf } from "../whatif/useWhatIf.ts";
import { AlsoHere } from "./AlsoHere.tsx";
import { Conflict } from "./Conflict.tsx";
import { DamagedRows } from "./DamagedRows.tsx";
import { DeletedStrip } from "./DeletedStrip.tsx";
import { JobHeader } from "./JobHeader.tsx";
import { NoCircuit } from "./NoCircuit.tsx";
import { SpokenRanking } from "./SpokenRanking.tsx";
import { Tray } from "./Tray.tsx";
import { useStageMinutes } from "./useStageMinutes.ts";

// What another stage needs comes when that stage is opened.
const CircuitStage = lazyNamed(() => import("../circuit/CircuitStage.tsx"), "CircuitStage");
const PartBar = lazyNamed(() => import("../circuit/PartBar.tsx"), "PartBar");
const ExpectedStage = lazyNamed(() => import("../expected/ExpectedStage.tsx"), "ExpectedStage");
const WhatIfStage = lazyNamed(() => import("../whatif/WhatIfStage.tsx"), "WhatIfStage");
const Pictures = lazyNamed(() => import("../pictures/Pictures.tsx"), "Pictures", true);
const RepairStage = lazyNamed(() => import("../repair/RepairStage.tsx"), "RepairStage");
const BenchView = lazyNamed(() => import("../bench/BenchView.tsx"), "BenchView");
const BenchDock = lazyNamed(() => import("../whatif/BenchDock.tsx"), "BenchDock");

const AS_DRAWN: Configuration = {};

export function JobPage() {
  const { id = "", stage } = useParams();
  if (!STAGE_NAMES.includes(stage as Stage)) return <Navigate to={`/jobs/${id}/circuit`} replace />;
  return (
    <OpenedDesk id={id} what="the job">
      <Bench stage={stage as Stage} />
    </OpenedDesk>
  );
}

/** The bench of one job: the board stays, the pane beside it changes with the stage. */
function Bench({ stage }: { stage: Stage }) {
  const { desk, state, drawn, meter, select, trailDocument } = useDesk();
  const { sent, onUsed } = useSent();
  const edits = useCircuitEdits(sent?.kind === "part" ? sent.words : null, onUsed);
  const [fold, setFold] = useState<Fold>({ at: 0, seen: null });
  const [isHushed, setHushed] = useState(false);
  const reduced = useMemo(
    () => (drawn && stage === "expected" && fold.at > 0 ? foldedBoard(drawn, fold) : null),
    [drawn, stage, fold],
  );
  const notice = useNotice();
  const navigate = useNavigate();
  const [goTo, setGoTo] = useState<{ offset: number } | null>(null);
  const { job } = state;
  const stands = useStanding();
  // Where nobody sees the ranking it waits: the circuit is being typed, or worked out on paper.
  const isRanked = stage === "readings" || stage === "whatif" || stage === "suspects" || stage === "repair";
  const [isListening, setListening] = useState(false);
  const line = useReadingLine(isRanked, stands, isListening);
  const streaming = useStreaming(line, stage === "readings", setListening);
  const [search, setSearch] = useSearchParams();
  // From half a trail nothing is expected, predicted or ranked: the board keeps the last whole picture, and says so.
  const isSound = drawn !== null && !drawn.outdated;
  const isBench = stage === "readings" && search.get("view") === "bench" && isSound;
  const { field } = line;
  const isWide = useIsWide();
  const whatIf = useWhatIf(stage, job.id, drawn, stands.standing, meter);
  const { supposing } = whatIf;
  useStageMinutes(job.id, stage);
  useTitle(STAGES[stage], job.title);
  useArrival(stage !== "readings" && stage !== "whatif");
  useEffect(() => {
    if (stage === "readings") field.current?.focus();
  }, [stage, field]);
  useKeys((event) => {
    const number = altDigit(event);
    if (number !== null && number >= 1 && number <= STAGE_NAMES.length) {
      event.preventDefault();
      // At once: what is typed next is meant for that stage.
      navigate(`/jobs/${job.id}/${STAGE_NAMES[number - 1]}`, { flushSync: true });
    } else if (isKeyOf("search", event) && !isTyping(event)) {
      event.preventDefault();
      field.current?.focus();
    } else if (isCommand(event, "z") && !isBusyTyping(event)) {
      if (stage === "circuit") {
        event.preventDefault();
        if (event.shiftKey) trailDocument.redo();
        else trailDocument.undo();
        return;
      }
      if (stage === "whatif") {
        event.preventDefault();
        (event.shiftKey ? supposing.redo : supposing.undo)?.();
        return;
      }
      const done = event.shiftKey ? null : desk.undo();
      if (done) {
        event.preventDefault();
        notice({ text: done });
      }
    }
  });

  const use = (selection: NonNullable<Selection>, by: "pointer" | "key") => {
    if (stage === "expected") {
      const made = reduced?.reduction.steps.findIndex((s) => madeBy(s).some((i) => i.name === selection.name)) ?? -1;
      if (made >= 0) setFold({ ...fold, at: made });
    } else if (stage === "whatif") {
      if (by === "key") whatIf.field.current?.focus();
    } else if (stage !== "circuit") {
      line.type(`${selection.name} ${sent?.kind === "reading" ? sent.words : ""}`);
      onUsed();
      field.current?.focus();
    } else if (!edits.pick(selection) && by === "key") document.getElementById("part-value")?.focus();
  };
  const begun = useRef(false);
  const begin = (designator: string) => {
    select({ kind: "branch", name: designator });
    begun.current = true;
  };
  // The board that was begun by keys has the focus as soon as it is there.
  useEffect(() => {
    if (!drawn || !begun.current) return;
    begun.current = false;
    document.querySelector<HTMLElement>("[data-board]")?.focus();
  }, [drawn]);
  const onBoardKey = (event: KeyboardEvent) => {
    if (stage === "circuit" && edits.runKey(event)) event.preventDefault();
  };
  return (
    <div className="flex h-full flex-col">
      <div className={`@container shrink-0 ${isBench ? "hidden" : ""}`}>
        <JobHeader desk={desk} job={job} stage={stage} saving={state.saving} why={state.why} kept={state.kept} />
      </div>
      <AlsoHere />
      {state.conflict && <Conflict />}
      <DeletedStrip />
      <InHandStrip />
      <Tray
        onEdit={(words) => {
          navigate(`/jobs/${job.id}/readings`);
          line.type(words);
          field.current?.focus();
        }}
      />
      <DamagedRows />
      <Unsaved except={job.id} />
      {/* On a phone board and pane scroll together; on a desk each in its own room, and a notice below the pane. */}
      <div className="relative flex min-h-0 grow flex-col overflow-auto low:flex-row low:overflow-visible lg:flex-row lg:overflow-visible">
        <section
          aria-label="Board"
          // On a phone the board makes room while a reading is typed.
          className={`min-w-0 shrink-0 flex-col border-b border-rule h-[34vh] min-h-52 low:h-auto low:min-h-0 low:flex-1 low:border-b-0 lg:h-auto lg:flex-1 lg:border-b-0 ${isBench ? "hidden" : isRanked && line.typed !== "" ? "hidden low:flex lg:flex" : "flex"}`}
        >
          <PaneBoundary name="The board">
            <div className="min-h-0 grow">
              <BoardView
                ranking={isRanked && isSound && stage !== "whatif" ? line.ranked.ranking : null}
                standing={isRanked ? stands.standing : AS_DRAWN}
                showOdd={stage === "circuit"}
                showStaircase={
                  (stage === "expected" || stage === "whatif") && drawn !== null && !isLarge(drawn.network)
                }
                instead={reduced?.drawn ?? null}
                isHushed={stage === "expected" && isHushed}
                next={isRanked && isSound && stage !== "whatif" ? nextOf(line) : null}
                imagined={isSound ? whatIf.onBoard : null}
                whatIf={whatIf.toggle}
                onBegun={stage === "circuit" ? begin : null}
                onUse={use}
                onKey={onBoardKey}
              />
            </div>
            <Suspense>
              <Pictures job={job.id} />
            </Suspense>
            {stage === "circuit" && drawn && (
              <Suspense>
                <PartBar edits={edits} drawn={drawn} />
              </Suspense>
            )}
          </PaneBoundary>
        </section>
        <div
          className={`flex w-full shrink-0 flex-col ${isBench ? "relative min-h-full" : `low:w-1/2 low:border-l low:border-rule lg:w-[27rem] lg:border-l lg:border-rule ${stage === "expected" || stage === "whatif" ? "xl:w-[35rem]" : "xl:w-[30rem]"}`}`}
        >
          <main className="relative flex min-h-0 grow flex-col gap-4 p-4 pb-8 low:overflow-auto low:p-2 lg:overflow-auto">
            <h2 className="sr-only" tabIndex={-1} data-heading>
              {STAGES[stage]}
            </h2>
            {isRanked && isSound && <SpokenRanking ranked={line.ranked} steps={line.steps} />}
            <PaneBoundary key={stage} name="This stage">
              <Suspense fallback={<Loading what="this stage" />}>
                {stage === "circuit" ? (
                  <CircuitStage
                    goTo={goTo}
                    onGoTo={(offset) => setGoTo({ offset })}
                    edits={edits}
                    sent={sent?.kind === "part" ? sent.words : null}
                    onUsed={onUsed}
                  />
                ) : !isSound ? (
                  <NoCircuit
                    trail={state.trail}
                    onGo={(offset) => {
                      navigate(`/jobs/${job.id}/circuit`);
                      if (offset !== null) setGoTo({ offset });
                    }}
                  />
                ) : isLarge(drawn.network) && (stage === "expected" || stage === "whatif") ? (
                  <TooLarge network={drawn.network} what={STAGES[stage]} />
                ) : stage === "expected" ? (
                  <ExpectedStage drawn={drawn} fold={fold} onFold={setFold} onHush={setHushed} />
                ) : isBench ? (
                  <BenchView line={line} streaming={streaming} onLeave={() => setSearch({}, { replace: true })} />
                ) : stage === "whatif" ? (
                  <WhatIfStage drawn={drawn} line={line} whatIf={whatIf} standing={stands.standing} />
                ) : stage === "repair" ? (
                  <RepairStage drawn={drawn} line={line} />
                ) : (
                  <BenchPane
                    stage={stage}
                    line={line}
                    streaming={streaming}
                    onBench={() => setSearch({ view: "bench" }, { replace: true })}
                    sent={sent}
                    onUsed={onUsed}
                    onChoose={whatIf.choose}
                    onSuppose={(faults) => {
                      supposing.change(faults);
                      whatIf.openTab("fit");
                      navigate(`/jobs/${job.id}/whatif`);
                    }}
                  />
                )}
              </Suspense>
            </PaneBoundary>
          </main>
          {(stage === "whatif" || stage === "repair") && isSound && (
            <Suspense>
              <BenchDock line={line} />
            </Suspense>
          )}
          {isWide && <NoticeBar />}
        </div>
      </div>
      {!isWide && <NoticeBar />}
    </div>
  );
}

/** Where the probes go next: what is being typed, or what is proposed. */
function nextOf({ point, steps, understood }: ReadingLine): Measurement | null {
  const proposed = steps?.[0]?.measurement ?? null;
  if (understood.kind !== "reading" || !point) return proposed;
  return measurementAt(point);
}

/** What was sent here from elsewhere, until it is used. */
function useSent(): { sent: Sent | null; onUsed: () => void } {
  const { state } = useLocation();
  const navigate = useNavigate();
  const sent = sentIn(state);
  return { sent, onUsed: () => sent && navigate(".", { replace: true, state: null }) };
}

/** Ctrl+Z belongs to a field only while there is something in it to take back. */
function isBusyTyping(event: globalThis.KeyboardEvent): boolean {
  const target = event.target as HTMLInputElement | null;
  if (!isTyping(event) || !target || target.type === "range") return false;
  // A cell, or a field of a part, in which nothing was typed since it was saved.
  if (target.dataset.typed !== undefined) return target.dataset.typed === "yes";
  return target.isContentEditable || target.value !== "";
}
