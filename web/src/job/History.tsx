import { type HistoryEntry, JOB_STATES, type Job, type JobField } from "@hound/core/record";
import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { jobsApi } from "../api/jobs.ts";
import { DialogClose, DialogFrame } from "../app/DialogFrame.tsx";
import { Loading } from "../app/Loading.tsx";
import { MoreButton, PAGE } from "../app/MoreButton.tsx";
import { placeOf, valueOfReading } from "../words/quantities.ts";
import { standingWords } from "../words/standing.ts";
import { dayAndTime } from "../words/times.ts";
import { useDesk } from "./DeskContext.tsx";

/** What was done to the job, each with what stood there before, and the way back to it. */
export function HistoryDialog({ onClose }: { onClose: () => void }) {
  const { state } = useDesk();
  const { id, updatedAt } = state.job;
  const [limit, setLimit] = useState(PAGE);
  const { data, error } = useQuery({
    queryKey: ["history", id, limit, updatedAt],
    queryFn: () => jobsApi.history(id, limit),
    placeholderData: (before) => before,
  });
  return (
    <DialogFrame open wide onOpenChange={(open) => !open && onClose()} title="History of this job">
      {error && <p role="alert">{error.message}.</p>}
      {!data && !error && <Loading what="the history" />}
      {data && (
        <ul tabIndex={0} aria-label="What was done" className="my-3 max-h-[60vh] overflow-auto">
          {data.entries.map((entry) => (
            <Row key={JSON.stringify(entry)} entry={entry} onClose={onClose} />
          ))}
        </ul>
      )}
      {data && <MoreButton shown={data.entries.length} total={data.total} onMore={() => setLimit(limit + PAGE)} />}
      <DialogClose>Close</DialogClose>
    </DialogFrame>
  );
}

function Row({ entry, onClose }: { entry: HistoryEntry; onClose: () => void }) {
  const { desk, readings } = useDesk();
  const back =
    entry.what === "field"
      ? { label: "Put back", run: () => desk.changeJob({ [entry.field]: entry.before }) }
      : entry.what === "reading" && entry.done === "deleted" && entry.before && !readings.some((r) => r.id === entry.id)
        ? { label: "Restore", run: () => entry.before && desk.restoreReading(entry.id, entry.before) }
        : null;
  return (
    <li className="flex flex-wrap items-center gap-x-3 border-t border-rule py-2 first:border-0">
      <span className="w-44 shrink-0 text-faint tabular-nums">{dayAndTime(new Date(entry.at))}</span>
      <span className="min-w-0 grow break-words">{wordsOf(entry)}</span>
      {back && (
        <button
          type="button"
          className="shrink-0 rounded-lg border border-rule px-3 py-1 hover:bg-band"
          onClick={() => {
            back.run();
            onClose();
          }}
        >
          {back.label}
        </button>
      )}
    </li>
  );
}

const FIELD_NAMES: Readonly<Record<JobField, string>> = {
  title: "Title",
  complaint: "Complaint",
  finding: "What it was",
  details: "Customer and device",
  state: "State",
  meter: "Meter",
  priors: "What is known of parts",
  situation: "Situation",
  isWet: "Wet place",
  standing: "How the circuit stands",
  tags: "Tags",
  work: "Repair",
  closing: "How it ended",
};

const DONE = {
  job: { made: "Job begun", imported: "Job imported", deleted: "Job deleted", restored: "Job restored" },
  reading: {
    taken: "Reading",
    corrected: "Reading corrected",
    deleted: "Reading deleted",
    restored: "Reading restored",
  },
} as const;

function wordsOf(entry: HistoryEntry): string {
  switch (entry.what) {
    case "job":
      return DONE.job[entry.done];
    case "note":
      return `“${entry.text}”`;
    case "circuit":
      return `Circuit changed: version ${entry.revision + 1}`;
    case "reading": {
      const words = [entry.before, entry.after].flatMap((r) => (r ? [`${placeOf(r)} ${valueOfReading(r)}`] : []));
      return `${DONE.reading[entry.done]}: ${[...new Set(words)].join(" → ")}`;
    }
    case "field":
      return `${FIELD_NAMES[entry.field]}: ${valueWords(entry.field, entry.before)} → ${valueWords(entry.field, entry.after)}`;
    default:
      return entry satisfies never;
  }
}

function valueWords(field: JobField, value: unknown): string {
  if (field === "state") return JOB_STATES[value as Job["state"]] ?? String(value);
  if (field === "standing") return standingWords(value as Job["standing"]).join(", ") || "as drawn";
  if (field === "details")
    return (
      Object.values(value as Job["details"])
        .filter(Boolean)
        .join(", ") || "nothing"
    );
  if (typeof value === "string") return value === "" ? "nothing" : `“${value}”`;
  return JSON.stringify(value) === "{}" ? "as usual" : "changed";
}
