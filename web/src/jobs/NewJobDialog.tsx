import { TEXT_LIMITS } from "@hound/core/record";
import { useMutation, useQueryClient } from "@tanstack/react-query";
import { Dialog } from "radix-ui";
import { type FormEvent, useState } from "react";
import { useNavigate } from "react-router";
import { jobsApi } from "../api/jobs.ts";

interface NewJobDialogProps {
  readonly open: boolean;
  readonly onOpenChange: (open: boolean) => void;
  /** The library's circuit that the job starts from. */
  readonly from?: { readonly libraryId: string; readonly trail: string; readonly title: string };
}

export function NewJobDialog({ open, onOpenChange, from }: NewJobDialogProps) {
  const [title, setTitle] = useState(from?.title ?? "");
  const [complaint, setComplaint] = useState("");
  const navigate = useNavigate();
  const queries = useQueryClient();
  const create = useMutation({
    mutationFn: () =>
      jobsApi.create({ title, complaint, ...(from ? { libraryId: from.libraryId, trail: from.trail } : {}) }),
    onSuccess: (job) => {
      queries.invalidateQueries({ queryKey: ["jobs"] });
      navigate(`/jobs/${job.id}/circuit`);
    },
  });
  const submit = (event: FormEvent) => {
    event.preventDefault();
    if (title.trim() !== "") create.mutate();
  };
  return (
    <Dialog.Root open={open} onOpenChange={onOpenChange}>
      <Dialog.Portal>
        <Dialog.Overlay className="fixed inset-0 bg-black/40" />
        <Dialog.Content
          aria-describedby={undefined}
          className="fixed top-1/2 left-1/2 w-[min(32rem,92vw)] -translate-x-1/2 -translate-y-1/2 rounded-xl border border-rule bg-sheet p-6 shadow-xl"
        >
          <Dialog.Title className="text-xl font-bold">New job</Dialog.Title>
          <form onSubmit={submit} className="mt-4 flex flex-col gap-4">
            <label className="flex flex-col gap-1">
              What is on the bench?
              <input
                value={title}
                onChange={(e) => setTitle(e.target.value)}
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
                onChange={(e) => setComplaint(e.target.value)}
                maxLength={TEXT_LIMITS.complaint}
                rows={3}
                className="rounded-lg border border-rule bg-paper px-3 py-2.5"
              />
            </label>
            {create.error && (
              <p role="alert" className="text-wrong">
                {create.error.message}. What you typed is still here.
              </p>
            )}
            <div className="flex justify-end gap-3">
              <Dialog.Close type="button" className="rounded-lg border border-rule px-4 py-2.5 hover:bg-band">
                Cancel
              </Dialog.Close>
              <button
                type="submit"
                disabled={create.isPending}
                className="rounded-lg bg-copper px-4 py-2.5 font-bold text-sheet"
              >
                Start
              </button>
            </div>
          </form>
        </Dialog.Content>
      </Dialog.Portal>
    </Dialog.Root>
  );
}
