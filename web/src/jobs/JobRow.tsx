import { JOB_STATES, type JobSummary } from "@hound/core/record";
import { useMutation, useQueryClient } from "@tanstack/react-query";
import { formatDistanceToNow } from "date-fns";
import { Trash2, Undo2 } from "lucide-react";
import { Link } from "react-router";
import { jobsApi } from "../api/jobs.ts";
import { useNotice } from "../app/Notice.tsx";

const STATE_LOOK = {
  new: "border-rule text-faint",
  open: "border-copper text-copper",
  solved: "border-low text-low",
} as const;

export function JobRow({ job }: { job: JobSummary }) {
  const queries = useQueryClient();
  const notice = useNotice();
  const refresh = () => queries.invalidateQueries({ queryKey: ["jobs"] });
  const failed = (error: Error) => notice({ text: error.message });
  const restore = useMutation({ mutationFn: () => jobsApi.restore(job.id), onSuccess: refresh, onError: failed });
  const remove = useMutation({
    mutationFn: () => jobsApi.remove(job.id),
    onSuccess: () => {
      refresh();
      notice({ text: `Deleted “${job.title}”`, action: { label: "Undo", run: () => restore.mutate() } });
    },
    onError: failed,
  });
  const gone = job.deletedAt !== null;
  return (
    <li className="flex items-stretch rounded-xl border border-rule bg-sheet hover:border-copper">
      <Link
        to={`/jobs/${job.id}/${job.partCount === 0 ? "circuit" : "readings"}`}
        className="min-w-0 grow rounded-xl p-4"
      >
        <span className="flex flex-wrap items-baseline gap-x-3 gap-y-1">
          <span className="text-xl font-bold break-words">{job.title}</span>
          <span className={`rounded-full border px-2.5 text-sm font-bold ${STATE_LOOK[job.state]}`}>
            {JOB_STATES[job.state]}
          </span>
        </span>
        {job.complaint && <span className="mt-1 line-clamp-2 block break-words text-faint">{job.complaint}</span>}
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
          onClick={() => restore.mutate()}
        >
          <Undo2 size={22} aria-hidden />
        </button>
      ) : (
        <button
          type="button"
          aria-label={`Delete ${job.title}`}
          className="rounded-xl p-4 text-faint hover:text-wrong"
          onClick={() => remove.mutate()}
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
