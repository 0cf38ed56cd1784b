import { isOver, JOB_STATES, type JobSummary, OUTCOMES } from "@hound/core/record";
import { formatDistanceToNow } from "date-fns";
import { Trash2, Undo2 } from "lucide-react";
import { memo } from "react";
import { Link } from "react-router";
import { useNotice } from "../app/Notice.tsx";
import { useRun } from "../desk/OutboxContext.tsx";
import { printFixed } from "../words/print.ts";
import type { useFilter } from "./useFilter.ts";

const STATE_LOOK = {
  new: "border-rule text-faint",
  open: "border-copper text-copper",
  solved: "border-low text-low",
  givenUp: "border-doubt text-doubt",
} as const;

interface JobRowProps {
  readonly job: JobSummary;
  readonly isTicked: boolean;
  readonly onTick: (id: string, isTicked: boolean) => void;
  readonly onPick: ReturnType<typeof useFilter>["set"];
}

/** One job: what it is about, where it stands, and how it ended. */
export const JobRow = memo(function JobRow({ job, isTicked, onTick, onPick }: JobRowProps) {
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
  const isClosed = isOver(job.state);
  const stage = isClosed ? "repair" : job.partCount === 0 ? "circuit" : "readings";
  const facts = [
    count(job.partCount, "part"),
    count(job.readingCount, "reading"),
    ...(job.minutes === null ? [] : [`${printFixed(job.minutes, 0)} minutes`]),
    formatDistanceToNow(job.updatedAt, { addSuffix: true }),
  ];
  return (
    // What is out of sight is not laid out: thousands of rows scroll as a few do.
    <li className="flex items-stretch rounded-xl border border-rule bg-sheet [contain-intrinsic-size:auto_7.5rem] [content-visibility:auto] hover:border-copper">
      <label className="flex items-start pt-5 pl-4">
        <span className="sr-only">Tick {job.title}</span>
        <input
          type="checkbox"
          checked={isTicked}
          onChange={(e) => onTick(job.id, e.target.checked)}
          className="size-6 accent-copper"
        />
      </label>
      <div className="min-w-0 grow">
        <Link to={`/jobs/${job.id}/${stage}`} className="block rounded-xl p-4 pb-1">
          <span className="flex flex-wrap items-baseline gap-x-3 gap-y-1">
            <span dir="auto" className="text-xl font-bold break-words">
              {job.title}
            </span>
            <span className={`rounded-full border px-2.5 text-sm font-bold ${STATE_LOOK[job.state]}`}>
              {job.outcome && job.outcome !== "givenUp" ? OUTCOMES[job.outcome] : JOB_STATES[job.state]}
            </span>
          </span>
          {job.finding && (
            <span dir="auto" className="mt-1 line-clamp-2 block break-words">
              {job.finding}
            </span>
          )}
          {job.complaint && (
            <span dir="auto" className="mt-1 line-clamp-2 block whitespace-pre-line break-words text-faint">
              {job.complaint}
            </span>
          )}
          {job.hit && !isInSight(job) && <Hit text={job.hit} />}
        </Link>
        <p className="flex flex-wrap items-center gap-x-2 px-4 pb-3 text-sm text-faint">
          <span>{[job.customer, job.device].filter(Boolean).concat(facts).join(" · ")}</span>
          {job.circuit !== "" && (
            <button type="button" className="underline" onClick={() => onPick({ circuit: job.circuit })}>
              same circuit
            </button>
          )}
          {job.tags.map((tag) => (
            <button
              key={tag}
              type="button"
              dir="auto"
              className="rounded-full border border-rule px-2 hover:border-copper"
              onClick={() => onPick({ tag })}
            >
              {tag}
            </button>
          ))}
        </p>
      </div>
      <button
        type="button"
        aria-label={`${gone ? "Restore" : "Delete"} ${job.title}`}
        className={`rounded-xl p-4 ${gone ? "text-copper" : "text-faint hover:text-wrong"}`}
        onClick={() => (gone ? restore() : remove())}
      >
        {gone ? <Undo2 size={22} aria-hidden /> : <Trash2 size={22} aria-hidden />}
      </button>
    </li>
  );
});

/** What was found stands in the row anyway. */
function isInSight({ hit, title, complaint, finding }: JobSummary): boolean {
  const plain = (hit ?? "").replace(/[‹›…]/g, "").trim();
  return [title, complaint, finding].some((text) => text.includes(plain));
}

/** The words that were searched for, where they stand. */
function Hit({ text }: { text: string }) {
  const parts = text.split(/[‹›]/);
  return (
    <span dir="auto" className="mt-1 line-clamp-2 block break-words text-sm text-faint">
      {parts.map((part, i) =>
        i % 2 === 1 ? (
          // biome-ignore lint/suspicious/noArrayIndexKey: the same words may be found twice
          <mark key={i} className="bg-transparent font-bold text-ink">
            {part}
          </mark>
        ) : (
          part
        ),
      )}
    </span>
  );
}

function count(n: number, word: string): string {
  return `${n === 0 ? "no" : n} ${word}${n === 1 ? "" : "s"}`;
}
