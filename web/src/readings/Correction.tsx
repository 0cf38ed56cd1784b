import { readQuick } from "@hound/core/notation";
import type { Reading } from "@hound/core/record";
import { writeQuantity } from "@hound/core/units";
import { type FormEvent, useEffect, useId, useRef } from "react";
import { useNotice } from "../app/Notice.tsx";
import { useDesk } from "../desk/DeskContext.tsx";
import type { DeskReading } from "../desk/ops.ts";
import { useKept } from "../desk/useKept.ts";
import { inWords } from "../words/print.ts";

/** A reading is corrected in the notation it was typed in; its note beside it. */
export function Correction({ item, onDone }: { item: DeskReading; onDone: () => void }) {
  const { desk, drawn } = useDesk();
  const notice = useNotice();
  const says = useId();
  const field = useRef<HTMLInputElement>(null);
  useEffect(() => field.current?.focus(), []);
  const typed = useKept(`correction ${item.id}`, {
    text: inWords(lineOf(item.reading)),
    note: item.reading.note ?? "",
  });
  const { text, note } = typed.value;
  const leave = () => {
    typed.forget();
    onDone();
  };
  const understood = drawn ? readQuick(text, drawn.circuit) : null;
  const submit = (event: FormEvent) => {
    event.preventDefault();
    if (understood?.kind !== "reading") return;
    const { takenAt, state, who, meter } = item.reading;
    const { note: typedNote, ...reading } = understood.reading;
    // The range belongs to what was measured; said again in the line, it is the one that holds.
    const range = item.reading.quantity === reading.quantity ? item.reading.range : undefined;
    const said = note.trim() || typedNote || "";
    desk.correctReading(item.id, {
      ...(meter ? { meter } : {}),
      ...(range ? { range } : {}),
      ...(who ? { who } : {}),
      ...reading,
      ...(takenAt ? { takenAt } : {}),
      ...(said ? { note: said } : {}),
      ...(state ? { state } : {}),
    } as Reading);
    notice({ text: `Corrected to ${understood.echo}`, action: { label: "Undo", run: () => desk.undo() } });
    leave();
  };
  return (
    <form
      onSubmit={submit}
      onKeyDown={(e) => e.key === "Escape" && !e.nativeEvent.isComposing && leave()}
      className="flex flex-col gap-2"
    >
      <div className="flex flex-wrap gap-2">
        <input
          ref={field}
          aria-label="Corrected reading"
          aria-invalid={understood?.kind === "mistake"}
          aria-describedby={says}
          value={text}
          onChange={(e) => typed.set({ text: e.target.value, note })}
          className="min-w-0 grow rounded border border-field bg-paper px-2 py-1 text-xl font-bold"
        />
        <button type="submit" className="rounded bg-copper px-3 py-1 font-bold text-sheet">
          Save
        </button>
        <button type="button" className="rounded border border-field px-3 py-1" onClick={leave}>
          Cancel
        </button>
      </div>
      <p id={says} className={understood?.kind === "mistake" ? "text-wrong" : "text-faint"}>
        {understood?.kind === "reading"
          ? inWords(understood.echo)
          : understood?.kind === "mistake"
            ? inWords(understood.message)
            : "write a reading, such as B 7.42"}
      </p>
      <textarea
        aria-label="Note"
        placeholder="Note: S2 off, hot …"
        value={note}
        rows={1}
        dir="auto"
        maxLength={2000}
        onChange={(e) => typed.set({ text, note: e.target.value })}
        className="rounded border border-field bg-paper px-2 py-1"
      />
    </form>
  );
}

/** The line that gives this reading when typed again. */
function lineOf(reading: Reading): string {
  const { typed } = reading;
  if (typed && /[A-Za-z+0-9_]\s/.test(typed) && !/^[-+]?[\d.,]/.test(typed)) return typed.replace(/(^|\s)#.*$/s, "");
  switch (reading.quantity) {
    case "voltage":
      return `${reading.from}${reading.to === undefined ? "" : `-${reading.to}`} ${writeQuantity(reading.value, "V")}`;
    case "current":
      return `${reading.through} ${writeQuantity(reading.value, "A")}`;
    case "resistance": {
      const ohms = `${writeQuantity(reading.value)}ohm`;
      return reading.lifted === undefined
        ? `${reading.from}-${reading.to ?? "0"} ${ohms}`
        : `${reading.lifted} lifted ${ohms}`;
    }
    case "observation":
      return `${reading.part} ${reading.seen}`;
    default:
      return reading satisfies never;
  }
}
