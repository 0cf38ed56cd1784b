import { JOB_STATES, type Job, OUTCOMES, type Reading } from "@hound/core/record";
import { useQueries } from "@tanstack/react-query";
import { Link, useSearchParams } from "react-router";
import { jobsApi } from "../api/jobs.ts";
import { Loading } from "../app/Loading.tsx";
import { TopBar } from "../frame/TopBar.tsx";
import { printFixed } from "../words/print.ts";
import { placeOf, valueOfReading } from "../words/quantities.ts";
import { standingWords } from "../words/standing.ts";
import { day } from "../words/times.ts";

const MOST = 6;

/** Several jobs on the same circuit side by side: what was complained of, read at each point, and found. */
export function BesidePage() {
  const [params] = useSearchParams();
  const ids = params.getAll("job").slice(0, MOST);
  const asked = useQueries({
    queries: ids.map((id) => ({ queryKey: ["job", id], queryFn: () => jobsApi.open(id) })),
  });
  const jobs = asked.flatMap((a) => (a.data ? [a.data] : []));
  const trouble = asked.find((a) => a.error)?.error;
  return (
    <div className="mx-auto max-w-6xl px-4 pb-24">
      <TopBar title="Side by side" />
      <main>
        <h2 className="text-2xl font-bold">Side by side</h2>
        {trouble && <p role="alert">{trouble.message}.</p>}
        {jobs.length < ids.length && !trouble && <Loading what="the jobs" />}
        {jobs.length === ids.length && jobs.length > 0 && <Table jobs={jobs} />}
        {ids.length === 0 && (
          <p className="text-faint">
            Tick jobs on the same circuit in the <Link to="/jobs">list</Link>, and choose “Side by side”.
          </p>
        )}
      </main>
    </div>
  );
}

function Table({ jobs }: { jobs: readonly Job[] }) {
  const places = [...new Set(jobs.flatMap((j) => j.readings.map((r) => where(r.reading))))].sort();
  const readAt = (job: Job, place: string) =>
    job.readings.flatMap(({ reading }) => (where(reading) === place ? [valueOfReading(reading)] : [])).join(", ");
  const facts: readonly { readonly name: string; readonly of: (job: Job) => string }[] = [
    { name: "Begun", of: (j) => day(new Date(j.createdAt)) },
    { name: "Complaint", of: (j) => j.complaint },
    { name: "State", of: (j) => (j.closing ? OUTCOMES[j.closing.outcome] : JOB_STATES[j.state]) },
    { name: "What it was", of: (j) => j.finding },
    { name: "Minutes", of: (j) => (j.closing?.minutes === undefined ? "" : printFixed(j.closing.minutes, 0)) },
  ];
  return (
    <section
      aria-label="Table: jobs side by side"
      tabIndex={0}
      className="mt-3 overflow-x-auto rounded-xl border border-rule bg-sheet px-4 py-2"
    >
      <table className="w-full text-left align-top">
        <thead>
          <tr className="border-b-2 border-rule">
            <th className="py-2 pr-4">
              <span className="sr-only">What</span>
            </th>
            {jobs.map((job) => (
              <th key={job.id} className="min-w-44 py-2 pr-4 align-top">
                <Link to={`/jobs/${job.id}/repair`} dir="auto" className="underline decoration-rule underline-offset-4">
                  {job.title}
                </Link>
              </th>
            ))}
          </tr>
        </thead>
        <tbody>
          {facts.map(({ name, of }) => (
            <tr key={name} className="border-b border-rule align-top">
              <th scope="row" className="py-1.5 pr-4 font-normal text-faint">
                {name}
              </th>
              {jobs.map((job) => (
                <td key={job.id} dir="auto" className="py-1.5 pr-4 whitespace-pre-line">
                  {of(job)}
                </td>
              ))}
            </tr>
          ))}
          {places.map((place) => (
            <tr key={place} className="border-b border-rule">
              <th scope="row" className="py-1.5 pr-4 font-bold">
                {place}
              </th>
              {jobs.map((job) => (
                <td key={job.id} className="py-1.5 pr-4 tabular-nums">
                  {readAt(job, place)}
                </td>
              ))}
            </tr>
          ))}
        </tbody>
      </table>
    </section>
  );
}

/** A place, and how the circuit stood where that was not as drawn. */
function where(reading: Reading): string {
  const state = standingWords(reading.state ?? {}).join(", ");
  return `${placeOf(reading)}${state === "" ? "" : ` (${state})`}`;
}
