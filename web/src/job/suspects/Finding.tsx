import { TEXT_LIMITS } from "@hound/core/record";
import { type FormEvent, useState } from "react";
import { useKept } from "../../outbox/useKept.ts";
import { useDesk } from "../DeskContext.tsx";

/** What it turned out to be: asked for once a job is solved. */
export function Finding() {
  const { desk, state } = useDesk();
  const { finding, state: jobState, id } = state.job;
  const { value: text, set: setText, forget } = useKept(`finding ${id}`, finding);
  const [isSent, setSent] = useState(false);
  if (jobState !== "solved") return null;
  const submit = (event: FormEvent) => {
    event.preventDefault();
    desk.changeJob({ finding: text });
    forget();
    setSent(true);
  };
  return (
    <form onSubmit={submit} className="rounded-lg border border-rule bg-sheet px-4 py-3">
      <label className="font-bold" htmlFor="finding">
        What it was
      </label>
      <textarea
        id="finding"
        value={text}
        rows={2}
        dir="auto"
        maxLength={TEXT_LIMITS.complaint}
        onChange={(e) => setText(e.target.value)}
        className="mt-1 w-full rounded border border-rule bg-paper px-2 py-1.5"
      />
      <div className="flex items-center justify-end gap-3">
        <span role="status" className="text-faint">
          {text !== finding ? "Not sent yet; kept here." : isSent && state.saving === "saved" ? "Saved." : ""}
        </span>
        <button type="submit" className="rounded-lg border border-rule px-3 py-1.5 hover:bg-band">
          Save finding
        </button>
      </div>
    </form>
  );
}
