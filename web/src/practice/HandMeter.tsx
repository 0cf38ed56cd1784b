import { type Act, type Costs, dialOf, type Hunt } from "@hound/core/practice";
import { type MeterData, type Quantity, UNIT_OF } from "@hound/core/record";
import { clockWords, displayWords } from "../words/practice.ts";
import { print } from "../words/print.ts";

const COLUMNS: readonly { readonly quantity: Quantity; readonly letter: string; readonly name: string }[] = [
  { quantity: "voltage", letter: "V", name: "volts" },
  { quantity: "current", letter: "A", name: "amperes" },
  { quantity: "resistance", letter: "Ω", name: "ohms" },
];

interface HandMeterProps {
  readonly hunt: Hunt;
  readonly meter: MeterData;
  readonly act: (act: Act) => void;
}

/** The meter in hand: its display, a ladder of ranges for each function, the diode test, its sockets with the red lead in one of them. */
export function HandMeter({ hunt, meter, act }: HandMeterProps) {
  const { now, display, costs } = hunt;
  return (
    <section aria-label="Meter" className="shrink-0 rounded-2xl border-2 border-field bg-band px-3 py-2">
      <output
        aria-label="Display"
        className="block rounded-lg border border-rule bg-sheet px-3 text-right text-5xl leading-14 font-bold whitespace-nowrap tabular-nums"
      >
        {displayWords(display)}
      </output>
      <div className="mt-2 grid grid-cols-3 gap-2">
        {COLUMNS.map(({ quantity, letter, name }) => (
          <fieldset key={quantity} className="min-w-0">
            <legend className="w-full text-center font-bold">
              {letter}
              <span className="sr-only"> {name}</span>
            </legend>
            <div className="flex flex-col-reverse gap-1">
              {dialOf(meter, quantity).map((span) => {
                const isSet = now.dial.quantity === quantity && now.dial.span === span;
                return (
                  <button
                    key={String(span)}
                    type="button"
                    aria-pressed={isSet}
                    className={`min-h-7 rounded px-1 text-center whitespace-nowrap ${isSet ? "bg-copper font-bold text-sheet" : "bg-sheet hover:bg-copper-wash"}`}
                    onClick={() => act({ act: "dial", quantity, span })}
                  >
                    {span === null ? name : print(span, UNIT_OF[quantity])}
                  </button>
                );
              })}
            </div>
          </fieldset>
        ))}
      </div>
      <button
        type="button"
        aria-pressed={now.dial.quantity === "diode"}
        className={`mt-2 min-h-7 w-full rounded px-1 text-center ${now.dial.quantity === "diode" ? "bg-copper font-bold text-sheet" : "bg-sheet hover:bg-copper-wash"}`}
        onClick={() => act({ act: "dial", quantity: "diode", span: null })}
      >
        Diode test
      </button>
      <fieldset className="mt-2 border-t border-rule pt-2">
        <legend className="sr-only">Socket of the red lead</legend>
        <div className="flex flex-wrap justify-around gap-2">
          <span className="flex items-center gap-1.5">
            <span aria-hidden className="lead-black size-6 rounded-full border-2" /> {meter.common}
          </span>
          {socketsOf(meter).map((socket) => {
            const isIn = now.socket === socket;
            return (
              <button
                key={socket}
                type="button"
                aria-pressed={isIn}
                aria-label={`Red into ${socket}`}
                className="flex min-h-9 items-center gap-1.5 rounded-lg px-2 hover:bg-sheet"
                onClick={() => act({ act: "plug", socket })}
              >
                <span aria-hidden className={`size-6 rounded-full border-2 ${isIn ? "lead-red" : "border-field"}`} />
                {socket}
              </button>
            );
          })}
        </div>
      </fieldset>
      <Besides hunt={hunt} meter={meter} act={act} costs={costs} />
    </section>
  );
}

const SMALL =
  "rounded-lg border border-rule bg-sheet px-2 py-1 hover:bg-copper-wash aria-pressed:border-copper aria-pressed:font-bold";

/** What else one does with a meter: null its leads, hold its tips, replace its fuse. */
function Besides({ hunt: { now }, meter, act, costs }: HandMeterProps & { costs: Costs }) {
  const fused = [...new Set(meter.ranges.current.filter((r) => r.fuse !== undefined).map((r) => r.socket))];
  return (
    <details className="mt-1 border-t border-rule pt-1">
      <summary className="text-faint">{fewWords(now)}</summary>
      <div className="mt-1 flex flex-wrap gap-2">
        <button type="button" aria-pressed={now.nulled} className={SMALL} onClick={() => act({ act: "null" })}>
          {now.nulled ? "Leads nulled" : `Null the leads, ${clockWords(costs.null)}`}
        </button>
        <button
          type="button"
          aria-pressed={now.fingers}
          className={SMALL}
          onClick={() => act({ act: "fingers", on: !now.fingers })}
        >
          {now.fingers ? "Fingers on the tips" : "Hold the tips by hand"}
        </button>
        {fused.map((socket) => (
          <button key={socket} type="button" className={SMALL} onClick={() => act({ act: "fuse", socket })}>
            New fuse for {socket}, {clockWords(costs.fuse)}
          </button>
        ))}
      </div>
    </details>
  );
}

/** What of a meter's lesser things is not as usual. */
function fewWords({ nulled, fingers }: Hunt["now"]): string {
  const said = [nulled ? "leads nulled" : "", fingers ? "fingers on the tips" : ""].filter(Boolean);
  return said.length > 0 ? `The meter: ${said.join(", ")}` : "Leads, fingers, its fuses";
}

function socketsOf(meter: MeterData): string[] {
  return [...new Set(COLUMNS.flatMap(({ quantity }) => meter.ranges[quantity].map((r) => r.socket)))];
}
