import { TEXT_LIMITS } from "@hound/core/record";
import { type FormEvent, useState } from "react";
import { useNavigate } from "react-router";
import { libraryApi } from "../api/library.ts";
import { DialogClose, DialogFrame } from "../app/DialogFrame.tsx";
import { useOutbox } from "../desk/OutboxContext.tsx";
import { useKept } from "../desk/useKept.ts";
import { useSeen } from "../desk/useSeen.ts";

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
  const { desks } = useOutbox();
  const library = useSeen(["library", "", false], () => libraryApi.list("", false), { enabled: open && !from });
  const circuit = useSeen(["library", kept], () => libraryApi.open(kept), { enabled: open && kept !== "" });
  const isWaiting = kept !== "" && !circuit.data;
  const navigate = useNavigate();
  const submit = (event: FormEvent) => {
    event.preventDefault();
    if (title.trim() === "" || isWaiting) return;
    const start = from ?? (circuit.data && kept !== "" ? { libraryId: kept, trail: circuit.data.trail } : null);
    const { libraryId, trail } = start ?? {};
    const id = desks.create({ title, complaint, ...(start ? { libraryId, trail } : {}) });
    typed.forget();
    navigate(`/jobs/${id}/circuit`);
  };
  return (
    <DialogFrame open={open} onOpenChange={onOpenChange} title="New job">
      {from && (
        <p>
          With the circuit <strong dir="auto">{from.title}</strong> of the library.
        </p>
      )}
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
        {isWaiting && circuit.error && (
          <p role="alert" className="text-wrong">
            Its circuit could not be had: {circuit.error.message}. What you typed is still here.
          </p>
        )}
        <div className="flex justify-end gap-3">
          <DialogClose>Cancel</DialogClose>
          <button type="submit" disabled={isWaiting} className="rounded-lg bg-copper px-4 py-2.5 font-bold text-sheet">
            Start
          </button>
        </div>
      </form>
    </DialogFrame>
  );
}
