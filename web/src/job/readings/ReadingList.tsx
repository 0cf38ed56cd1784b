import { deviationOf } from "@hound/core/measure";
import { readQuick } from "@hound/core/notation";
import type { ReadingVerdict } from "@hound/core/rank";
import { meterData, type NumericReading, type Reading } from "@hound/core/record";
import { Pencil, Trash2 } from "lucide-react";
import { type FormEvent, useMemo, useState } from "react";
import { useNotice } from "../../app/Notice.tsx";
import type { DeskReading } from "../../desk/ops.ts";
import { slipQuestion } from "../../words/faults.ts";
import { percent, placeOf, valueOfReading } from "../../words/quantities.ts";
import { standingWords } from "../../words/standing.ts";
import { useDesk } from "../DeskContext.tsx";
import { DeviationBar } from "./DeviationBar.tsx";
import { type Healthy, healthyAt, wordsOfHealthy } from "./healthy.ts";

/** Readings, newest first, each against what a healthy circuit would show. */
export function ReadingList({ verdicts }: { verdicts: readonly ReadingVerdict[] }) {
  const { readings, drawn, meter } = useDesk();
  const expected = useMemo(() => {
    const numeric = readings.flatMap(({ id, reading }) =>
      reading.quantity === "observation" ? [] : [{ id, reading }],
    );
    const found = drawn
      ? healthyAt(
          drawn.network,
          numeric.map((n) => n.reading),
          meter,
        )
      : [];
    return new Map(numeric.flatMap(({ id }, i) => (found[i] ? [[id, found[i]] as const] : [])));
  }, [drawn, readings, meter]);
  if (readings.length === 0)
    return (
      <p className="py-4 text-faint">No readings yet. The line above says where to start, and what to expect there.</p>
    );
  return (
    <ul className="flex flex-col gap-2" aria-label="Readings">
      {readings
        .map((item, index) => ({ item, verdict: verdicts.find((v) => v.index === index) }))
        .reverse()
        .map(({ item, verdict }) => (
          <Row key={item.id} item={item} expected={expected.get(item.id)} verdict={verdict} />
        ))}
    </ul>
  );
}

function Row({ item, expected, verdict }: { item: DeskReading; expected?: Healthy; verdict?: ReadingVerdict }) {
  const { desk, select } = useDesk();
  const notice = useNotice();
  const [editing, setEditing] = useState(false);
  const { reading } = item;
  const place = placeOf(reading);
  const how = standingWords(reading.state ?? {}).join(", ");
  const remove = () => {
    desk.removeReading(item.id);
    notice({ text: `Deleted ${place} ${valueOfReading(reading)}`, action: { label: "Undo", run: () => desk.undo() } });
  };
  const doubtful = verdict !== undefined && verdict.blunderProbability > 0.3;
  return (
    <li className={`rounded-lg border bg-sheet px-3 py-2 ${doubtful ? "border-doubt" : "border-rule"}`}>
      {editing ? (
        <Correction item={item} onDone={() => setEditing(false)} />
      ) : (
        <div className="flex items-center gap-2">
          <button
            type="button"
            className="min-w-0 grow text-left"
            onClick={() => reading.quantity === "voltage" && select({ kind: "node", name: reading.from })}
          >
            <span className="flex flex-wrap items-baseline gap-x-3">
              <span className="text-lg">{place}</span>
              <strong className="text-xl">{valueOfReading(reading)}</strong>
              {how && <span className="text-sm text-doubt">with {how}</span>}
              {item.unsent && <span className="text-sm text-doubt">not saved yet</span>}
            </span>
            {expected && reading.quantity !== "observation" && <Against reading={reading} expected={expected} />}
          </button>
          <button
            type="button"
            aria-label={`Correct ${place}`}
            className="rounded p-2 text-faint hover:text-ink"
            onClick={() => setEditing(true)}
          >
            <Pencil size={20} aria-hidden />
          </button>
          <button
            type="button"
            aria-label={`Delete ${place}`}
            className="rounded p-2 text-faint hover:text-wrong"
            onClick={remove}
          >
            <Trash2 size={20} aria-hidden />
          </button>
        </div>
      )}
      {doubtful && (
        <p className="mt-1 text-doubt">
          <strong>{percent(verdict.blunderProbability)}</strong> mis-taken: {slipQuestion(verdict)} Take it again.
        </p>
      )}
    </li>
  );
}

function Against({ reading, expected }: { reading: NumericReading; expected: Healthy }) {
  const { meter } = useDesk();
  return (
    <span className="flex flex-wrap items-center gap-x-3 text-faint">
      healthy {wordsOfHealthy(expected, reading.quantity)}
      <DeviationBar limits={deviationOf(reading, expected.shown, meterData(meter)).limits} />
    </span>
  );
}

/** A reading is corrected in the notation it was typed in. */
function Correction({ item, onDone }: { item: DeskReading; onDone: () => void }) {
  const { desk, drawn } = useDesk();
  const notice = useNotice();
  const [text, setText] = useState(() => lineOf(item.reading));
  const understood = drawn ? readQuick(text, drawn.circuit) : null;
  const submit = (event: FormEvent) => {
    event.preventDefault();
    if (understood?.kind !== "reading") return;
    const { takenAt, note, state } = item.reading;
    desk.correctReading(item.id, {
      ...understood.reading,
      ...(takenAt ? { takenAt } : {}),
      ...(note ? { note } : {}),
      ...(state ? { state } : {}),
    });
    notice({ text: `Corrected to ${understood.echo}`, action: { label: "Undo", run: () => desk.undo() } });
    onDone();
  };
  return (
    <form onSubmit={submit} className="flex flex-col gap-2">
      <div className="flex gap-2">
        <input
          ref={(field) => field?.focus()}
          aria-label="Corrected reading"
          value={text}
          onChange={(e) => setText(e.target.value)}
          onKeyDown={(e) => e.key === "Escape" && onDone()}
          className="min-w-0 grow rounded border border-rule bg-paper px-2 py-1 text-xl font-bold"
        />
        <button type="submit" className="rounded bg-copper px-3 py-1 font-bold text-sheet">
          Save
        </button>
        <button type="button" className="rounded border border-rule px-3 py-1" onClick={onDone}>
          Cancel
        </button>
      </div>
      <p className={understood?.kind === "mistake" ? "text-wrong" : "text-faint"}>
        {understood?.kind === "reading"
          ? understood.echo
          : understood?.kind === "mistake"
            ? understood.message
            : "write a reading, such as B 7.42"}
      </p>
    </form>
  );
}

/** The line that gives this reading when typed again. */
function lineOf(reading: Reading): string {
  if (reading.typed && /[A-Za-z+0-9_]\s/.test(reading.typed)) return reading.typed;
  switch (reading.quantity) {
    case "voltage":
      return `${reading.from}${reading.to === undefined ? "" : `-${reading.to}`} ${reading.value}V`;
    case "current":
      return `${reading.through} ${reading.value}A`;
    case "resistance":
      return reading.lifted === undefined
        ? `${reading.from}-${reading.to ?? "0"} ${reading.value}R`
        : `${reading.lifted} lifted ${reading.value}R`;
    case "observation":
      return `${reading.part} ${reading.seen}`;
    default:
      return reading satisfies never;
  }
}
