import type { Advice } from "@hound/core/coach";
import { type MeterData, type Quantity, UNIT_OF } from "@hound/core/record";
import { adviceLine, dialWords } from "../words/coach.ts";
import { print } from "../words/print.ts";

const COLUMNS: readonly { readonly quantity: Quantity; readonly letter: string }[] = [
  { quantity: "voltage", letter: "V" },
  { quantity: "current", letter: "A" },
  { quantity: "resistance", letter: "Ω" },
];

/** The face of the meter in hand: a ladder of ranges for each function, and its sockets with the leads in them. */
export function MeterFace({ advice }: { advice: Advice }) {
  const { meter, quantity, range, red, black } = advice;
  return (
    <div
      role="img"
      aria-label={`${meter.name || "Meter"}: ${adviceLine(advice)}`}
      className="w-44 shrink-0 rounded-2xl border-2 border-field bg-band p-2 text-sm"
    >
      <p className="mb-1 truncate text-center text-faint">{meter.name || "meter"}</p>
      {meter.isAnalogue && <Needle />}
      <div className="grid grid-cols-3 gap-1">
        {COLUMNS.map(({ quantity: column, letter }) => (
          <div key={column} className="flex flex-col-reverse items-stretch gap-0.5">
            <strong className="text-center">{letter}</strong>
            {positionsOf(meter, column).map((words) => {
              const isSet = column === quantity && words === dialWords(meter, quantity, range);
              return (
                <span
                  key={words}
                  className={`rounded px-0.5 text-center text-xs whitespace-nowrap ${isSet ? "bg-copper font-bold text-sheet" : "bg-sheet text-faint"}`}
                >
                  {words}
                </span>
              );
            })}
          </div>
        ))}
      </div>
      <div className="mt-2 flex flex-wrap justify-around gap-1 border-t border-rule pt-2">
        {socketsOf(meter).map((socket) => {
          const lead = socket === red.socket ? "red" : socket === black.socket ? "black" : null;
          return (
            <span key={socket} className="flex flex-col items-center text-xs">
              <span className={`size-6 rounded-full border-2 ${lead === null ? "border-field" : `lead-${lead}`}`} />
              {socket}
              <span className="h-4 text-faint">{lead}</span>
            </span>
          );
        })}
      </div>
    </div>
  );
}

/** Positions of the dial for a function, the lowest first. */
function positionsOf(meter: MeterData, quantity: Quantity): string[] {
  if (meter.dial === "functions") return [dialWords(meter, quantity, meter.ranges[quantity][0])];
  return meter.ranges[quantity].map((r) => print(r.span, UNIT_OF[quantity]));
}

function socketsOf(meter: MeterData): string[] {
  const all = COLUMNS.flatMap(({ quantity }) => meter.ranges[quantity].map((r) => r.socket));
  return [...new Set([meter.common, ...all])];
}

function Needle() {
  return (
    <svg viewBox="0 0 120 34" className="mb-1 w-full" aria-hidden="true">
      <path d="M10 30 A 60 60 0 0 1 110 30" fill="none" className="stroke-field" strokeWidth="2" />
      <path d="M60 34 L78 8" className="stroke-copper" strokeWidth="2" />
    </svg>
  );
}
