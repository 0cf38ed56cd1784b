import { useQuery } from "@tanstack/react-query";
import { type FormEvent, useState } from "react";
import { useNavigate } from "react-router";
import { jobsApi } from "../api/jobs.ts";
import { DialogClose, DialogFrame } from "../app/DialogFrame.tsx";
import { SearchField } from "../app/SearchField.tsx";
import type { Sent } from "../app/sent.ts";

/** Opens a job with what is sent. */
export function useSending() {
  const navigate = useNavigate();
  return (job: string, sent: Sent) =>
    navigate(`/jobs/${job}/${sent.kind === "part" ? "circuit" : "readings"}`, { state: sent });
}

/** Asks which job something goes to: the one worked on last comes first, and Enter takes it. */
export function SendDialog({ sent, onClose }: { sent: Sent; onClose: () => void }) {
  const [search, setSearch] = useState("");
  const send = useSending();
  const { data, error } = useQuery({
    queryKey: ["jobs", search, "", false],
    queryFn: () => jobsApi.list({ search }),
    placeholderData: (before) => before,
  });
  const jobs = data?.jobs ?? [];
  const takeFirst = (event: FormEvent) => {
    event.preventDefault();
    if (jobs[0]) send(jobs[0].id, sent);
  };
  return (
    <DialogFrame
      open
      onOpenChange={(open) => !open && onClose()}
      title={
        sent.kind === "part" ? `${sent.words}: into which job’s circuit?` : `${sent.words}: a reading of which job?`
      }
    >
      <form onSubmit={takeFirst}>
        <SearchField label="Search jobs" hint="Search title, complaint, finding" value={search} onChange={setSearch} />
      </form>
      {error && <p role="alert">{error.message}</p>}
      <ul tabIndex={0} aria-label="Jobs" className="flex max-h-[50vh] flex-col gap-1 overflow-auto">
        {jobs.map((job) => (
          <li key={job.id}>
            <button
              type="button"
              onClick={() => send(job.id, sent)}
              className="w-full rounded-lg border border-rule px-3 py-2.5 text-left text-lg hover:border-copper"
            >
              {job.title}
            </button>
          </li>
        ))}
      </ul>
      {data && jobs.length === 0 && (
        <p className="text-faint">
          {search === "" ? "There is no job yet: start one on the Jobs page." : "No job matches."}
        </p>
      )}
      <DialogClose>Stay here</DialogClose>
    </DialogFrame>
  );
}
