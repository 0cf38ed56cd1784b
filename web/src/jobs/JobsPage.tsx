import type { JobState, JobSummary } from "@hound/core/record";
import { FileUp, Plus } from "lucide-react";
import { useEffect, useRef, useState } from "react";
import { useNavigate } from "react-router";
import { jobsApi } from "../api/jobs.ts";
import { JobStateOptions } from "../app/JobStateOptions.tsx";
import { Loading } from "../app/Loading.tsx";
import { isKeyOf } from "../app/letterKeys.ts";
import { MoreButton, PAGE } from "../app/MoreButton.tsx";
import { NoticeArea, NoticeBar, useNotice } from "../app/Notice.tsx";
import { newId } from "../app/newId.ts";
import { readTextFile } from "../app/readTextFile.ts";
import { SearchField } from "../app/SearchField.tsx";
import { TopBar } from "../app/TopBar.tsx";
import { isTyping } from "../app/typing.ts";
import type { ErrandBodies } from "../outbox/errandKinds.ts";
import { useErrands, useOutbox, useRun } from "../outbox/OutboxContext.tsx";
import { useSeen } from "../outbox/useSeen.ts";
import { JobRow } from "./JobRow.tsx";
import { NewJobDialog } from "./NewJobDialog.tsx";

export function JobsPage() {
  return (
    <NoticeArea>
      <Logbook />
      <NoticeBar className="fixed inset-x-0 bottom-0 z-40" />
    </NoticeArea>
  );
}

function Logbook() {
  const [search, setSearch] = useState("");
  const [state, setState] = useState<JobState | "">("");
  const [deleted, setDeleted] = useState(false);
  const [making, setMaking] = useState(false);
  const [limit, setLimit] = useState(PAGE);
  const searchField = useRef<HTMLInputElement>(null);
  const { data, error, isPending, refetch } = useSeen(
    ["jobs", search, state, deleted, limit],
    () => jobsApi.list({ search, ...(state ? { state } : {}), deleted }, limit),
    { keepsLast: true },
  );
  // What is on its way to be deleted, or restored, is not in this list any more.
  const { list: errands } = useErrands();
  const leaving = new Set(
    errands.flatMap((e) => {
      const body = e.body as ErrandBodies["deleteJob"];
      return e.kind === "deleteJob" && e.refused === undefined && body.isDeleted !== deleted ? [body.id] : [];
    }),
  );
  useEffect(() => {
    const onKey = (event: KeyboardEvent) => {
      if (isTyping(event)) return;
      if (isKeyOf("newJob", event)) setMaking(true);
      else if (isKeyOf("search", event)) searchField.current?.focus();
      else return;
      event.preventDefault();
    };
    window.addEventListener("keydown", onKey);
    return () => window.removeEventListener("keydown", onKey);
  }, []);
  return (
    <div className="mx-auto max-w-4xl px-4 pb-24">
      <TopBar title="Jobs" />
      <main>
        <div className="flex flex-wrap items-center gap-3">
          <SearchField
            label="Search jobs"
            hint="Search title, complaint, finding"
            value={search}
            onChange={setSearch}
            field={searchField}
          />
          <label>
            <span className="sr-only">State</span>
            <select
              value={state}
              onChange={(e) => setState(e.target.value as JobState | "")}
              className="rounded-lg border border-rule bg-sheet px-3 py-2.5"
            >
              <option value="">All states</option>
              <JobStateOptions />
            </select>
          </label>
          <ImportButton />
          <button
            type="button"
            onClick={() => setMaking(true)}
            className="flex items-center gap-2 rounded-lg bg-copper px-4 py-2.5 font-bold text-sheet"
          >
            <Plus size={20} aria-hidden /> New job
          </button>
        </div>
        <div className="mt-6">
          {error && (
            <div role="alert" className="rounded-lg border border-wrong bg-wrong-wash p-4">
              <p>{error.message}. The list below may be old.</p>
              <button type="button" className="mt-2 rounded border border-wrong px-3 py-1" onClick={() => refetch()}>
                Try again
              </button>
            </div>
          )}
          {isPending && !error && <Loading what="the jobs" />}
          {data && (
            <JobTable
              jobs={data.jobs.filter((job) => !leaving.has(job.id))}
              deleted={deleted}
              filtered={search !== "" || state !== ""}
              onNew={() => setMaking(true)}
            />
          )}
          {data && <MoreButton shown={data.jobs.length} total={data.total} onMore={() => setLimit(limit + PAGE)} />}
          <p className="mt-6">
            <button type="button" className="text-faint underline" onClick={() => setDeleted(!deleted)}>
              {deleted ? "Back to the jobs" : "Deleted jobs"}
            </button>
          </p>
        </div>
      </main>
      {making && <NewJobDialog open onOpenChange={setMaking} />}
    </div>
  );
}

function JobTable({
  jobs,
  deleted,
  filtered,
  onNew,
}: {
  jobs: JobSummary[];
  deleted: boolean;
  filtered: boolean;
  onNew: () => void;
}) {
  if (jobs.length > 0) {
    return (
      <ul className="flex flex-col gap-2">
        {jobs.map((job) => (
          <JobRow key={job.id} job={job} />
        ))}
      </ul>
    );
  }
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
