import { TEXT_LIMITS } from "@hound/core/record";
import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { type FormEvent, useState } from "react";
import { useNavigate } from "react-router";
import { jobsApi } from "../api/jobs.ts";
import { libraryApi } from "../api/library.ts";
import { DialogClose, DialogFrame } from "../app/DialogFrame.tsx";
import { useKept } from "../app/useKept.ts";

interface NewJobDialogProps {
  readonly open: boolean;
  readonly onOpenChange: (open: boolean) => void;
  /** The library's circuit that the job starts from. */
  readonly from?: { readonly libraryId: string; readonly trail: string; readonly title: string };
}

export function NewJobDialog({ open, onOpenChange, from }: NewJobDialogProps) {
  const typed = useKept(`new job ${from?.libraryId ?? ""}`, { title: from?.title ?? "", complaint: "" });
  const { title, complaint } = typed.value;
  const [kept, setKept] = useState("");
  const library = useQuery({
    queryKey: ["library", "", false],
    queryFn: () => libraryApi.list("", false),
    enabled: open && !from,
  });
  const navigate = useNavigate();
  const queries = useQueryClient();
  const create = useMutation({
    mutationFn: async () => {
      const start = from ?? (kept === "" ? null : { libraryId: kept, trail: (await libraryApi.open(kept)).trail });
      return jobsApi.create({ title, complaint, ...(start ? { libraryId: start.libraryId, trail: start.trail } : {}) });
    },
    onSuccess: (job) => {
      typed.forget();
      queries.invalidateQueries({ queryKey: ["jobs"] });
      navigate(`/jobs/${job.id}/circuit`);
    },
  });
  const submit = (event: FormEvent) => {
    event.preventDefault();
    if (title.trim() !== "") create.mutate();
  };
  return (
    <DialogFrame open={open} onOpenChange={onOpenChange} title="New job">
      <form onSubmit={submit} className="mt-4 flex flex-col gap-4">
        <label className="flex flex-col gap-1">
          What is on the bench?
          <input
            value={title}
            onChange={(e) => typed.set({ title: e.target.value, complaint })}
            maxLength={TEXT_LIMITS.title}
            required
            placeholder="Pump controller, well shaft"
            className="rounded-lg border border-rule bg-paper px-3 py-2.5 text-lg placeholder:text-faint"
          />
        </label>
        <label className="flex flex-col gap-1">
          What is complained of?
          <textarea
            value={complaint}
            onChange={(e) => typed.set({ title, complaint: e.target.value })}
            maxLength={TEXT_LIMITS.complaint}
            rows={3}
            className="rounded-lg border border-rule bg-paper px-3 py-2.5"
          />
        </label>
        {library.data && library.data.circuits.length > 0 && (
          <label className="flex flex-col gap-1">
            Its circuit
            <select
              value={kept}
              onChange={(e) => setKept(e.target.value)}
              className="rounded-lg border border-rule bg-paper px-3 py-2.5"
            >
              <option value="">Not in the library: I write it</option>
              {library.data.circuits.map((c) => (
                <option key={c.id} value={c.id}>
                  {c.name}
                </option>
              ))}
            </select>
          </label>
        )}
        {create.error && (
          <p role="alert" className="text-wrong">
            {create.error.message}. What you typed is still here.
          </p>
        )}
        <div className="flex justify-end gap-3">
          <DialogClose>Cancel</DialogClose>
          <button
            type="submit"
            disabled={create.isPending}
            className="rounded-lg bg-copper px-4 py-2.5 font-bold text-sheet"
          >
            Start
          </button>
        </div>
      </form>
    </DialogFrame>
  );
}
