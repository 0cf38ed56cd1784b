import { type Believed, believedAt, type HistoryEntry, type Job, jobAt } from "@hound/core/record";
import { useQuery } from "@tanstack/react-query";
import { ArrowLeft, ChevronLeft, ChevronRight } from "lucide-react";
import { useMemo } from "react";
import { Link, useParams, useSearchParams } from "react-router";
import { ApiError } from "../api/client.ts";
import { jobsApi } from "../api/jobs.ts";
import { Loading } from "../app/Loading.tsx";
import { NoticeArea } from "../app/Notice.tsx";
import { PaneBoundary, Trouble } from "../app/PageError.tsx";
import { useArrival, useTitle } from "../app/useTitle.ts";
import { DeskProvider, useDesk } from "../desk/DeskContext.tsx";
import { JobDesk } from "../desk/desk.ts";
import type { DeskApi } from "../desk/steps.ts";
import { AsItWas } from "../ranking/useHabits.ts";
import { JobSheet } from "../sheets/JobSheet.tsx";
import { PRINTED_WIDTH } from "../sheets/sheets.ts";
import { dayAndTime } from "../words/times.ts";
import { wordsOf } from "./Timeline.tsx";

/** More than any job has. */
const ALL = 10_000;

/** A job as it was at a moment of its timeline: board, readings and ranking of then. Nothing can be changed here. */
export function ThenPage() {
  const { id = "" } = useParams();
  const { data, error } = useQuery({
    queryKey: ["then", id],
    queryFn: async () => {
      const [job, history, circuits, { believed }] = await Promise.all([
        jobsApi.open(id),
        jobsApi.history(id, ALL),
        jobsApi.circuits(id, ALL),
        jobsApi.believed(id),
      ]);
      return { job, entries: history.entries, versions: circuits.revisions, believed };
    },
  });
  if (error) return <Trouble title="This job could not be opened" detail={error.message} />;
  if (!data) return <Loading what="the job as it was" />;
  return <Then {...data} />;
}

interface ThenProps {
  readonly job: Job;
  readonly entries: readonly HistoryEntry[];
  readonly versions: readonly { readonly revision: number; readonly trail: string; readonly createdAt: string }[];
  readonly believed: Believed["believed"];
}

function Then({ job, entries, versions, believed }: ThenProps) {
  const [search, setSearch] = useSearchParams();
  const moments = useMemo(() => [...new Set(entries.map((e) => e.at))].sort(), [entries]);
  const asked = search.get("at") ?? "";
  const number = Math.max(
    0,
    moments.findLastIndex((m) => m <= asked),
  );
  const at = moments[number] ?? job.createdAt;
  const desk = useMemo(() => frozenDesk(jobAt(job, entries, versions, at)), [job, entries, versions, at]);
  const go = (to: number) => setSearch({ at: moments[to] }, { replace: true });
  useTitle("As it was", job.title);
  useArrival();
  const done = entries.filter((e) => e.at === at);
  const ARROW = "rounded-lg border border-rule bg-sheet p-2 hover:bg-rule/50 disabled:opacity-40";
  return (
    <div className="sheets min-h-full bg-band">
      <nav aria-label="Moments" className="sticky top-0 z-10 flex flex-wrap items-center gap-3 bg-band px-4 py-2">
        <Link to={`/jobs/${job.id}/readings`} className="flex items-center gap-1.5 rounded-lg p-2 hover:bg-rule/50">
          <ArrowLeft size={20} aria-hidden /> Back to now
        </Link>
        <button
          type="button"
          aria-label="Earlier"
          className={ARROW}
          disabled={number === 0}
          onClick={() => go(number - 1)}
        >
          <ChevronLeft size={22} aria-hidden />
        </button>
        <input
          type="range"
          min={0}
          max={moments.length - 1}
          value={number}
          aria-label="Moment"
          aria-valuetext={dayAndTime(new Date(at))}
          onChange={(e) => go(Number(e.target.value))}
          className="min-w-40 grow accent-copper"
        />
        <button
          type="button"
          aria-label="Later"
          className={ARROW}
          disabled={number >= moments.length - 1}
          onClick={() => go(number + 1)}
        >
          <ChevronRight size={22} aria-hidden />
        </button>
        <p role="status" className="basis-full lg:basis-auto">
          <strong>{dayAndTime(new Date(at))}</strong> ·{" "}
          {done.map((e) => `${e.who ? `${e.who}: ` : ""}${wordsOf(e)}`).join("; ")}
        </p>
      </nav>
      <NoticeArea>
        <AsItWas.Provider value={believedAt(believed, at)}>
          <DeskProvider key={at} desk={desk}>
            <Paper />
          </DeskProvider>
        </AsItWas.Provider>
      </NoticeArea>
    </div>
  );
}

function Paper() {
  const { state, drawn } = useDesk();
  return (
    <main
      data-paper
      className="sheet-paper text-ink mx-auto flex max-w-[210mm] flex-col gap-3 bg-sheet p-4 shadow-lg sm:p-[14mm]"
    >
      <h1 dir="auto" tabIndex={-1} data-heading className="text-2xl font-bold break-words">
        {state.job.title}, as it was
      </h1>
      <PaneBoundary name="This moment">
        {drawn && !drawn.outdated ? (
          <JobSheet drawn={drawn} width={PRINTED_WIDTH.a4} />
        ) : (
          <pre className="font-mono break-words whitespace-pre-wrap">{state.text || "There was no circuit yet."}</pre>
        )}
      </PaneBoundary>
    </main>
  );
}

/** A desk on which nothing moves: what is asked for is what was. */
function frozenDesk(job: Job): JobDesk {
  const refuse = () =>
    Promise.reject(new ApiError(409, { type: "past", title: "The past cannot be changed", status: 409 }));
  const api = new Proxy({} as DeskApi, { get: (_, name) => (name === "open" ? async () => job : refuse) });
  return new JobDesk(job, null, { api, keep: async () => true, see: () => {} });
}
