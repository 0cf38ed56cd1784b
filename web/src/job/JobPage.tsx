import { readQuick } from "@hound/core/notation";
import { afterChange, type Configuration, type Reading, takenSo } from "@hound/core/record";
import { useQuery } from "@tanstack/react-query";
import { type KeyboardEvent, useCallback, useEffect, useMemo, useRef, useState } from "react";
import { Navigate, useLocation, useNavigate, useParams } from "react-router";
import { jobsApi } from "../api/jobs.ts";
import { Loading } from "../app/Loading.tsx";
import { NoticeArea, useNotice } from "../app/Notice.tsx";
import { PaneBoundary, Trouble } from "../app/PageError.tsx";
import { isTyping } from "../app/Shortcuts.tsx";
import { type Sent, sentIn } from "../app/sent.ts";
import { BoardView } from "./board/BoardView.tsx";
import { Conflict } from "./Conflict.tsx";
import { CircuitStage } from "./circuit/CircuitStage.tsx";
import { PartBar } from "./circuit/PartBar.tsx";
import { useCircuitEdits } from "./circuit/useCircuitEdits.ts";
import { DeskProvider, type Selection, useDesk } from "./DeskContext.tsx";
import { ExpectedStage } from "./expected/ExpectedStage.tsx";
import { foldedBoard } from "./expected/foldedBoard.ts";
import { JobHeader } from "./JobHeader.tsx";
import type { NextReadings } from "./ranking/messages.ts";
import { useRanking } from "./ranking/useRanking.ts";
import { healthyWords } from "./readings/healthy.ts";
import { nextStep, settled } from "./readings/proposal.ts";
import { QuickLine } from "./readings/QuickLine.tsx";
import { ReadingsStage } from "./readings/ReadingsStage.tsx";
import { Standing, useStanding } from "./readings/Standing.tsx";
import { STAGE_NAMES, type Stage } from "./stages.ts";
import { Finding } from "./suspects/Finding.tsx";
import { SuspectsStage } from "./suspects/SuspectsStage.tsx";

const AS_DRAWN: Configuration = {};

export function JobPage() {
  const { id = "", stage } = useParams();
  const { data, error } = useQuery({
    queryKey: ["job", id],
    queryFn: () => jobsApi.open(id),
    staleTime: 0,
    gcTime: 0,
    refetchOnWindowFocus: false,
  });
  if (error) return <Trouble title="This job could not be opened" detail={error.message} />;
  if (!data) return <Loading what="the job" />;
  if (!STAGE_NAMES.includes(stage as Stage)) return <Navigate to={`/jobs/${id}/circuit`} replace />;
  return (
    <NoticeArea>
      <DeskProvider key={id} job={data}>
        <Bench stage={stage as Stage} />
      </DeskProvider>
    </NoticeArea>
  );
}

/** The bench of one job: the board stays, the pane beside it changes with the stage. */
function Bench({ stage }: { stage: Stage }) {
  const { desk, state, readings, drawn, meter, select, trailDocument } = useDesk();
  const { sent, onUsed } = useSent();
  const edits = useCircuitEdits(sent?.kind === "part" ? sent.words : null, onUsed);
  const [folded, setFolded] = useState(0);
  const reduced = useMemo(
    () => (drawn && stage === "expected" && folded > 0 ? foldedBoard(drawn, folded) : null),
    [drawn, stage, folded],
  );
  const notice = useNotice();
  const navigate = useNavigate();
  const [typed, setTyped] = useState("");
  const [goTo, setGoTo] = useState<{ offset: number } | null>(null);
  const field = useRef<HTMLInputElement>(null);
  const { job } = state;
  const { standing, change: changeStanding } = useStanding();
  const taken = useMemo(() => readings.map((r) => r.reading), [readings]);
  const [planned, setPlanned] = useState<NextReadings | null>(null);
  const onNext = useCallback((next: NextReadings) => setPlanned((before) => settled(before, next)), []);
  const step = useMemo(
    () => (drawn && planned ? nextStep(drawn.circuit, taken, planned) : null),
    [drawn, taken, planned],
  );
  const proposal = step?.proposal ?? null;
  const understood = useMemo(
    () =>
      drawn
        ? readQuick(typed, drawn.circuit, proposal ?? undefined, { standing, meter })
        : ({ kind: "empty" } as const),
    [typed, drawn, proposal, standing, meter],
  );
  // Where nobody sees the ranking it waits: the circuit is being typed, or worked out on paper.
  const isRanked = stage === "readings" || stage === "suspects";
  // By its words: a new proposal leaves what is typed as it is, and must not rank it again.
  const typing = understood.kind === "reading" ? JSON.stringify(understood.reading) : null;
  const input = useMemo(() => {
    if (!drawn || !isRanked) return null;
    const provisional = typing === null ? [] : [takenSo(JSON.parse(typing) as Reading, standing)];
    const all = [...taken, ...provisional];
    return {
      circuit: drawn.circuit,
      readings: all,
      meter,
      priors: job.priors,
      situation: job.situation,
      standing,
    };
  }, [drawn, isRanked, taken, typing, meter, job.priors, job.situation, standing]);
  const { ranking, insight } = useRanking(input, typing === null, standing, onNext);
  const expected = useMemo(() => {
    if (!drawn || !proposal) return null;
    return healthyWords(drawn.network, { ...proposal, value: 0, state: standing }, meter);
  }, [drawn, proposal, meter, standing]);

  const record = async () => {
    if (understood.kind === "change") {
      const { change, after, echo } = understood;
      const next = afterChange(standing, change);
      const isKept = await changeStanding(next, echo);
      if (isKept && after) desk.addReading(takenSo(after, next));
      // What was typed meanwhile stays.
      if (isKept) setTyped((now) => (now === typed ? "" : now));
      return;
    }
    if (understood.kind !== "reading") return;
    desk.addReading(takenSo(understood.reading, standing));
    setTyped("");
    // Until the next point is worked out nothing is proposed: a number typed meanwhile must not land at the old one.
    setPlanned(null);
    notice({ text: `Recorded ${understood.echo}`, action: { label: "Undo", run: () => desk.undo() } });
    field.current?.focus();
  };
  useEffect(() => {
    if (stage === "readings") field.current?.focus();
  }, [stage]);
  useEffect(() => {
    const onKey = (event: globalThis.KeyboardEvent) => {
      const number = event.altKey ? Number(event.key) : Number.NaN;
      if (number >= 1 && number <= STAGE_NAMES.length) {
        event.preventDefault();
        navigate(`/jobs/${job.id}/${STAGE_NAMES[number - 1]}`);
      } else if (event.key === "/" && !isTyping(event)) {
        event.preventDefault();
        field.current?.focus();
      } else if (event.key.toLowerCase() === "z" && (event.ctrlKey || event.metaKey) && !isBusyTyping(event)) {
        if (stage === "circuit") {
          event.preventDefault();
          if (event.shiftKey) trailDocument.redo();
          else trailDocument.undo();
          return;
        }
        const done = event.shiftKey ? null : desk.undo();
        if (done) {
          event.preventDefault();
          notice({ text: done });
        }
      }
    };
    window.addEventListener("keydown", onKey);
    return () => window.removeEventListener("keydown", onKey);
  }, [desk, job.id, navigate, notice, stage, trailDocument]);

  const use = (selection: NonNullable<Selection>, by: "pointer" | "key") => {
    if (stage === "expected") {
      const made = reduced?.reduction.steps.findIndex((s) => s.result.name === selection.name) ?? -1;
      if (made >= 0) setFolded(made);
    } else if (stage !== "circuit") {
      setTyped(`${selection.name} ${sent?.kind === "reading" ? sent.words : ""}`);
      onUsed();
      field.current?.focus();
    } else if (!edits.pick(selection) && by === "key") document.getElementById("part-value")?.focus();
  };
  const onBoardKey = (event: KeyboardEvent) => {
    if (stage === "circuit" && edits.runKey(event.key, event.shiftKey)) event.preventDefault();
  };
  return (
    <div className="flex min-h-full flex-col lg:h-full">
      <JobHeader desk={desk} job={job} saving={state.saving} />
      {state.conflict && <Conflict />}
      {state.refused && (
        <div role="alert" className="flex items-center gap-3 bg-wrong-wash px-4 py-2">
          <p className="grow">A reading was not kept: {state.refused}</p>
          <button type="button" className="rounded border border-wrong px-3 py-1" onClick={() => desk.dismissRefused()}>
            Understood
          </button>
        </div>
      )}
      <div className="flex min-h-0 grow flex-col lg:flex-row">
        <section
          aria-label="Board"
          className="flex h-[34vh] min-h-52 min-w-0 shrink-0 flex-col border-b border-rule lg:h-auto lg:flex-1 lg:border-b-0"
        >
          <PaneBoundary name="The board">
            <div className="min-h-0 grow">
              <BoardView
                ranking={isRanked ? ranking : null}
                standing={isRanked ? standing : AS_DRAWN}
                showOdd={stage === "circuit"}
                showStaircase={stage === "expected"}
                instead={reduced?.drawn ?? null}
                onUse={use}
                onKey={onBoardKey}
              />
            </div>
            {stage === "circuit" && drawn && <PartBar edits={edits} drawn={drawn} />}
          </PaneBoundary>
        </section>
        <main
          className={`flex w-full shrink-0 flex-col gap-4 overflow-auto p-4 pb-20 lg:w-[27rem] lg:border-l lg:border-rule ${stage === "expected" ? "xl:w-[35rem]" : "xl:w-[30rem]"}`}
        >
          <PaneBoundary key={stage} name="This stage">
            {stage === "circuit" ? (
              <CircuitStage
                goTo={goTo}
                onGoTo={(offset) => setGoTo({ offset })}
                edits={edits}
                sent={sent?.kind === "part" ? sent.words : null}
                onUsed={onUsed}
              />
            ) : !drawn ? (
              <NoCircuit onGo={() => navigate(`/jobs/${job.id}/circuit`)} />
            ) : stage === "expected" ? (
              <ExpectedStage drawn={drawn} folded={folded} onFold={setFolded} />
            ) : (
              <>
                {job.complaint && stage === "readings" && <p className="text-faint">“{job.complaint}”</p>}
                {sent?.kind === "reading" && (
                  <p role="status" className="flex items-center gap-3 rounded-xl border-2 border-copper px-4 py-2">
                    <span className="grow">
                      From the pocket sums: <strong className="font-mono">{sent.words}</strong>. Pick on the board where
                      it was read.
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
                <QuickLine
                  value={typed}
                  onChange={(text) => {
                    setTyped(text);
                    select(null);
                  }}
                  understood={understood}
                  proposal={proposal}
                  expected={expected}
                  why={step?.why ?? null}
                  toSettle={planned?.toSettle ?? null}
                  onRecord={record}
                  field={field}
                />
                {stage === "readings" ? (
                  <ReadingsStage ranking={ranking} />
                ) : (
                  <>
                    <Finding />
                    <SuspectsStage ranking={ranking} insight={insight} />
                  </>
                )}
              </>
            )}
          </PaneBoundary>
        </main>
      </div>
    </div>
  );
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
  return isTyping(event) && (target?.isContentEditable === true || target?.value !== "");
}

function NoCircuit({ onGo }: { onGo: () => void }) {
  return (
    <div className="rounded-xl border border-dashed border-rule p-6 text-center">
      <p className="text-xl font-bold">No circuit yet</p>
      <p className="mt-2 text-faint">Readings need to know what they were taken on.</p>
      <button type="button" onClick={onGo} className="mt-4 rounded-lg bg-copper px-4 py-2.5 font-bold text-sheet">
        Write the trail
      </button>
    </div>
  );
}
