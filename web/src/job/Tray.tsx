import { useNavigate } from "react-router";
import { saveFile } from "../app/saveFile.ts";
import { caseOf } from "../desk/caseOf.ts";
import { useDesk } from "../desk/DeskContext.tsx";
import { useOutbox } from "../desk/OutboxContext.tsx";
import type { Op, Refused } from "../desk/ops.ts";
import type { DeskState } from "../desk/savedJob.ts";
import { placeOf, valueOfReading } from "../words/quantities.ts";

/**
 * What the server refused, and why: it stays here until somebody decides what becomes of it.
 * @param onEdit takes the words of a reading back into the line
 */
export function Tray({ onEdit }: { onEdit: (words: string) => void }) {
  const { desk, state } = useDesk();
  const { desks } = useOutbox();
  const navigate = useNavigate();
  const { refused } = state;
  if (refused.length === 0) return null;
  return (
    <section aria-label="Not saved" role="alert" className="max-h-56 shrink-0 overflow-auto bg-wrong-wash px-4 py-2">
      <div className="flex flex-wrap items-center gap-2 pb-1">
        <p className="grow font-bold">The server did not take this. It stays here until you decide.</p>
        <button
          type="button"
          className={BUTTON}
          onClick={() => saveFile(caseOf(state), "not-saved.json", "application/json")}
        >
          Export all as a case file
        </button>
      </div>
      <ul>
        {refused.map((one) => (
          <li key={keyOf(one)} className="flex flex-wrap items-center gap-2 border-t border-rule py-1.5">
            <span className="min-w-0 grow">
              <strong className="font-mono break-words">{wordsOf(one)}</strong>: {one.why}
            </span>
            <button type="button" className={BUTTON} onClick={() => desk.sendAgain(one)}>
              {one.what === "circuit" ? "Put it back in the trail" : "Send again"}
            </button>
            {isReading(one) && (
              <button
                type="button"
                className={BUTTON}
                onClick={() => {
                  desk.putAway(one);
                  onEdit(textOf(one, state));
                }}
              >
                Edit
              </button>
            )}
            <button type="button" className={BUTTON} onClick={() => navigator.clipboard.writeText(textOf(one, state))}>
              Copy
            </button>
            <button
              type="button"
              className={BUTTON}
              onClick={() => {
                if (one.what !== "job") return desk.putAway(one);
                desks.drop(state.job.id);
                navigate("/jobs");
              }}
            >
              Let it go
            </button>
          </li>
        ))}
      </ul>
    </section>
  );
}

const BUTTON = "shrink-0 rounded border border-wrong px-3 py-1 hover:bg-band";

/** What was typed in the reading line, and can be typed again with another word. */
const isReading = (one: Refused) => one.what === "op" && one.op.op === "add";

function keyOf(one: Refused): string {
  return one.what === "op" ? `${one.op.op} ${one.op.id}` : one.what;
}

const OPS = { add: "", change: "corrected to ", remove: "deleted: ", restore: "restored: " } as const;

function wordsOf(one: Refused): string {
  if (one.what === "circuit") return "the trail";
  if (one.what === "job") return "this job";
  return wordsOfOp(one.op);
}

function wordsOfOp(op: Op): string {
  switch (op.op) {
    case "set":
      return Object.entries(op.fields)
        .map(([field, value]) => (typeof value === "string" ? `${field}: ${value}` : field))
        .join(", ");
    case "store":
      return "another version of the trail";
    case "drop":
      return "deleted: a damaged reading";
    default:
      return `${OPS[op.op]}${placeOf(op.reading)} ${valueOfReading(op.reading)}`;
  }
}

function textOf(one: Refused, state: DeskState): string {
  if (one.what === "circuit") return one.text;
  if (one.what === "job") return caseOf(state);
  const { op } = one;
  if (op.op === "set")
    return Object.values(op.fields)
      .map((v) => (typeof v === "string" ? v : JSON.stringify(v)))
      .join("\n");
  if (op.op === "store") return op.text;
  if (op.op === "drop") return "";
  const { reading } = op;
  return "typed" in reading && reading.typed ? reading.typed : `${placeOf(reading)} ${valueOfReading(reading)}`;
}
