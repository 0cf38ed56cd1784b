import { type MeterCheck, type Quantity, UNIT_OF } from "@hound/core/record";
import { Trash2 } from "lucide-react";
import { useState } from "react";
import { useKept } from "../desk/useKept.ts";
import { shown, withLimits } from "../words/quantities.ts";
import { dayAndTime } from "../words/times.ts";
import { type CheckTexts, checkFrom, FUNCTIONS } from "./meterTexts.ts";

interface MeterChecksProps {
  /** Of the meter. */
  readonly id: string;
  readonly checks: readonly MeterCheck[];
  readonly onChange: (checks: MeterCheck[]) => void;
}

const EMPTY: CheckTexts = { quantity: "voltage", known: "", plusMinus: "", shown: "" };

/** The meter held against something that is known: what it is off is taken off its readings from then on. */
export function MeterChecks({ id, checks, onChange }: MeterChecksProps) {
  const { value: texts, set: setTexts, forget } = useKept(`check of ${id}`, EMPTY);
  const [message, setMessage] = useState("");
  const add = () => {
    const found = checkFrom(texts);
    if (typeof found === "string") {
      setMessage(found);
      return;
    }
    onChange([...checks, { ...found, at: new Date().toISOString() }]);
    forget();
    setMessage("");
  };
  const field = (key: "known" | "plusMinus" | "shown", label: string) => (
    <label className="flex flex-col">
      <span className="text-sm text-faint">{label}</span>
      <input
        value={texts[key]}
        onChange={(e) => setTexts({ ...texts, [key]: e.target.value })}
        onKeyDown={(e) => {
          if (e.key !== "Enter") return;
          e.preventDefault();
          add();
        }}
        className="w-24 rounded border border-field bg-paper px-2 py-1"
      />
    </label>
  );
  return (
    <fieldset className="flex flex-col gap-2">
      <legend className="font-bold">Held against a known value</legend>
      <ul>
        {checks.map((check) => {
          const unit = UNIT_OF[check.quantity];
          const off = check.shown - check.known;
          return (
            <li key={`${check.quantity} ${check.known} ${check.at}`} className="flex flex-wrap items-center gap-x-3">
              reads {shown(check.shown, unit)} at {withLimits(check.known, check.plusMinus, unit)}:{" "}
              {off === 0 ? "right" : `${shown(Math.abs(off), unit, 3)} ${off < 0 ? "low" : "high"}`}
              {check.at && <span className="text-faint">{dayAndTime(new Date(check.at))}</span>}
              <button
                type="button"
                aria-label="Remove this check"
                className="rounded p-1.5 text-faint hover:text-wrong"
                onClick={() => onChange(checks.filter((c) => c !== check))}
              >
                <Trash2 size={18} aria-hidden />
              </button>
            </li>
          );
        })}
      </ul>
      <div className="flex flex-wrap items-end gap-2">
        <label className="flex flex-col">
          <span className="text-sm text-faint">Function</span>
          <select
            value={texts.quantity}
            onChange={(e) => setTexts({ ...texts, quantity: e.target.value as Quantity })}
            className="rounded border border-field bg-paper px-2 py-1"
          >
            {Object.entries(FUNCTIONS).map(([value, words]) => (
              <option key={value} value={value}>
                {words}
              </option>
            ))}
          </select>
        </label>
        {field("known", "Known")}
        {field("plusMinus", "within ±")}
        {field("shown", "It shows")}
        <button type="button" className="rounded-lg border border-rule px-3 py-1.5 hover:bg-band" onClick={add}>
          Add this check
        </button>
        {message && (
          <span role="alert" className="text-wrong">
            {message}
          </span>
        )}
      </div>
    </fieldset>
  );
}
