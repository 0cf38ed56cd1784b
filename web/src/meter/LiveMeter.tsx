import { UNIT_OF } from "@hound/core/record";
import { USUAL_HOLD } from "@hound/core/stream";
import { Radio } from "lucide-react";
import { useState } from "react";
import { printFixed } from "../words/print.ts";
import { shown } from "../words/quantities.ts";
import { useLive } from "./feed.ts";
import { BAUD_RATES } from "./serial.ts";
import type { Streaming } from "./useStreaming.ts";

const seconds = (millis: number) => `${printFixed(millis / 1000, 1)}\u00a0s`;
/** When a value is held, in words. */
export const HOLD_WORDS = () =>
  `Held when steady within ${USUAL_HOLD.counts} counts for ${seconds(USUAL_HOLD.millis)} after a change; next to nothing and OL after ${seconds(USUAL_HOLD.millisOfNothing)}.`;

/** A meter that sends its readings: what it shows just now, how long until it is held; or the way to listen to one. */
export function LiveMeter({ streaming, isLarge = false }: { streaming: Streaming; isLarge?: boolean }) {
  const { source, name, note, why, isOpen, isOff, hasServer, hasSerial, listen } = streaming;
  const { shows, steady } = useLive(streaming.feed);
  if (source === "none") {
    if (!hasServer && !hasSerial) return null;
    return (
      <div className="flex flex-wrap items-center gap-2">
        {hasServer && (
          <button
            type="button"
            className="flex items-center gap-2 rounded-lg border border-rule bg-sheet px-3 py-1.5 hover:bg-band"
            onClick={() => listen("server")}
          >
            <Radio size={18} aria-hidden /> Listen to the meter
          </button>
        )}
        {hasSerial && <SerialButton streaming={streaming} />}
        {why && source === "none" && <span className="text-doubt">{why}</span>}
      </div>
    );
  }
  const unit = shows && UNIT_OF[shows.quantity as keyof typeof UNIT_OF];
  const text = shows && unit ? (shows.isOver ? "OL" : shown(shows.value ?? 0, unit)) : "–";
  return (
    <section aria-label="Meter that streams" className="rounded-xl border-2 border-copper bg-sheet px-4 py-2">
      <div className="flex flex-wrap items-center gap-x-4 gap-y-1">
        <Radio size={20} aria-hidden className="text-copper" />
        <strong className={`tabular-nums ${isLarge ? "text-6xl" : "text-3xl"}`}>{text}</strong>
        <span aria-hidden className="h-2 w-24 grow overflow-hidden rounded-full bg-rule">
          <span className="block h-full bg-copper" style={{ width: `${Math.round(steady * 100)}%` }} />
        </span>
        <button
          type="button"
          className="rounded-lg border border-rule px-3 py-1 hover:bg-band"
          onClick={() => listen("none")}
        >
          Stop listening
        </button>
      </div>
      <p className="text-faint">
        {isOpen
          ? `${name}. ${HOLD_WORDS()}`
          : `No meter: ${why || (isOff ? "switched off" : "connecting")}. ${isOff ? "Connect it again in Workshop." : "Trying again."}`}
      </p>
      {note !== "" && <p className="text-doubt">{note}</p>}
    </section>
  );
}

function SerialButton({ streaming: { listenSerial } }: { streaming: Streaming }) {
  const [baud, setBaud] = useState<number>(BAUD_RATES[0]);
  return (
    <span className="flex items-center gap-1">
      <button
        type="button"
        className="rounded-lg border border-rule bg-sheet px-3 py-1.5 hover:bg-band"
        onClick={() => listenSerial(baud)}
      >
        … at a serial port
      </button>
      <select
        aria-label="Baud"
        value={baud}
        onChange={(e) => setBaud(Number(e.target.value))}
        className="rounded-lg border border-rule bg-sheet px-1.5 py-1.5"
      >
        {BAUD_RATES.map((rate) => (
          <option key={rate}>{rate}</option>
        ))}
      </select>
    </span>
  );
}
