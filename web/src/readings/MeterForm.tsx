import { type Meter, meterData } from "@hound/core/record";
import { parseQuantity } from "@hound/core/units";
import { type FormEvent, useState } from "react";
import { useDesk } from "../desk/DeskContext.tsx";
import { useKept } from "../desk/useKept.ts";
import { print, printNumber } from "../words/print.ts";
import { JobMeters } from "./JobMeters.tsx";

const FIELDS = {
  input: { label: "Input resistance on volts, or “ideal”", unit: "ohm" },
  burden: { label: "Resistance in series on amperes", unit: "ohm" },
  volts: { label: "Accuracy on volts, % of reading", unit: "%" },
  amps: { label: "Accuracy on amperes, % of reading", unit: "%" },
  ohms: { label: "Accuracy on ohms, % of reading", unit: "%" },
} as const;
type Field = keyof typeof FIELDS;

function textsOf(meter: Meter): Record<Field, string> {
  const { inputOhms, burdenOhms, accuracy } = meterData(meter);
  return {
    input: Number.isFinite(inputOhms) ? print(inputOhms, "ohm") : "ideal",
    burden: print(burdenOhms, "ohm"),
    volts: printNumber(accuracy.voltage.percent),
    amps: printNumber(accuracy.current.percent),
    ohms: printNumber(accuracy.resistance.percent),
  };
}

/** The meter of this job: it loads the circuit, and its accuracy says how much a reading may be off. */
export function MeterForm() {
  const { desk, state } = useDesk();
  const { meter, id } = state.job;
  const { value: texts, set: setTexts, forget } = useKept(`meter ${id}`, textsOf(meter));
  const [message, setMessage] = useState("");
  const [isSent, setSent] = useState(false);
  const save = (event: FormEvent) => {
    event.preventDefault();
    const read = meterFrom(texts, meter);
    if (typeof read === "string") {
      setMessage(read);
      return;
    }
    desk.changeJob({ meter: read });
    forget();
    setMessage("");
    setSent(true);
  };
  const { inputOhms, accuracy } = meterData(meter);
  const summary = Number.isFinite(inputOhms) ? print(inputOhms, "ohm") : "ideal";
  return (
    <details className="rounded-lg border border-rule bg-sheet px-4 py-3">
      <summary>
        <strong>Meter</strong>{" "}
        <span className="text-faint">{`${summary} on volts, ±\u00a0${printNumber(accuracy.voltage.percent)}\u00a0% and ${accuracy.voltage.counts} counts`}</span>
      </summary>
      <div className="mt-3">
        <JobMeters />
      </div>
      <form onSubmit={save} className="mt-3 flex flex-col gap-3">
        {(Object.keys(FIELDS) as Field[]).map((field) => (
          <label key={field} className="flex flex-wrap items-center justify-between gap-2">
            {FIELDS[field].label}
            <input
              value={texts[field]}
              aria-invalid={message.startsWith(`${FIELDS[field].label}:`)}
              aria-describedby={message.startsWith(`${FIELDS[field].label}:`) ? "meter-says" : undefined}
              onChange={(e) => setTexts({ ...texts, [field]: e.target.value })}
              className="w-32 rounded border border-rule bg-paper px-2 py-1.5 text-right"
            />
          </label>
        ))}
        <div className="flex items-center justify-end gap-3">
          <span id="meter-says" role="status" className="text-faint">
            {message || (isSent && state.saving === "saved" ? "Saved." : "")}
          </span>
          <button type="submit" className="rounded-lg border border-rule px-4 py-2 hover:bg-band">
            Save meter
          </button>
        </div>
      </form>
    </details>
  );
}

/** The meter the fields describe, or what is wrong with them. */
function meterFrom(texts: Record<Field, string>, before: Meter): Meter | string {
  const number = (field: Field): number | string => {
    const read = parseQuantity(texts[field]);
    if (read.kind === "mistake") return `${FIELDS[field].label}: ${read.why}`;
    return read.value < 0 ? `${FIELDS[field].label}: not below zero` : read.value;
  };
  const ideal = texts.input.trim().toLowerCase() === "ideal";
  const values = {
    input: ideal ? 1 : number("input"),
    burden: number("burden"),
    volts: number("volts"),
    amps: number("amps"),
    ohms: number("ohms"),
  };
  const wrong = Object.values(values).find((v) => typeof v === "string");
  if (typeof wrong === "string") return wrong;
  const { input, burden, volts, amps, ohms } = values as Record<Field, number>;
  if (input <= 0) return "Input resistance: above zero, or “ideal”";
  const { accuracy, burdenOhms } = meterData(before);
  // Left as it is, the burden stays that of each range; changed, it holds for all of them.
  const burdenResistance = burden === burdenOhms ? before.current?.burdenResistance : burden;
  return {
    ...before,
    voltage: {
      ...before.voltage,
      inputResistance: ideal ? "ideal" : input,
      accuracy: { ...accuracy.voltage, percent: volts },
    },
    current: {
      ...before.current,
      ...(burdenResistance === undefined ? {} : { burdenResistance }),
      accuracy: { ...accuracy.current, percent: amps },
    },
    resistance: { ...before.resistance, accuracy: { ...accuracy.resistance, percent: ohms } },
  };
}
