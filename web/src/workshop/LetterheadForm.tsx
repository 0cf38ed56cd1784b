import type { Letterhead } from "@hound/core/record";
import type { FormEvent } from "react";
import { workshopApi } from "../api/workshop.ts";
import { useRun } from "../desk/OutboxContext.tsx";
import { useKept } from "../desk/useKept.ts";
import { useSeen } from "../desk/useSeen.ts";

const EMPTY: Letterhead = { head: "", foot: "" };
const FIELDS = { head: "Over the report", foot: "Below it" } as const;

/** What stands over and below every report: the workshop's own name and address. */
export function LetterheadForm() {
  const { data } = useSeen(["letterhead"], workshopApi.letterhead, { staleTime: 30_000 });
  const stored = data ?? EMPTY;
  const { value, set, forget } = useKept("letterhead", stored);
  const run = useRun();
  const submit = (event: FormEvent) => {
    event.preventDefault();
    const changed = Object.entries(value).filter(([key, text]) => text !== stored[key as keyof Letterhead]);
    if (changed.length > 0) run("letterhead", Object.fromEntries(changed), "Letterhead").catch(() => {});
    forget();
  };
  return (
    <section aria-label="Letterhead" className="flex flex-col gap-2">
      <h2 className="text-xl font-bold">Letterhead</h2>
      <form onSubmit={submit} className="flex flex-col gap-2 rounded-lg border border-rule bg-sheet px-4 py-3">
        {(Object.keys(FIELDS) as (keyof Letterhead)[]).map((key) => (
          <label key={key} className="flex flex-col gap-1">
            {FIELDS[key]}
            <textarea
              value={value[key]}
              rows={3}
              maxLength={1000}
              dir="auto"
              onChange={(e) => set({ ...value, [key]: e.target.value })}
              className="rounded-lg border border-field bg-paper px-3 py-1.5"
            />
          </label>
        ))}
        <div className="flex justify-end">
          <button type="submit" className="rounded-lg border border-rule px-4 py-2 hover:bg-band">
            Save
          </button>
        </div>
      </form>
    </section>
  );
}
