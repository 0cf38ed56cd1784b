import { useCallback, useSyncExternalStore } from "react";
import { Link } from "react-router";
import { saveFile } from "../app/saveFile.ts";
import type { JobDesk } from "../desk/desk.ts";
import { useErrands, useOutbox } from "../desk/OutboxContext.tsx";
import { savedWords } from "../desk/savedWords.ts";
import type { Device } from "../outbox/device.ts";
import { fileOf } from "../outbox/errandKinds.ts";

/** Names of forms that hold something else here than in a tab that was closed, a line each. */
const leftIn = (device: Device) =>
  device
    .keys("form:")
    .filter((key) => key.includes("~"))
    .join("\n");

const BUTTON = "shrink-0 rounded border border-wrong px-3 py-1 hover:bg-band";
const ROW = "flex flex-wrap items-center gap-2 border-t border-rule py-1.5 first:border-0";

/** What waits for the server or was refused by it, wherever it was typed. @param except a job that shows its own */
export function Unsaved({ except }: { except?: string }) {
  const { desks, errands, device } = useOutbox();
  const { list, why, isKept } = useErrands();
  const unsaved = useSyncExternalStore(desks.subscribe, desks.unsaved);
  const watch = useCallback((listener: () => void) => device.watch("form:", listener), [device]);
  const left = useSyncExternalStore(watch, () => leftIn(device));
  const keeps = useSyncExternalStore(watch, () => device.keeps);
  return (
    <section
      aria-label="Not saved yet"
      className="mb-3 hidden max-h-56 shrink-0 overflow-auto rounded-lg border border-doubt bg-copper-wash px-4 py-2 has-[li]:block"
    >
      <ul role="alert">
        {!keeps && (
          <li className={ROW}>
            This browser keeps nothing of this page on the device (forbidden, or no room left): what is not saved yet
            goes when the page goes.
          </li>
        )}
        {unsaved.map((desk) => (
          <Waiting key={desk.snapshot().job.id} desk={desk} isElsewhere={desk.snapshot().job.id !== except} />
        ))}
        {list.map((errand) =>
          errand.refused === undefined ? (
            why !== "" && (
              <li key={errand.id} className={ROW}>
                <span>
                  <strong>{errand.words}</strong>: not done yet, {why}.{" "}
                  {isKept ? "Kept here, trying again." : "This device keeps nothing: leave the page open."}
                </span>
              </li>
            )
          ) : (
            <li key={errand.id} className={ROW}>
              <span className="min-w-0 grow">
                <strong className="break-words">{errand.words}</strong>: {errand.refused}
              </span>
              <button type="button" className={BUTTON} onClick={() => errands.sendAgain(errand)}>
                Send again
              </button>
              <CopyOf body={errand.body} />
              <button type="button" className={BUTTON} onClick={() => errands.putAway(errand)}>
                Let it go
              </button>
            </li>
          ),
        )}
        {left !== "" && left.split("\n").map((key) => <Leftover key={key} name={key} />)}
      </ul>
    </section>
  );
}

/** What was refused, taken along: a file as a file, all else as words. */
function CopyOf({ body }: { body: unknown }) {
  const file = fileOf(body);
  return (
    <button
      type="button"
      className={BUTTON}
      onClick={() => (file ? saveFile(file, file.name) : navigator.clipboard.writeText(JSON.stringify(body, null, 2)))}
    >
      {file ? "Save as a file" : "Copy"}
    </button>
  );
}

const WORDS = {
  refused: "the server did not take something of it",
  choice: "it was changed elsewhere too: which version holds?",
} as const;

function Waiting({ desk, isElsewhere }: { desk: JobDesk; isElsewhere: boolean }) {
  const state = useSyncExternalStore(desk.subscribe, desk.snapshot);
  const { job, saving } = state;
  if (!isElsewhere || !(saving === "waiting" || saving in WORDS)) return null;
  return (
    <li className={ROW}>
      <Link to={`/jobs/${job.id}/circuit`} className="font-bold underline">
        {job.title}
      </Link>
      <span>{saving === "waiting" ? savedWords(state) : WORDS[saving as keyof typeof WORDS]}</span>
    </li>
  );
}

/** A form that was typed in two tabs, of which one was closed: its text is shown, to be copied. */
function Leftover({ name }: { name: string }) {
  const { device } = useOutbox();
  const kept = device.get(name);
  const text = typeof kept === "string" ? kept : JSON.stringify(kept);
  return (
    <li className={ROW}>
      <span className="min-w-0 grow break-words">
        Typed in a tab that was closed, and not saved: <code className="font-mono">{text}</code>
      </span>
      <button type="button" className={BUTTON} onClick={() => navigator.clipboard.writeText(text)}>
        Copy
      </button>
      <button type="button" className={BUTTON} onClick={() => device.remove(name)}>
        Let it go
      </button>
    </li>
  );
}
