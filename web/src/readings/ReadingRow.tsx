import { DESIGNATOR_FORM } from "@hound/core/circuit";
import { deviationOf } from "@hound/core/measure";
import type { ReadingVerdict } from "@hound/core/rank";
import { meterData, type NumericReading, type Reading } from "@hound/core/record";
import { Pencil, Trash2 } from "lucide-react";
import { useState } from "react";
import { DeviationBar } from "../app/DeviationBar.tsx";
import { useNotice } from "../app/Notice.tsx";
import { useDesk } from "../desk/DeskContext.tsx";
import type { DeskReading } from "../desk/ops.ts";
import { type Healthy, healthyInBrief, wordsOfHealthy } from "../session/healthy.ts";
import { slipQuestion } from "../words/faults.ts";
import { percent, placeOf, valueOfReading } from "../words/quantities.ts";
import { standingWords } from "../words/standing.ts";
import { clock, dayAndTime } from "../words/times.ts";
import { Correction } from "./Correction.tsx";

interface RowProps {
  readonly item: DeskReading;
  /** From 1: messages speak of readings by it. */
  readonly number: number;
  /** Tells it from others at the same place: “second B”; empty where there is none. */
  readonly which: string;
  readonly expected?: Healthy;
  readonly verdict?: ReadingVerdict;
  /** In one line: what is read while measuring. */
  readonly isBrief: boolean;
}

/** More probable than this to be mis-taken, a reading is marked. */
export const DOUBTFUL = 0.3;

/** Of a reading that was asked about when it was entered. */
const DOUBTED = "unlikely, said twice";

/** One reading with its number, time and note, against what a healthy circuit would show. */
export function ReadingRow({ item, number, which, expected, verdict, isBrief }: RowProps) {
  const { desk, select } = useDesk();
  const notice = useNotice();
  const [editing, setEditing] = useState(false);
  const { reading } = item;
  const place = placeOf(reading);
  const how = standingWords(reading.state ?? {}).join(", ");
  const part = partOf(reading);
  const name = `${which === "" ? "" : `${which} `}${place}`;
  const remove = () => {
    desk.removeReading(item.id);
    notice({ text: `Deleted ${place} ${valueOfReading(reading)}`, action: { label: "Undo", run: () => desk.undo() } });
  };
  const doubtful = verdict !== undefined && verdict.blunderProbability > DOUBTFUL;
  const buttons = (
    <>
      <button
        type="button"
        aria-label={`Correct ${name}`}
        className="shrink-0 rounded p-2 text-faint hover:text-ink"
        onClick={() => setEditing(true)}
      >
        <Pencil size={20} aria-hidden />
      </button>
      <button
        type="button"
        aria-label={`Delete ${name}`}
        className="shrink-0 rounded p-2 text-faint hover:text-wrong"
        onClick={remove}
      >
        <Trash2 size={20} aria-hidden />
      </button>
    </>
  );
  const show = () => reading.quantity === "voltage" && select({ kind: "node", name: reading.from });
  if (isBrief && !editing)
    return (
      <li className="flex h-10 items-center border-t border-rule">
        <button type="button" className="flex min-w-0 grow items-center gap-2 text-left text-bench" onClick={show}>
          <span className="w-6 shrink-0 text-right text-faint">
            <span className="sr-only">Reading </span>
            {number}
          </span>
          <span className="max-w-2/5 shrink-0 truncate" title={place}>
            {place}
          </span>
          <strong className="shrink-0">{valueOfReading(reading)}</strong>
          {item.unsent && <span className="shrink-0 text-base text-doubt">not saved yet</span>}
          {reading.doubted && <span className="shrink-0 text-base text-doubt">{DOUBTED}</span>}
          {reading.who && <span className="max-w-16 shrink-0 truncate text-base text-faint">{reading.who}</span>}
          {doubtful ? (
            <strong className="min-w-0 truncate text-base text-doubt" title={slipQuestion(verdict)}>
              {percent(verdict.blunderProbability)} mis-taken: {slipQuestion(verdict)}
            </strong>
          ) : how || reading.note ? (
            <span dir="auto" className="min-w-0 truncate text-base text-doubt" title={[how, reading.note].join(" ")}>
              {how && `with ${how} `}
              {reading.note}
            </span>
          ) : (
            expected && reading.quantity !== "observation" && <Against reading={reading} expected={expected} isBrief />
          )}
        </button>
        {buttons}
      </li>
    );
  return (
    <li className={`rounded-lg border bg-sheet px-3 py-2 ${doubtful ? "border-doubt" : "border-rule"}`}>
      {editing ? (
        <Correction item={item} onDone={() => setEditing(false)} />
      ) : (
        <div className="flex items-center gap-2">
          <button type="button" className="min-w-0 grow text-left" onClick={show}>
            <span className="flex flex-wrap items-baseline gap-x-3">
              <span className="w-6 shrink-0 text-right text-sm text-faint">
                <span className="sr-only">Reading </span>
                {number}
              </span>
              <span className="text-lg">
                {place}
                {part && <span className="text-faint"> ({part})</span>}
              </span>
              <strong className="text-xl">{valueOfReading(reading)}</strong>
              {how && <span className="text-sm text-doubt">with {how}</span>}
              {item.unsent && <span className="text-sm text-doubt">not saved yet</span>}
              {reading.doubted && <span className="text-sm text-doubt">{DOUBTED}</span>}
              {reading.who && <span className="text-sm text-faint">{reading.who}</span>}
              {reading.takenAt && <Taken at={reading.takenAt} />}
            </span>
            {expected && reading.quantity !== "observation" && <Against reading={reading} expected={expected} />}
            {reading.note && (
              <span dir="auto" className="block pl-9 whitespace-pre-line break-words">
                {reading.note}
              </span>
            )}
          </button>
          {buttons}
        </div>
      )}
      {doubtful && (
        <p className="mt-1 text-doubt">
          <strong>{percent(verdict.blunderProbability)}</strong> mis-taken: {slipQuestion(verdict)}{" "}
          {verdict.slip === "look" ? "Look again." : "Take it again."}
        </p>
      )}
    </li>
  );
}

function Taken({ at }: { at: string }) {
  const time = new Date(at);
  if (Number.isNaN(time.getTime())) return null;
  return (
    <time dateTime={at} title={dayAndTime(time)} className="ml-auto text-sm text-faint">
      {clock(time)}
    </time>
  );
}

/** The part a voltage was taken across, where it was typed so. */
function partOf(reading: Reading): string | null {
  if (reading.quantity !== "voltage" && reading.quantity !== "resistance") return null;
  if (reading.to === undefined) return null;
  const [, name] = /^(\S+)\s/.exec(reading.typed ?? "") ?? [];
  const isPair = name?.toLowerCase() === `${reading.from}-${reading.to}`.toLowerCase();
  return name !== undefined && !isPair && name !== reading.from && DESIGNATOR_FORM.test(name) ? name : null;
}

interface AgainstProps {
  readonly reading: NumericReading;
  readonly expected: Healthy;
  readonly isBrief?: boolean;
}

function Against({ reading, expected, isBrief = false }: AgainstProps) {
  const { meter } = useDesk();
  return (
    <span
      className={
        isBrief
          ? "flex min-w-0 grow items-center gap-2 text-faint"
          : "flex flex-wrap items-center gap-x-3 pl-9 text-faint"
      }
    >
      <span className="min-w-0 grow truncate">
        {isBrief ? healthyInBrief(expected, reading.quantity) : `healthy ${wordsOfHealthy(expected, reading.quantity)}`}
      </span>
      <DeviationBar limits={deviationOf(reading, expected.shown, meterData(meter)).limits} />
    </span>
  );
}
