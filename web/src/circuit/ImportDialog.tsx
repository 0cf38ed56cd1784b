import { differences, FORMATS, type Mistake, type Recognised, readTrail, recognise } from "@hound/core/notation";
import type { Reading } from "@hound/core/record";
import { useMemo, useState } from "react";
import { useNavigate } from "react-router";
import { DialogClose, DialogFrame } from "../app/DialogFrame.tsx";
import { useNotice } from "../app/Notice.tsx";
import { newId } from "../app/newId.ts";
import { useDesk } from "../desk/DeskContext.tsx";
import { useOutbox, useRun } from "../desk/OutboxContext.tsx";
import { count } from "../words/print.ts";
import { placeOf, valueOfReading } from "../words/quantities.ts";
import { type Mode, modesFor, type Plan, planFor, troubleWithPlan } from "./bringing.ts";
import { DifferenceList } from "./DifferenceList.tsx";
import { saveTemplate } from "./template.ts";

interface ImportDialogProps {
  readonly text: string;
  /** Why a file cannot be read. */
  readonly why: string | null;
  readonly onText: (text: string) => void;
  readonly onFile: (file: File) => void;
  readonly onClose: () => void;
}

/** Takes over a circuit or readings: what would change is shown before anything does, and one undo takes all of it back. */
export function ImportDialog({ text, why, onText, onFile, onClose }: ImportDialogProps) {
  const { desk, state, readings, trailDocument } = useDesk();
  const { desks } = useOutbox();
  const run = useRun();
  const notice = useNotice();
  const navigate = useNavigate();
  const found = useMemo(() => (text.trim() === "" ? null : recognise(text, state.trail)), [text, state.trail]);
  const now = state.trail.circuit;
  const coming = useMemo(() => (found?.trail ? readTrail(found.trail).circuit : null), [found]);
  const isSound = found !== null && !found.mistakes.some((m) => m.severity === "mistake");
  const modes = found && isSound ? modesFor(found, now !== null, readings) : [];
  const [wanted, setWanted] = useState<Mode | null>(null);
  const mode = wanted !== null && modes.includes(wanted) ? wanted : (modes[0] ?? null);
  const plan = found && mode ? planFor(mode, found, coming, now, readings) : null;
  const trouble = plan && troubleWithPlan(plan);
  const takeOver = async () => {
    if (!found || !plan || trouble) return;
    if (plan.mode === "new") {
      const id = await openAsNew(found);
      onClose();
      navigate(`/jobs/${id}/circuit`);
      return;
    }
    const remove = plan.leaves.map((r) => r.id);
    if (plan.trail !== null) desk.catchUp();
    const takeBack = desk.bringIn({ text: plan.trail, add: plan.add, remove });
    const isText = plan.trail !== null && plan.trail !== state.text;
    notice({ text: doneWords(plan), action: { label: "Undo", run: isText ? () => trailDocument.undo() : takeBack } });
    onClose();
  };
  const openAsNew = async ({ format, trail, job }: Recognised): Promise<string> => {
    const id = newId();
    if (format === "case") {
      await run("importCase", { id, text }, `Import of ${job?.title || "a case"}`).catch((error) =>
        notice({ text: `Not imported: ${error.message}` }),
      );
      return id;
    }
    return desks.create({ title: coming?.title || "Imported circuit", complaint: "", trail: trail ?? "" });
  };
  return (
    <DialogFrame open wide onOpenChange={(open) => !open && onClose()} title="Import">
      <p className="text-faint">
        A trail, a parts table or list, a readings table or a case file: paste it, drop it, or choose a file. A parts
        table needs a row with the words Part, From, To, Value, Tol in any order.{" "}
        <button type="button" className="underline" onClick={saveTemplate}>
          Template to fill in
        </button>
      </p>
      <input
        type="file"
        aria-label="File to import"
        accept=".trail,.txt,.csv,.tsv,.json"
        onChange={(e) => {
          const [file] = e.target.files ?? [];
          if (file) onFile(file);
        }}
      />
      {why !== null && (
        <p role="alert" className="font-bold text-wrong">
          {why}. Nothing was changed.
        </p>
      )}
      <textarea
        aria-label="Text to import"
        value={text}
        spellCheck={false}
        aria-invalid={found !== null && !isSound}
        aria-describedby="import-says"
        onChange={(e) => onText(e.target.value)}
        className="min-h-32 shrink-0 rounded-lg border border-field bg-paper p-3 font-mono"
      />
      <div id="import-says" className="flex flex-col gap-2">
        {found && (
          <p>
            This is a <b>{FORMATS[found.format]}</b>
            {coming && `, ${count(coming.parts.length, "part")}`}
            {found.readings.length > 0 && `, ${count(found.readings.length, "reading")}`}.
          </p>
        )}
        {found && found.mistakes.length > 0 && <Said found={found} />}
      </div>
      {found && modes.length > 0 && (
        <fieldset className="flex flex-col gap-1">
          <legend className="font-bold">What to take over</legend>
          {modes.map((m) => (
            <label key={m} className="flex items-center gap-2.5 py-0.5">
              <input
                type="radio"
                name="take-over"
                checked={m === mode}
                onChange={() => setWanted(m)}
                className="size-6 shrink-0 accent-copper"
              />
              {labelOf(m, readings.length > 0)}
            </label>
          ))}
        </fieldset>
      )}
      {plan && (
        <section aria-label="What would change" className="flex flex-col gap-2">
          {plan.trail !== null && coming && plan.mode !== "new" && (
            <Changes list={differences(now ?? { ...coming, parts: [] }, coming)} />
          )}
          <Readings words="Comes" readings={plan.add} />
          <Readings words="Goes" readings={plan.leaves.map((r) => r.reading)} />
          {plan.aside.length > 0 && (
            <p className="font-bold text-doubt">
              Set aside, for they fit no node or part: {plan.aside.map(wordsOf).join(" · ")}.
            </p>
          )}
          {plan.mode !== "new" && plan.stays > 0 && (
            <p className="text-faint">{count(plan.stays, "reading")} of this job stay as they are.</p>
          )}
        </section>
      )}
      {trouble && (
        <p role="alert" className="font-bold text-wrong">
          {trouble}
        </p>
      )}
      <div className="flex justify-end gap-3">
        <DialogClose>Leave all as it is</DialogClose>
        <button
          type="button"
          disabled={!plan || trouble !== null}
          onClick={takeOver}
          className="rounded-lg bg-copper px-5 py-2 font-bold text-sheet disabled:opacity-40"
        >
          {plan?.mode === "new" ? "Open the new job" : "Take over"}
        </button>
      </div>
    </DialogFrame>
  );
}

function labelOf(mode: Mode, hasReadings: boolean): string {
  switch (mode) {
    case "new":
      return "Open as a new job; this one stays as it is";
    case "both":
      return hasReadings ? "Replace circuit and readings" : "Take the circuit and its readings";
    case "circuit":
      return "Circuit only";
    case "readings":
      return "Readings only";
    default:
      return mode satisfies never;
  }
}

function doneWords({ trail, add, leaves, aside }: Plan): string {
  const done = [
    ...(trail === null ? [] : ["the circuit"]),
    ...(add.length === 0 ? [] : [count(add.length, "reading")]),
  ];
  const left = leaves.length > 0 ? `; ${count(leaves.length, "reading")} put away` : "";
  const set = aside.length > 0 ? `; set aside: ${aside.map(wordsOf).join(", ")}` : "";
  return `Took over ${done.join(" and ") || "nothing"}${left}${set}`;
}

function wordsOf(reading: Reading): string {
  return `${placeOf(reading)} ${valueOfReading(reading)}`;
}

/** Readings named at once. */
const NAMED = 6;

function Readings({ words, readings }: { words: string; readings: readonly Reading[] }) {
  if (readings.length === 0) return null;
  const more = readings.length - NAMED;
  return (
    <p>
      <b>{words}</b>{" "}
      <span className="text-faint">
        {readings.slice(0, NAMED).map(wordsOf).join(" · ")}
        {more > 0 && ` · and ${more} more`}
      </span>
    </p>
  );
}

function Changes({ list }: { list: ReturnType<typeof differences> }) {
  return (
    <>
      <h3 className="font-bold">{list.length === 0 ? "The circuit would stay as it is." : "In the circuit:"}</h3>
      <DifferenceList list={list} />
    </>
  );
}

/** What is wrong or doubtful, with its place: of a table in rows and columns. */
function Said({ found }: { found: Recognised }) {
  const isTable = found.format === "parts" || found.format === "values" || found.format === "readings";
  const place = (m: Mistake) => `${isTable ? "Row" : "Line"} ${m.line}, column ${m.column}`;
  return (
    <ul
      tabIndex={0}
      aria-label="What is wrong or doubtful"
      className="max-h-48 shrink-0 overflow-auto rounded-lg border border-rule"
    >
      {found.mistakes.map((m) => (
        <li key={`${m.line} ${m.column} ${m.from} ${m.message}`} className="px-3 py-1.5">
          <b className={m.severity === "mistake" ? "text-wrong" : "text-doubt"}>{place(m)}</b> {m.message}
        </li>
      ))}
    </ul>
  );
}
