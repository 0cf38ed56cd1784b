import type { Meter, WorkshopMeter } from "@hound/core/record";
import { meterData } from "@hound/core/record";
import { Copy, Pencil, Plus, Trash2 } from "lucide-react";
import { Loading } from "../app/Loading.tsx";
import { useNotice } from "../app/Notice.tsx";
import { newId } from "../app/newId.ts";
import { useKept } from "../desk/useKept.ts";
import { useMeterChanges, useMeters } from "../desk/useMeters.ts";
import { print, printNumber } from "../words/print.ts";
import { MeterEditor } from "./MeterEditor.tsx";

interface Editing {
  readonly id: string;
  readonly revision: number;
  readonly meter: Meter;
  readonly isNew: boolean;
}

/** The workshop's meters: those that come with the product, to be copied; its own, to be changed. */
export function Meters() {
  const meters = useMeters();
  const { keep, remove } = useMeterChanges();
  const { value: editing, set: setEditing, forget } = useKept<Editing | null>("meter in hand", null);
  const notice = useNotice();
  const removeOne = ({ id, meter }: WorkshopMeter) => {
    remove(id, meter.name ?? "");
    notice({ text: `Removed ${meter.name}`, action: { label: "Undo", run: () => keep(id, 0, meter) } });
  };
  const names = new Set(meters?.map((m) => m.meter.name));
  const copy = (meter: Meter) => {
    const name = [...Array(99).keys()].map((i) => `${meter.name}-${i + 2}`).find((n) => !names.has(n));
    setEditing({ id: newId(), revision: 0, meter: { ...meter, name, checks: [] }, isNew: true });
  };
  return (
    <section aria-label="Meters" className="flex flex-col gap-3">
      <h2 className="text-xl font-bold">Meters</h2>
      <p className="text-faint">
        A meter’s ranges say how far a reading may be off, what it does to the circuit, and where its leads go. A job
        keeps its own copy of those it uses.
      </p>
      {!meters && <Loading what="the meters" />}
      <ul className="flex flex-col gap-2">
        {meters?.map((item) => (
          <li key={item.id} className="rounded-lg border border-rule bg-sheet px-4 py-2">
            {editing?.id === item.id ? (
              <MeterEditor {...editing} onDone={() => forget()} />
            ) : (
              <div className="flex flex-wrap items-center gap-2">
                <p className="min-w-48 grow basis-0">
                  <strong className="text-lg break-all">{item.meter.name}</strong>
                  <span className="block text-faint">{summaryOf(item)}</span>
                </p>
                <Tool label={`Copy ${item.meter.name}`} onClick={() => copy(item.meter)}>
                  <Copy size={20} aria-hidden />
                </Tool>
                {!item.isShipped && (
                  <>
                    <Tool label={`Change ${item.meter.name}`} onClick={() => setEditing({ ...item, isNew: false })}>
                      <Pencil size={20} aria-hidden />
                    </Tool>
                    <Tool label={`Remove ${item.meter.name}`} onClick={() => removeOne(item)}>
                      <Trash2 size={20} aria-hidden />
                    </Tool>
                  </>
                )}
              </div>
            )}
          </li>
        ))}
        {editing?.isNew && !meters?.some((m) => m.id === editing.id) && (
          <li className="rounded-lg border-2 border-copper bg-sheet px-4 py-2">
            <MeterEditor {...editing} onDone={() => forget()} />
          </li>
        )}
      </ul>
      <div className="flex flex-wrap gap-3">
        <NewButton words="New meter" onClick={() => copy({ name: "meter" })} />
        <NewButton words="New needle meter" onClick={() => copy(NEEDLE)} />
      </div>
    </section>
  );
}

/** A needle of the usual kind, to begin with. */
const NEEDLE: Meter = {
  name: "needle",
  analogue: true,
  voltage: { ohmsPerVolt: 20_000, ranges: [0.5, 2.5, 10, 50, 250].map((span) => ({ span })) },
  current: { ranges: [5e-5, 5e-3, 0.05, 0.5].map((span) => ({ span, burdenResistance: 0.25 / span, fuse: 0.5 })) },
  resistance: { ranges: [2e3, 2e4, 2e5].map((span) => ({ span, middle: span / 100 })) },
};

function summaryOf({ meter, isShipped }: WorkshopMeter): string {
  const { ranges, isAnalogue, category, checks } = meterData(meter);
  const [volts] = ranges.voltage.slice(-1);
  const input = Number.isFinite(volts.ohms) ? print(volts.ohms, "ohm") : "ideal";
  const off = isAnalogue
    ? `${printNumber(volts.ofSpan ?? 0)}\u00a0% of the scale`
    : `${printNumber(volts.percent)}\u00a0%`;
  const held = checks.length === 0 ? "" : `, checked at ${checks.length} value${checks.length === 1 ? "" : "s"}`;
  const cat = category.class ? `, CAT ${category.class} ${print(category.volts, "V")}` : "";
  return `${isShipped ? "Comes with it: " : ""}${isAnalogue ? "needle, " : ""}${input} and ±\u00a0${off} on volts${cat}${held}`;
}

function Tool({ label, onClick, children }: { label: string; onClick: () => void; children: React.ReactNode }) {
  return (
    <button
      type="button"
      aria-label={label}
      title={label}
      className="rounded p-2 text-faint hover:text-ink"
      onClick={onClick}
    >
      {children}
    </button>
  );
}

function NewButton({ words, onClick }: { words: string; onClick: () => void }) {
  return (
    <button
      type="button"
      onClick={onClick}
      className="flex items-center gap-2 rounded-lg border border-rule px-4 py-2.5 hover:bg-band"
    >
      <Plus size={20} aria-hidden /> {words}
    </button>
  );
}
