import type { JobSummary } from "@hound/core/record";
import { ChartColumn, FileUp, Plus } from "lucide-react";
import { useCallback, useRef, useState } from "react";
import { Link, useNavigate } from "react-router";
import { jobsApi } from "../api/jobs.ts";
import { Loading } from "../app/Loading.tsx";
import { isKeyOf } from "../app/letterKeys.ts";
import { MoreButton, PAGE } from "../app/MoreButton.tsx";
import { NoticeArea, NoticeBar, useNotice } from "../app/Notice.tsx";
import { newId } from "../app/newId.ts";
import { readTextFile } from "../app/readTextFile.ts";
import { SearchField } from "../app/SearchField.tsx";
import { isTyping } from "../app/typing.ts";
import { useKeys } from "../app/useKeys.ts";
import { useErrands, useOutbox, useRun } from "../desk/OutboxContext.tsx";
import { useSeen } from "../desk/useSeen.ts";
import { TopBar } from "../frame/TopBar.tsx";
import type { ErrandBodies } from "../outbox/errandKinds.ts";
import { Filters } from "./Filters.tsx";
import { JobRow } from "./JobRow.tsx";
import { NewJobDialog } from "./NewJobDialog.tsx";
import { SelectedBar } from "./SelectedBar.tsx";
import { useFilter } from "./useFilter.ts";

export function JobsPage() {
  return (
    <NoticeArea>
      <Logbook />
      <NoticeBar className="fixed inset-x-0 bottom-0 z-40" />
    </NoticeArea>
  );
}

function Logbook() {
  const { filter, isFiltered, set } = useFilter();
  const { deleted } = filter;
  const [making, setMaking] = useState(false);
  const [limit, setLimit] = useState(PAGE);
  const [ticked, setTicked] = useState<ReadonlySet<string>>(new Set());
  const searchField = useRef<HTMLInputElement>(null);
  const { data, error, isPending, refetch } = useSeen(["jobs", filter, limit], () => jobsApi.list(filter, limit), {
    keepsLast: true,
  });
  // What is on its way to be deleted, or restored, is not in this list any more.
  const { list: errands } = useErrands();
  const leaving = new Set(
    errands.flatMap((e) => {
      const body = e.body as ErrandBodies["deleteJob"];
      return e.kind === "deleteJob" && e.refused === undefined && body.isDeleted !== deleted ? [body.id] : [];
    }),
  );
  useKeys((event) => {
    if (isTyping(event)) return;
    if (isKeyOf("newJob", event)) setMaking(true);
    else if (isKeyOf("search", event)) searchField.current?.focus();
    else return;
    event.preventDefault();
  });
  const tick = useCallback((id: string, isTicked: boolean) => {
    setTicked((before) => {
      const next = new Set(before);
      if (isTicked) next.add(id);
      else next.delete(id);
      return next;
    });
  }, []);
  const jobs = data?.jobs.filter((job) => !leaving.has(job.id)) ?? [];
  const selected = jobs.filter((job) => ticked.has(job.id));
  return (
    <div className="mx-auto max-w-4xl px-4 pb-24">
      <TopBar title="Jobs" />
      <main>
        <div className="flex flex-wrap items-center gap-3">
          <SearchField
            label="Search jobs"
            hint="Title, part, finding, customer"
            value={filter.search}
            onChange={(search) => set({ search })}
            field={searchField}
          />
          <Link
            to="/failures"
            className="flex items-center gap-2 rounded-lg border border-rule bg-sheet px-4 py-2.5 hover:bg-band"
          >
            <ChartColumn size={20} aria-hidden /> What fails here
          </Link>
          <ImportButton />
          <button
            type="button"
            onClick={() => setMaking(true)}
            className="flex items-center gap-2 rounded-lg bg-copper px-4 py-2.5 font-bold text-sheet"
          >
            <Plus size={20} aria-hidden /> New job
          </button>
        </div>
        <Filters filter={filter} set={set} circuitName={circuitName(jobs[0])} />
        <div className="mt-4">
          {error && (
            <div role="alert" className="rounded-lg border border-wrong bg-wrong-wash p-4">
              <p>{error.message}. The list below may be old.</p>
              <button type="button" className="mt-2 rounded border border-wrong px-3 py-1" onClick={() => refetch()}>
                Try again
              </button>
            </div>
          )}
          {isPending && !error && <Loading what="the jobs" />}
          {data && jobs.length > 0 && (
            <ul className="flex flex-col gap-2">
              {jobs.map((job) => (
                <JobRow key={job.id} job={job} isTicked={ticked.has(job.id)} onTick={tick} onPick={set} />
              ))}
            </ul>
          )}
          {data && jobs.length === 0 && (
            <NoJobs deleted={deleted} filtered={isFiltered} onNew={() => setMaking(true)} />
          )}
          {data && <MoreButton shown={data.jobs.length} total={data.total} onMore={() => setLimit(limit + PAGE)} />}
          {selected.length > 0 && <SelectedBar jobs={selected} onClear={() => setTicked(new Set())} />}
          <p className="mt-6 flex flex-wrap gap-4">
            <button
              type="button"
              className="text-faint underline"
              onClick={() => set({ deleted: deleted ? "" : "true" })}
            >
              {deleted ? "Back to the jobs" : "Deleted jobs"}
            </button>
            {deleted && jobs.length > 0 && <EmptyButton count={data?.total ?? 0} onEmptied={() => refetch()} />}
          </p>
        </div>
      </main>
      {making && <NewJobDialog open onOpenChange={setMaking} />}
    </div>
  );
}

const circuitName = (job: JobSummary | undefined) => (job ? job.circuitName || job.title : null);

/** Lets deleted jobs go for good, asked once more. */
function EmptyButton({ count, onEmptied }: { count: number; onEmptied: () => void }) {
  const [isAsked, setAsked] = useState(false);
  const notice = useNotice();
  const empty = async () => {
    try {
      const { jobs } = await jobsApi.empty();
      notice({ text: `${jobs} gone for good` });
      onEmptied();
    } catch (error) {
      notice({ text: (error as Error).message });
    }
    setAsked(false);
  };
  if (!isAsked)
    return (
      <button type="button" className="text-faint underline" onClick={() => setAsked(true)}>
        Empty …
      </button>
    );
  return (
    <span role="alert" className="flex flex-wrap items-center gap-3">
      {count} deleted job{count === 1 ? "" : "s"} with all readings and pictures will be gone for good.
      <button type="button" className="rounded-lg border border-wrong px-3 py-1 text-wrong" onClick={empty}>
        Gone for good
      </button>
      <button type="button" className="rounded-lg border border-rule px-3 py-1" onClick={() => setAsked(false)}>
        Keep them
      </button>
    </span>
  );
}

function NoJobs({ deleted, filtered, onNew }: { deleted: boolean; filtered: boolean; onNew: () => void }) {
  if (deleted || filtered)
    return <p className="py-8 text-lg text-faint">{deleted ? "Nothing is deleted." : "No job matches."}</p>;
  return (
    <div className="rounded-xl border border-dashed border-rule p-8 text-center">
      <p className="text-xl font-bold">No jobs yet</p>
      <p className="mt-2 text-faint">
        A job is one faulty circuit: what was complained of, how it is wired, what you read.
      </p>
      <button type="button" onClick={onNew} className="mt-4 rounded-lg bg-copper px-4 py-2.5 font-bold text-sheet">
        Start the first job
      </button>
      <p className="mt-4">
        New here?{" "}
        <Link to="/practice" className="font-bold underline underline-offset-4">
          Hunt a fault on the practice bench
        </Link>{" "}
        first: three lamps, one dark, and nothing that can be hurt.
      </p>
    </div>
  );
}

/** Takes a case file, or a circuit by itself, and makes a job of it. */
function ImportButton() {
  const input = useRef<HTMLInputElement>(null);
  const navigate = useNavigate();
  const notice = useNotice();
  const run = useRun();
  const { desks } = useOutbox();
  /** A circuit by itself, as a trail or a table, begins a job. */
  const begin = async (name: string, text: string) => {
    const { readTrail, recognise } = await import("@hound/core/notation");
    const { trail, mistakes } = recognise(text);
    if (trail === null) {
      const [first] = mistakes;
      const where = first ? `, line ${first.line}: ${first.message}` : ": there is no circuit in it";
      return notice({ text: `${name} was not imported${where}` });
    }
    const title = readTrail(trail).circuit?.title || name.replace(/\.\w+$/, "");
    navigate(`/jobs/${desks.create({ title, complaint: "", trail })}/circuit`);
  };
  const load = async (file: File) => {
    const id = newId();
    const read = await readTextFile(file);
    if ("why" in read) return notice({ text: `${read.why}. Nothing was imported.` });
    if (!/^\s*\{/.test(read.text)) return begin(file.name, read.text);
    try {
      await run("importCase", { id, text: read.text }, `Import of ${file.name}`);
      navigate(`/jobs/${id}/circuit`);
    } catch (error) {
      notice({ text: `${file.name} was not imported. ${(error as Error).message}` });
    }
  };
  return (
    <>
      <button
        type="button"
        onClick={() => input.current?.click()}
        className="flex items-center gap-2 rounded-lg border border-rule bg-sheet px-4 py-2.5 hover:bg-band"
      >
        <FileUp size={20} aria-hidden /> Import case
      </button>
      <input
        ref={input}
        type="file"
        accept=".json,.trail,.csv,.tsv,.txt"
        aria-label="Case file"
        className="hidden"
        onChange={(e) => {
          const file = e.target.files?.[0];
          if (file) load(file);
          e.target.value = "";
        }}
      />
    </>
  );
}
