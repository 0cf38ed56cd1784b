import { DETAILS, type Details, type Job, TEXT_LIMITS } from "@hound/core/record";
import { type FormEvent, useId } from "react";
import { DialogClose, DialogFrame } from "../app/DialogFrame.tsx";
import { useDesk } from "../desk/DeskContext.tsx";
import { useKept } from "../desk/useKept.ts";
import { AddPicture } from "./Pictures.tsx";
import { usePictures } from "./usePictures.ts";

interface Card {
  readonly title: string;
  readonly complaint: string;
  readonly details: Details;
  /** Parted by commas. */
  readonly tags: string;
}

/** What a job is called, what is complained of, whose it is: all of it to be changed here. */
export function JobCard({ onClose }: { onClose: () => void }) {
  const { desk, state } = useDesk();
  const { job } = state;
  const { value, set, forget } = useKept<Card>(`card ${job.id}`, cardOf(job));
  const { pictures, add } = usePictures(job.id);
  const wrong = useId();
  const isUntitled = value.title.trim() === "";
  const submit = (event: FormEvent) => {
    event.preventDefault();
    if (isUntitled) return;
    const { title, complaint } = value;
    const now = cardOf(job);
    const details = Object.fromEntries(Object.entries(value.details).filter(([, text]) => text?.trim())) as Details;
    desk.changeJob({
      ...(title.trim() === now.title ? {} : { title: title.trim() }),
      ...(complaint === now.complaint ? {} : { complaint }),
      ...(JSON.stringify(tagsIn(value.tags)) === JSON.stringify(job.tags) ? {} : { tags: tagsIn(value.tags) }),
      ...(JSON.stringify(details) === JSON.stringify(now.details) ? {} : { details }),
    });
    forget();
    onClose();
  };
  return (
    <DialogFrame open onOpenChange={(open) => !open && onClose()} title="About this job">
      <form onSubmit={submit} className="flex flex-col gap-3">
        <label className="flex flex-col gap-1">
          What is on the bench
          <input
            value={value.title}
            onChange={(e) => set({ ...value, title: e.target.value })}
            maxLength={TEXT_LIMITS.title}
            required
            dir="auto"
            aria-invalid={isUntitled}
            aria-describedby={isUntitled ? wrong : undefined}
            className="rounded-lg border border-field bg-paper px-3 py-2 text-lg"
          />
          {isUntitled && (
            <span id={wrong} className="text-wrong">
              A job needs a title.
            </span>
          )}
        </label>
        <label className="flex flex-col gap-1">
          What is complained of
          <textarea
            value={value.complaint}
            onChange={(e) => set({ ...value, complaint: e.target.value })}
            maxLength={TEXT_LIMITS.complaint}
            rows={3}
            dir="auto"
            className="rounded-lg border border-field bg-paper px-3 py-2"
          />
        </label>
        <div className="grid gap-3 sm:grid-cols-2">
          {(Object.keys(DETAILS) as (keyof Details)[]).map((key) => (
            <label key={key} className="flex flex-col gap-1">
              {DETAILS[key]}
              <input
                value={value.details[key] ?? ""}
                type={key === "date" ? "date" : "text"}
                maxLength={TEXT_LIMITS.title}
                dir="auto"
                onChange={(e) => set({ ...value, details: { ...value.details, [key]: e.target.value } })}
                className="rounded-lg border border-field bg-paper px-3 py-2"
              />
            </label>
          ))}
        </div>
        <label className="flex flex-col gap-1">
          Tags, parted by commas
          <input
            value={value.tags}
            maxLength={400}
            dir="auto"
            onChange={(e) => set({ ...value, tags: e.target.value })}
            className="rounded-lg border border-field bg-paper px-3 py-2"
          />
        </label>
        <div className="flex flex-wrap items-center justify-end gap-3">
          <AddPicture add={add} />
          {pictures.length > 0 && (
            <span className="text-faint">
              {pictures.length} picture{pictures.length === 1 ? "" : "s"}
            </span>
          )}
          <span className="grow" />
          <DialogClose>Close</DialogClose>
          <button type="submit" className="rounded-lg bg-copper px-4 py-2 font-bold text-sheet">
            Save
          </button>
        </div>
      </form>
    </DialogFrame>
  );
}

function cardOf({ title, complaint, details, tags }: Job): Card {
  return { title, complaint, details: details ?? {}, tags: tags.join(", ") };
}

/** Each once, as many as are taken. */
function tagsIn(text: string): string[] {
  const tags = text.split(",").flatMap((t) => (t.trim() === "" ? [] : [t.trim().slice(0, 40)]));
  return [...new Set(tags)].slice(0, 20);
}
