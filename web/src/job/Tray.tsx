import { Trouble } from "../app/PageError.tsx";
import { placeOf, valueOfReading } from "../words/quantities.ts";
import { useDesk } from "./DeskContext.tsx";
import type { ReadingOp } from "./desk.ts";
import { type Draft, Drafts, type Refused, tabsWithDrafts } from "./drafts.ts";

/** What the server refused, and why: it stays here until somebody decides what becomes of it. */
export function Tray() {
  const { desk, state } = useDesk();
  const { refused } = state;
  if (refused.length === 0) return null;
  return (
    <section aria-label="Not saved" role="alert" className="max-h-56 shrink-0 overflow-auto bg-wrong-wash px-4 py-2">
      <p className="font-bold">The server did not take this. It stays here until you decide.</p>
      <ul>
        {refused.map((one) => (
          <li key={keyOf(one)} className="flex flex-wrap items-center gap-2 border-t border-rule py-1.5">
            <span className="min-w-0 grow">
              <strong className="font-mono break-words">{wordsOf(one)}</strong>: {one.why}
            </span>
            <button type="button" className={BUTTON} onClick={() => desk.sendAgain(one)}>
              {one.what === "circuit" ? "Put it back in the trail" : "Send again"}
            </button>
            <button type="button" className={BUTTON} onClick={() => navigator.clipboard.writeText(textOf(one))}>
              Copy
            </button>
            <button type="button" className={BUTTON} onClick={() => desk.putAway(one)}>
              Let it go
            </button>
          </li>
        ))}
      </ul>
    </section>
  );
}

const BUTTON = "shrink-0 rounded border border-wrong px-3 py-1 hover:bg-band";

function keyOf(one: Refused): string {
  return one.what === "circuit" ? "circuit" : `${one.op.op} ${one.op.id}`;
}

const OPS: Readonly<Record<ReadingOp["op"], string>> = {
  add: "",
  change: "corrected to ",
  remove: "deleted: ",
  restore: "restored: ",
};

function wordsOf(one: Refused): string {
  if (one.what === "circuit") return "the trail";
  const { op, reading } = one.op;
  return `${OPS[op]}${placeOf(reading)} ${valueOfReading(reading)}`;
}

function textOf(one: Refused): string {
  if (one.what === "circuit") return one.text;
  const { reading } = one.op;
  return "typed" in reading && reading.typed ? reading.typed : `${placeOf(reading)} ${valueOfReading(reading)}`;
}

/** A job that the server does not have (any more), with what of it is still kept on this device. */
export function LostJob({ id, message }: { id: string; message: string }) {
  const left = tabsWithDrafts(localStorage, id).flatMap((tab) => new Drafts(localStorage, id, tab).of(tab) ?? []);
  return (
    <>
      <Trouble title="This job could not be opened" detail={message} />
      {left.length > 0 && (
        <section aria-label="Kept on this device" className="mx-auto max-w-2xl rounded-xl border border-doubt p-4">
          <h2 className="text-xl font-bold">What was typed for it is kept on this device</h2>
          {left.map((draft) => (
            <Kept key={JSON.stringify(draft)} draft={draft} />
          ))}
        </section>
      )}
    </>
  );
}

function Kept({ draft }: { draft: Draft }) {
  const lines = [
    ...draft.pending.map((op) => textOf({ what: "reading", op, why: "" })),
    ...(draft.refused ?? []).filter((r) => r.what === "reading").map(textOf),
  ];
  const all = [draft.text, ...lines].join("\n");
  return (
    <div className="mt-2">
      <pre className="max-h-64 overflow-auto rounded border border-rule bg-sheet p-2 whitespace-pre-wrap">{all}</pre>
      <button type="button" className={`${BUTTON} mt-2`} onClick={() => navigator.clipboard.writeText(all)}>
        Copy
      </button>
    </div>
  );
}
