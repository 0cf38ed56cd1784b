import {
  type HistoryEntry,
  JOB_STATES,
  type Job,
  type JobField,
  OUTCOMES,
  type RepairWork,
  situationOf,
} from "@hound/core/record";
import type { History } from "@hound/core/whatif";
import { useQuery } from "@tanstack/react-query";
import { type FormEvent, useMemo, useState } from "react";
import { Link } from "react-router";
import { jobsApi } from "../api/jobs.ts";
import { picturesApi } from "../api/pictures.ts";
import { DialogClose, DialogFrame } from "../app/DialogFrame.tsx";
import { Loading } from "../app/Loading.tsx";
import { MoreButton, PAGE } from "../app/MoreButton.tsx";
import { newId } from "../app/newId.ts";
import { useDesk } from "../desk/DeskContext.tsx";
import { useErrands, useRun } from "../desk/OutboxContext.tsx";
import { useKept } from "../desk/useKept.ts";
import { useLab } from "../lab/useLab.ts";
import type { ErrandBodies } from "../outbox/errandKinds.ts";
import { mendOf } from "../repair/useRepairWork.ts";
import { percent, placeOf, valueOfReading } from "../words/quantities.ts";
import { stepsWords } from "../words/repair.ts";
import { standingWords } from "../words/standing.ts";
import { dayAndTime } from "../words/times.ts";
import { usePast } from "./usePast.ts";

/** What was done to the job, by whom, and what led after each reading; each moment to be looked at, and gone back to. */
export function TimelineDialog({ onClose }: { onClose: () => void }) {
  const { state, drawn, readings, meter } = useDesk();
  const { id, updatedAt, priors } = state.job;
  const situation = situationOf(state.job, readings);
  const [limit, setLimit] = useState(PAGE);
  const { data, error } = useQuery({
    queryKey: ["history", id, limit, updatedAt],
    queryFn: () => jobsApi.history(id, limit),
    placeholderData: (before) => before,
  });
  const { list } = useErrands();
  const waiting = list.flatMap((e) => {
    const body = e.kind === "note" && e.refused === undefined ? (e.body as ErrandBodies["note"]) : null;
    return body?.job === id ? [body] : [];
  });
  const then = usePast(state.job);
  const question = useMemo(() => {
    if (!drawn || !then || readings.length === 0) return null;
    const taken = readings.map((r) => ({ ...r.reading, takenAt: undefined }));
    return {
      kind: "history",
      input: { circuit: drawn.circuit, readings: taken, meter, priors, situation },
      then,
    } as const;
  }, [drawn, then, readings, meter, priors, situation]);
  const { answer } = useLab(question);
  const leads = answer?.kind === "history" ? leadsIn(answer) : [];
  const leadAfter = (entry: HistoryEntry) => {
    if (entry.what !== "reading" || entry.done !== "taken") return null;
    const at = readings.findIndex((r) => r.id === entry.id);
    return at < 0 ? null : (leads[at + 1] ?? null);
  };
  return (
    <DialogFrame open wide onOpenChange={(open) => !open && onClose()} title="Timeline of this job">
      <NoteForm />
      {error && <p role="alert">{error.message}.</p>}
      {!data && !error && <Loading what="the timeline" />}
      {(data || waiting.length > 0) && (
        <ul tabIndex={0} aria-label="What was done" className="max-h-[56vh] overflow-auto">
          {waiting.map(({ note }) => (
            <li key={note.id} className="border-t border-rule py-2 first:border-0">
              <span dir="auto" className="break-words">
                {note.text}
              </span>{" "}
              <span className="text-doubt">not saved yet</span>
            </li>
          ))}
          {data?.entries.map((entry) => (
            <Row key={JSON.stringify(entry)} entry={entry} lead={leadAfter(entry)} onClose={onClose} />
          ))}
        </ul>
      )}
      {data && <MoreButton shown={data.entries.length} total={data.total} onMore={() => setLimit(limit + PAGE)} />}
      <DialogClose>Close</DialogClose>
    </DialogFrame>
  );
}

/** What led after none, one, two … readings. */
function leadsIn({ steps, repairs }: History): (string | null)[] {
  return steps.map((shares) => {
    if (!shares) return null;
    const best = shares.reduce((most, p, i) => (p > shares[most] ? i : most), 0);
    const repair = repairs[best];
    if (!repair) return null;
    return `${repair.length === 0 ? "nothing wrong" : stepsWords(repair)} ${percent(shares[best])}`;
  });
}

function NoteForm() {
  const { state } = useDesk();
  const { id } = state.job;
  const { value: text, set, forget } = useKept(`note ${id}`, "");
  const run = useRun();
  const submit = (event: FormEvent) => {
    event.preventDefault();
    if (text.trim() === "") return;
    run("note", { job: id, note: { id: newId(), text: text.trim() } }, `Note: ${text.trim()}`).catch(() => {});
    forget();
  };
  return (
    <form onSubmit={submit} className="flex gap-2">
      <input
        value={text}
        maxLength={2000}
        dir="auto"
        aria-label="Note"
        placeholder="Note something, at this moment"
        onChange={(e) => set(e.target.value)}
        className="min-w-0 grow rounded-lg border border-field bg-paper px-3 py-1.5"
      />
      <button type="submit" className="rounded-lg border border-rule px-3 py-1.5 hover:bg-band">
        Note it
      </button>
    </form>
  );
}

function Row({ entry, lead, onClose }: { entry: HistoryEntry; lead: string | null; onClose: () => void }) {
  const { desk, readings, state } = useDesk();
  const back =
    entry.what === "field"
      ? { label: "Put back", run: () => desk.step({ [entry.field]: entry.before }, "As it was before that") }
      : entry.what === "reading" && entry.done === "deleted" && entry.before && !readings.some((r) => r.id === entry.id)
        ? { label: "Restore", run: () => entry.before && desk.restoreReading(entry.id, entry.before) }
        : null;
  return (
    <li className="flex flex-wrap items-center gap-x-3 border-t border-rule py-2 first:border-0">
      <span className="w-44 shrink-0 text-faint tabular-nums">
        {dayAndTime(new Date(entry.at))}
        {entry.who && <span className="block truncate">{entry.who}</span>}
      </span>
      <span dir="auto" className="min-w-0 grow basis-60 break-words">
        {wordsOf(entry)}
        {entry.what === "picture" && entry.done === "added" && (
          <img
            src={picturesApi.address(state.job.id, entry.id, { turns: entry.turns, isSmall: true })}
            alt=""
            className="mt-1 h-24 rounded-lg object-contain"
          />
        )}
        {lead && <span className="block text-faint">then leads {lead}</span>}
      </span>
      <Link
        to={`/jobs/${state.job.id}/then?at=${encodeURIComponent(entry.at)}`}
        aria-label={`As it was on ${dayAndTime(new Date(entry.at))}`}
        className="shrink-0 rounded-lg border border-rule px-3 py-1 hover:bg-band"
      >
        As it was
      </Link>
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
  claims: "Own figures",
  work: "Repair",
  closing: "How it ended",
};

const DONE = {
  job: { made: "Job begun", imported: "Job imported", deleted: "Job deleted", restored: "Job restored" },
  reading: {
    taken: "Read",
    corrected: "Reading corrected:",
    deleted: "Reading deleted:",
    restored: "Reading restored:",
  },
} as const;

export function wordsOf(entry: HistoryEntry): string {
  switch (entry.what) {
    case "job":
      return DONE.job[entry.done];
    case "note":
      return `“${entry.text}”`;
    case "circuit":
      return `Circuit changed: version ${entry.revision + 1}`;
    case "reading": {
      const words = [entry.before, entry.after].flatMap((r) => (r ? [`${placeOf(r)} ${valueOfReading(r)}`] : []));
      return `${DONE.reading[entry.done]} ${[...new Set(words)].join(" → ")}`;
    }
    case "field":
      return `${FIELD_NAMES[entry.field]}: ${valueWords(entry.field, entry.before)} → ${valueWords(entry.field, entry.after)}`;
    case "picture":
      return `Picture ${entry.done}: ${entry.text}`;
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
  if (field === "tags") return (value as string[]).join(", ") || "none";
  if (field === "work") return value === null ? "none" : workWords(value as RepairWork);
  if (field === "closing") return value === null ? "open" : OUTCOMES[(value as NonNullable<Job["closing"]>).outcome];
  if (typeof value === "string") return value === "" ? "nothing" : `“${value}”`;
  return JSON.stringify(value) === "{}" ? "as usual" : "changed";
}

function workWords(work: RepairWork): string {
  const done = work.done.length + Object.keys(work.checks).length;
  return `${stepsWords(mendOf(work))}${done > 0 ? `, ${done} done` : ""}`;
}
