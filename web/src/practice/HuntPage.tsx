import { type Act, type Hunt, TRAPS, UNSAFE } from "@hound/core/practice";
import { meterData } from "@hound/core/record";
import { useQueryClient } from "@tanstack/react-query";
import { Suspense, useEffect, useMemo, useState } from "react";
import { useNavigate, useParams, useSearchParams } from "react-router";
import { Loading } from "../app/Loading.tsx";
import { lazyNamed } from "../app/lazyNamed.ts";
import { isPlain } from "../app/letterKeys.ts";
import { NoticeBar } from "../app/Notice.tsx";
import { PaneBoundary, Trouble } from "../app/PageError.tsx";
import { isTyping } from "../app/typing.ts";
import { useKeys } from "../app/useKeys.ts";
import { useArrival, useTitle } from "../app/useTitle.ts";
import { BoardView } from "../board/BoardView.tsx";
import { useDesk } from "../desk/DeskContext.tsx";
import { OpenedDesk } from "../desk/OpenedDesk.tsx";
import type { Selection } from "../desk/pointing.ts";
import { PracticeHeader } from "../paper/PracticeHeader.tsx";
import { ReadingList } from "../readings/ReadingList.tsx";
import { headlineOf } from "../readings/WhereItStands.tsx";
import { useStanding } from "../session/Standing.tsx";
import { repairRows } from "../session/suspectRows.ts";
import { type ReadingLine, useReadingLine } from "../session/useReadingLine.ts";
import { ThreeSuspects } from "../suspects/ThreeSuspects.tsx";
import { measurementWords } from "../words/measurements.ts";
import { clockWords } from "../words/practice.ts";
import { type Lead, LeadsInHand, PartAtHand } from "./AtHand.tsx";
import { HandMeter } from "./HandMeter.tsx";
import { heldOf } from "./held.ts";
import { NameIt } from "./NameIt.tsx";
import { type HuntActs, inOrder, type Said, useHunt, useHuntActs } from "./useHunt.ts";

const ExpectedStage = lazyNamed(() => import("../expected/ExpectedStage.tsx"), "ExpectedStage");
const NextInHand = lazyNamed(() => import("./NextInHand.tsx"), "NextInHand");

/** A hunt: a circuit with something hidden in it, and a meter in hand. */
export function HuntPage() {
  const { id = "" } = useParams();
  const { data, error } = useHunt(id);
  if (error && !data) return <Trouble title="This hunt could not be opened" detail={error.message} />;
  if (!data) return <Loading what="the hunt" />;
  return (
    <OpenedDesk id={id} what="the hunt">
      <Bench hunt={data} />
    </OpenedDesk>
  );
}

function Bench({ hunt }: { hunt: Hunt }) {
  const { desk, state, drawn } = useDesk();
  const { now } = hunt;
  const acts = useHuntActs(hunt.id, () => void desk.refresh());
  const [lead, setLead] = useState<Lead>("red");
  const [isNaming, setNaming] = useState(false);
  const [search, setSearch] = useSearchParams();
  const isOnPaper = search.get("view") === "expected";
  const meter = useMemo(() => meterData(state.job.meter), [state.job.meter]);
  const stands = useStanding();
  const line = useReadingLine(true, stands, true);
  // A hint holds until the next thing is read.
  const hintAt = hunt.acts.findLastIndex((a) => a.act.act === "hint");
  const hasHint = hintAt >= 0 && !hunt.acts.slice(hintAt).some((a) => a.reading);
  const isHelped = hunt.help === "all" || hasHint;
  const navigate = useNavigate();
  useTitle(hunt.title, "Hunt");
  useArrival();
  const queries = useQueryClient();
  // Whoever goes back to the list finds there what was done here.
  useEffect(() => () => void queries.invalidateQueries({ queryKey: ["hunts"] }), [queries]);
  const isOver = hunt.state !== "open";
  useEffect(() => {
    if (isOver) navigate(`/practice/${hunt.id}/marks`, { replace: true });
  }, [isOver, hunt.id, navigate]);
  const use = (picked: NonNullable<Selection>) => {
    if (picked.kind !== "node") return;
    acts.act({ act: "touch", lead, at: picked.name });
    setLead(lead === "red" ? "black" : "red");
  };
  useHandKeys(acts.act, setLead, () => setNaming(true), hunt);
  const held = useMemo(() => (drawn ? heldOf(now, drawn.network) : null), [now, drawn]);
  const next = isHelped ? (line.steps?.[0]?.measurement ?? null) : null;
  return (
    <div className="flex h-full flex-col">
      <PracticeHeader title={hunt.title}>
        <button
          type="button"
          aria-pressed={isOnPaper}
          className="rounded-lg border border-rule bg-sheet px-3 py-1.5 hover:bg-copper-wash aria-pressed:font-bold"
          onClick={() => setSearch(isOnPaper ? {} : { view: "expected" }, { replace: true })}
        >
          {isOnPaper ? "Back to the bench" : "Expected"}
        </button>
        <Clock hunt={hunt} />
        <button
          type="button"
          className="rounded-lg bg-copper px-4 py-1.5 font-bold text-sheet"
          onClick={() => setNaming(true)}
        >
          Name the fault
        </button>
      </PracticeHeader>
      {isNaming && drawn && <NameIt hunt={hunt} circuit={drawn.circuit} onClose={() => setNaming(false)} />}
      <div className="relative flex min-h-0 grow flex-col overflow-auto lg:flex-row lg:overflow-visible">
        <section
          aria-label="Board"
          className="flex h-[38vh] min-h-52 min-w-0 shrink-0 flex-col border-b border-rule lg:h-auto lg:min-h-0 lg:flex-1 lg:border-b-0"
        >
          <PaneBoundary name="The board">
            <div className="min-h-0 grow">
              <BoardView
                ranking={isHelped ? line.ranked.ranking : null}
                standing={stands.standing}
                showOdd={false}
                showStaircase={isOnPaper}
                instead={null}
                next={next}
                held={isOnPaper ? null : held}
                imagined={null}
                whatIf={null}
                onBegun={null}
                onUse={use}
                onKey={() => {}}
              />
            </div>
          </PaneBoundary>
        </section>
        <main
          className={`relative flex w-full shrink-0 flex-col gap-3 p-3 pb-8 lg:overflow-auto lg:border-l lg:border-rule ${isOnPaper ? "lg:w-[27rem] xl:w-[35rem]" : "lg:w-[27rem] xl:w-[30rem]"}`}
        >
          <PaneBoundary name="The bench">
            {isOnPaper && drawn ? (
              <Suspense fallback={<Loading what="what is expected" />}>
                <ExpectedStage drawn={drawn} fold={NO_FOLD} onFold={() => {}} onHush={() => {}} />
              </Suspense>
            ) : (
              <AtTheBench {...{ hunt, line, acts, lead, isHelped }} onLead={setLead} meter={meter} />
            )}
          </PaneBoundary>
          <NoticeBar />
        </main>
      </div>
      <p className="sr-only" role="status">
        {clockWords(now.minutes)}
      </p>
    </div>
  );
}

const NO_FOLD = { at: 0, seen: null };

interface AtTheBenchProps {
  readonly hunt: Hunt;
  readonly line: ReadingLine;
  readonly acts: HuntActs;
  readonly lead: Lead;
  readonly isHelped: boolean;
  readonly onLead: (lead: Lead) => void;
  readonly meter: ReturnType<typeof meterData>;
}

/** The meter, the leads, what can be done with the part that is picked, and what was read. */
function AtTheBench({ hunt, line, acts, lead, isHelped, onLead, meter }: AtTheBenchProps) {
  const { act, said } = acts;
  const { ranking } = line.ranked;
  const { now, costs } = hunt;
  const { complaint } = useDesk().state.job;
  return (
    <>
      {isHelped ? <Proposed line={line} complaint={complaint} /> : <p className="shrink-0 text-bench">“{complaint}”</p>}
      {hunt.help === "hints" && !isHelped && (
        <button
          type="button"
          className="shrink-0 self-start rounded-lg border border-rule px-3 py-1.5 hover:bg-band"
          onClick={() => act({ act: "hint" })}
        >
          A hint, {clockWords(costs.hint)}
        </button>
      )}
      <LeadsInHand {...{ hunt, lead, onLead, act }} />
      <HandMeter hunt={hunt} meter={meter} act={act} />
      <div className="grid shrink-0 grid-cols-2 gap-2">
        <button
          type="button"
          className="min-h-12 rounded-xl bg-copper px-2 text-bench font-bold text-sheet"
          onClick={() => act({ act: "take" })}
        >
          Write it down, {clockWords(costs.take)}
        </button>
        <button
          type="button"
          aria-pressed={!now.power}
          className={`min-h-12 rounded-xl border-2 px-2 text-bench ${now.power ? "border-rule bg-sheet" : "border-doubt font-bold text-doubt"}`}
          onClick={() => act({ act: "power", on: !now.power })}
        >
          {now.power ? `Power off, ${clockWords(costs.power)}` : "Power is off: on again"}
        </button>
      </div>
      <SaidNow said={said} isTold={hunt.help === "all"} />
      <PartAtHand {...{ hunt, lead, act }} />
      {isHelped && <ThreeSuspects line={line} />}
      <ReadingList verdicts={isHelped && ranking?.kind === "ranking" ? ranking.readings : []} />
    </>
  );
}

/** Where it stands, what to read next, and how to set the meter for it. */
function Proposed({ line, complaint }: { line: ReadingLine; complaint: string }) {
  const { drawn } = useDesk();
  const { ranking, judgement } = line.ranked;
  const first = line.steps?.[0] ?? null;
  const words = first && measurementWords(first.measurement);
  const kind = judgement?.verdict.kind;
  const isOver = kind === "settled" || kind === "healthy";
  const rows = drawn && ranking?.kind === "ranking" ? repairRows(ranking, drawn.network) : [];
  return (
    <section aria-label="Where it stands" className="shrink-0">
      <p className="truncate text-faint" title={complaint}>
        “{complaint}”
      </p>
      <h2 className="truncate text-xl font-bold">{judgement ? headlineOf(judgement.verdict, rows) : "…"}</h2>
      <div className="mt-1 h-19 overflow-hidden rounded-xl border-2 border-copper px-3 py-1">
        <p className="truncate text-bench">
          {isOver ? (
            <strong>Enough is read: name the fault.</strong>
          ) : (
            <>
              Next: <strong>{words ? `${words.how} ${words.where}` : "…"}</strong>
            </>
          )}
        </p>
        {!isOver && words && "reading" in first.measurement && (
          <Suspense>
            <NextInHand line={line} />
          </Suspense>
        )}
        {!isOver && words && !("reading" in first.measurement) && (
          <p className="text-faint">Pick {words.where} on the board.</p>
        )}
      </div>
    </section>
  );
}

/** What the last act brought that has to be said: what can hurt or break always, the rest only where there is help. */
function SaidNow({ said, isTold }: { said: Said; isTold: boolean }) {
  const shown = inOrder(said.traps).filter((t) => isTold || UNSAFE.has(t));
  if (shown.length === 0 && !said.refused && !said.trouble) return null;
  return (
    <div role="alert" className="flex shrink-0 flex-col gap-1 rounded-xl border-2 border-doubt px-3 py-2">
      {said.trouble && <p className="font-bold text-wrong">Not done: {said.trouble}. Try it again.</p>}
      {said.refused && <p className="text-doubt">Not done: {said.refused}.</p>}
      {shown.map((trap) => (
        <p key={trap} className={UNSAFE.has(trap) ? "font-bold text-wrong" : "text-doubt"}>
          {TRAPS[trap]}
        </p>
      ))}
    </div>
  );
}

function Clock({ hunt }: { hunt: Hunt }) {
  const { minutes } = hunt.now;
  const isLate = hunt.limit !== null && minutes > hunt.limit;
  return (
    <p
      className={`text-2xl font-bold whitespace-nowrap ${isLate ? "text-wrong" : ""}`}
      title="What your acts have cost"
    >
      {clockWords(minutes)}
      {hunt.limit !== null && <span className="text-base font-normal text-faint"> of {clockWords(hunt.limit)}</span>}
    </p>
  );
}

/** Keys of the hands, outside of fields. */
function useHandKeys(act: (act: Act) => void, onLead: (lead: Lead) => void, onName: () => void, { now }: Hunt) {
  useKeys((event) => {
    if (!isPlain(event) || isTyping(event) || (event.target as Element).closest?.("[role=dialog]")) return;
    const run = {
      r: () => onLead("red"),
      b: () => onLead("black"),
      w: () => act({ act: "take" }),
      p: () => act({ act: "power", on: !now.power }),
      n: onName,
    }[event.key];
    if (!run) return;
    event.preventDefault();
    run();
  });
}
