import { JOB_STATES, type JobSummary } from "@hound/core/record";
import { formatDistanceToNow } from "date-fns";
import { Trash2, Undo2 } from "lucide-react";
import { Link } from "react-router";
import { useNotice } from "../app/Notice.tsx";
import { useRun } from "../outbox/OutboxContext.tsx";

const STATE_LOOK = {
  new: "border-rule text-faint",
  open: "border-copper text-copper",
  solved: "border-low text-low",
  givenUp: "border-doubt text-doubt",
} as const;

export function JobRow({ job }: { job: JobSummary }) {
  const notice = useNotice();
  const run = useRun();
  const restore = () => {
    run("deleteJob", { id: job.id, isDeleted: false }, `“${job.title}” restored`).catch(() => {});
  };
  const remove = () => {
    run("deleteJob", { id: job.id, isDeleted: true }, `“${job.title}” deleted`).catch(() => {});
    notice({ text: `Deleted “${job.title}”`, action: { label: "Undo", run: restore } });
  };
  const gone = job.deletedAt !== null;
  return (
    <li className="flex items-stretch rounded-xl border border-rule bg-sheet hover:border-copper">
      <Link
        to={`/jobs/${job.id}/${job.partCount === 0 ? "circuit" : "readings"}`}
        className="min-w-0 grow rounded-xl p-4"
      >
        <span className="flex flex-wrap items-baseline gap-x-3 gap-y-1">
          <span dir="auto" className="text-xl font-bold break-words">
            {job.title}
          </span>
          <span className={`rounded-full border px-2.5 text-sm font-bold ${STATE_LOOK[job.state]}`}>
            {JOB_STATES[job.state]}
          </span>
        </span>
        {job.complaint && (
          <span dir="auto" className="mt-1 line-clamp-3 block whitespace-pre-line break-words text-faint">
            {job.complaint}
          </span>
        )}
        <span className="mt-1 block text-sm text-faint">
          {count(job.partCount, "part")} · {count(job.readingCount, "reading")} ·{" "}
          {formatDistanceToNow(job.updatedAt, { addSuffix: true })}
        </span>
      </Link>
      {gone ? (
        <button
          type="button"
          aria-label={`Restore ${job.title}`}
          className="rounded-xl p-4 text-copper"
          onClick={() => restore()}
        >
          <Undo2 size={22} aria-hidden />
        </button>
      ) : (
        <button
          type="button"
          aria-label={`Delete ${job.title}`}
          className="rounded-xl p-4 text-faint hover:text-wrong"
          onClick={() => remove()}
        >
          <Trash2 size={22} aria-hidden />
        </button>
      )}
    </li>
  );
}

function count(n: number, word: string): string {
  return `${n === 0 ? "no" : n} ${word}${n === 1 ? "" : "s"}`;
}
