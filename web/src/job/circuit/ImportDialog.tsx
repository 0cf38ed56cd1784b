import { differences, FORMATS, readTrail, recognise } from "@hound/core/notation";
import type { Reading } from "@hound/core/record";
import { useMemo } from "react";
import { DialogClose, DialogFrame } from "../../app/DialogFrame.tsx";
import { useNotice } from "../../app/Notice.tsx";
import { placeOf, valueOfReading } from "../../words/quantities.ts";
import { useDesk } from "../DeskContext.tsx";
import { DifferenceList } from "./DifferenceList.tsx";

interface ImportDialogProps {
  readonly text: string;
  readonly onText: (text: string) => void;
  readonly onClose: () => void;
}

/** Takes over a circuit or readings: what would change is shown before anything does. */
export function ImportDialog({ text, onText, onClose }: ImportDialogProps) {
  const { desk, state, trailDocument } = useDesk();
  const notice = useNotice();
  const found = useMemo(() => (text.trim() === "" ? null : recognise(text)), [text]);
  const coming = found?.trail ? readTrail(found.trail).circuit : null;
  const now = state.trail.circuit;
  const list = coming ? differences(now ?? { ...coming, parts: [] }, coming) : [];
  const isSound = found !== null && !found.mistakes.some((m) => m.severity === "mistake");
  const strangers = found ? missingIn(found.readings, coming ?? now) : [];
  const takeOver = () => {
    if (!found || !isSound) return;
    if (found.trail !== null) desk.setText(found.trail);
    for (const reading of found.readings) desk.addReading(reading);
    const parts = [
      ...(found.trail === null ? [] : ["the circuit"]),
      ...(found.readings.length === 0 ? [] : [`${found.readings.length} readings`]),
    ];
    const undo = found.trail === null ? {} : { action: { label: "Undo the circuit", run: () => trailDocument.undo() } };
    notice({ text: `Took over ${parts.join(" and ")}`, ...undo });
    onClose();
  };
  return (
    <DialogFrame open wide onOpenChange={(open) => !open && onClose()} title="Import">
      <p className="text-faint">
        A trail, a parts table, a readings table (CSV with , or ;) or a case file: paste it, drop it, or choose a file.
      </p>
      <input
        type="file"
        aria-label="File to import"
        accept=".trail,.txt,.csv,.json"
        onChange={async (e) => {
          const [file] = e.target.files ?? [];
          if (file) onText(await file.text());
        }}
      />
      <textarea
        aria-label="Text to import"
        value={text}
        spellCheck={false}
        onChange={(e) => onText(e.target.value)}
        className="min-h-32 shrink-0 rounded-lg border border-rule bg-paper p-3 font-mono"
      />
      {found && (
        <div className="flex flex-col gap-2">
          <p>
            This is a <b>{FORMATS[found.format]}</b>
            {coming && `, ${coming.parts.length} parts`}
            {found.readings.length > 0 && `, ${found.readings.length} readings`}.
          </p>
          {found.mistakes.length > 0 && (
            <ul className="rounded-lg border border-rule">
              {found.mistakes.map((m) => (
                <li key={`${m.from} ${m.message}`} className="px-3 py-1.5">
                  <b className={m.severity === "mistake" ? "text-wrong" : "text-doubt"}>
                    Line {m.line}, column {m.column}
                  </b>{" "}
                  {m.message}
                </li>
              ))}
            </ul>
          )}
          {strangers.length > 0 && (
            <p className="font-bold text-doubt">
              Not in the circuit: {strangers.join(", ")}. Such readings have no say.
            </p>
          )}
          {coming && (
            <section aria-label="What would change">
              <h2 className="font-bold">
                {list.length === 0 ? "The circuit would stay as it is." : "In the circuit:"}
              </h2>
              <DifferenceList list={list} />
            </section>
          )}
          {found.readings.length > 0 && (
            <p className="text-faint">
              {found.readings
                .slice(0, 6)
                .map((r) => `${placeOf(r)} ${valueOfReading(r)}`)
                .join(" · ")}
              {found.readings.length > 6 && ` · and ${found.readings.length - 6} more`}
            </p>
          )}
        </div>
      )}
      <div className="flex justify-end gap-3">
        <DialogClose>Leave all as it is</DialogClose>
        <button
          type="button"
          disabled={!isSound}
          onClick={takeOver}
          className="rounded-lg bg-copper px-5 py-2 font-bold text-sheet disabled:opacity-40"
        >
          {found?.format === "readings" ? "Add the readings" : "Replace the circuit"}
        </button>
      </div>
    </DialogFrame>
  );
}

/** Nodes and parts that readings speak of and a circuit does not have. */
function missingIn(readings: readonly Reading[], circuit: ReturnType<typeof readTrail>["circuit"]): string[] {
  const known = new Set(circuit?.parts.flatMap((p) => [p.designator, p.from, p.to]) ?? []);
  const named = readings.flatMap((r): (string | undefined)[] => {
    if (r.quantity === "current") return [r.through];
    if (r.quantity === "observation") return [r.part];
    return r.quantity === "resistance" && r.lifted !== undefined ? [r.lifted] : [r.from, r.to];
  });
  const missing = named.filter((n): n is string => n !== undefined && !known.has(n) && !known.has(n.split(".")[0]));
  return [...new Set(missing)];
}
