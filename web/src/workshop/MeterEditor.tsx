import type { Meter, Quantity } from "@hound/core/record";
import { Plus, Trash2 } from "lucide-react";
import { type FormEvent, useId, useState } from "react";
import { useKept } from "../desk/useKept.ts";
import { useMeterChanges } from "../desk/useMeters.ts";
import { MeterChecks } from "./MeterChecks.tsx";
import {
  EMPTY_RANGE,
  FUNCTIONS,
  type MeterMistake,
  type MeterTexts,
  meterFrom,
  type RangeTexts,
  textsOf,
} from "./meterTexts.ts";

interface MeterEditorProps {
  readonly id: string;
  readonly revision: number;
  readonly meter: Meter;
  readonly onDone: () => void;
}

/** All of a meter in one form; what was typed is kept on this device until it is saved. */
export function MeterEditor({ id, revision, meter, onDone }: MeterEditorProps) {
  const { keep } = useMeterChanges();
  const { value: texts, set, forget } = useKept(`meter:${id}`, textsOf(meter));
  const kept = useKept(`checks of ${id}`, meter.checks ?? []);
  const [mistakes, setMistakes] = useState<readonly MeterMistake[]>([]);
  const says = useId();
  const leave = () => {
    forget();
    kept.forget();
    onDone();
  };
  const save = (event: FormEvent) => {
    event.preventDefault();
    const found = meterFrom(texts, { ...meter, checks: kept.value });
    if (Array.isArray(found)) {
      setMistakes(found);
      return;
    }
    keep(id, revision, found as Meter);
    leave();
  };
  const field = (key: keyof MeterTexts, label: string, width = "w-28") => (
    <label className="flex flex-col">
      <span className="text-sm text-faint">{label}</span>
      <input
        value={String(texts[key])}
        aria-invalid={mistakes.some((m) => m.field === key)}
        aria-describedby={mistakes.length > 0 ? says : undefined}
        onChange={(e) => set({ ...texts, [key]: e.target.value })}
        className={`${width} rounded border border-field bg-paper px-2 py-1.5 aria-invalid:border-wrong`}
      />
    </label>
  );
  return (
    <form onSubmit={save} aria-label="Meter" className="flex flex-col gap-4 py-2">
      <div className="flex flex-wrap items-end gap-3">
        {field("name", "Name, one word", "w-40")}
        <label className="flex flex-col">
          <span className="text-sm text-faint">Dial</span>
          <select
            value={texts.dial}
            onChange={(e) => set({ ...texts, dial: e.target.value as MeterTexts["dial"] })}
            className="rounded border border-field bg-paper px-2 py-1.5"
          >
            <option value="ranges">a position for each range</option>
            <option value="functions">finds its range itself</option>
          </select>
        </label>
        <label className="flex items-center gap-2 py-2">
          <input
            type="checkbox"
            checked={texts.analogue}
            onChange={(e) => set({ ...texts, analogue: e.target.checked })}
            className="size-5 accent-copper"
          />
          Needle
        </label>
        {texts.analogue && field("ohmsPerVolt", "Ohms a volt")}
        {field("common", "Black socket", "w-20")}
        <label className="flex flex-col">
          <span className="text-sm text-faint">Category</span>
          <select
            value={texts.category}
            onChange={(e) => set({ ...texts, category: e.target.value })}
            className="rounded border border-field bg-paper px-2 py-1.5"
          >
            <option value="">none said</option>
            {["II", "III", "IV"].map((c) => (
              <option key={c} value={c}>
                CAT {c}
              </option>
            ))}
          </select>
        </label>
        {field("volts", "for", "w-20")}
        {field("leadVolts", "Leads for", "w-20")}
        {field("leadOhms", "Leads have", "w-24")}
        {field("beepsBelow", "Beeps below", "w-24")}
        {field("top", "OL above", "w-24")}
      </div>
      {(Object.keys(FUNCTIONS) as Quantity[]).map((quantity) => (
        <Ranges
          key={quantity}
          quantity={quantity}
          texts={texts}
          mistakes={mistakes}
          onChange={(list) => set({ ...texts, ranges: { ...texts.ranges, [quantity]: list } })}
        />
      ))}
      <MeterChecks id={id} checks={kept.value} onChange={kept.set} />
      {mistakes.length > 0 && (
        <ul id={says} role="alert" className="text-wrong">
          {mistakes.map((m) => (
            <li key={m.field}>
              {m.field}: {m.message}
            </li>
          ))}
        </ul>
      )}
      <div className="flex justify-end gap-3">
        <button type="button" className="rounded-lg border border-rule px-4 py-2 hover:bg-band" onClick={leave}>
          Cancel
        </button>
        <button type="submit" className="rounded-lg bg-copper px-4 py-2 font-bold text-sheet">
          Save meter
        </button>
      </div>
    </form>
  );
}

interface RangesProps {
  readonly quantity: Quantity;
  readonly texts: MeterTexts;
  readonly mistakes: readonly MeterMistake[];
  readonly onChange: (list: readonly RangeTexts[]) => void;
}

/** Columns of the table of ranges, by what a function has. */
function columnsOf(quantity: Quantity, analogue: boolean): readonly (readonly [keyof RangeTexts, string])[] {
  return [
    ["span", "Up to"],
    ["digit", analogue ? "Half a division" : "Last digit"],
    ["percent", "± %"],
    ["counts", analogue ? "± % of scale" : "± counts"],
    ...(quantity === "voltage" && !analogue ? [["ohms", "Input"] as const] : []),
    ...(quantity === "current" ? [["ohms", "In series"] as const, ["fuse", "Fuse"] as const] : []),
    ...(quantity === "resistance" && analogue ? [["ohms", "Middle"] as const] : []),
    ["socket", "Red socket"],
  ];
}

function Ranges({ quantity, texts, mistakes, onChange }: RangesProps) {
  const list = texts.ranges[quantity];
  const columns = columnsOf(quantity, texts.analogue);
  const last = list[list.length - 1] ?? EMPTY_RANGE;
  return (
    <div className="overflow-x-auto">
      <table aria-label={FUNCTIONS[quantity]} className="text-left">
        <thead>
          <tr>
            {columns.map(([key, words]) => (
              <th key={key} scope="col" className="pr-2 text-sm font-normal text-faint">
                {key === "span" ? `${FUNCTIONS[quantity]} up to` : words}
              </th>
            ))}
            <th scope="col">
              <span className="sr-only">Remove</span>
            </th>
          </tr>
        </thead>
        <tbody>
          {list.map((range, i) => (
            // biome-ignore lint/suspicious/noArrayIndexKey: a range is its row
            <tr key={i}>
              {columns.map(([key, words]) => (
                <td key={key} className="pr-2">
                  <input
                    aria-label={`${FUNCTIONS[quantity]} ${i + 1}: ${words}`}
                    aria-invalid={mistakes.some((m) => m.field === `${quantity} ${i + 1} ${key}`)}
                    value={range[key]}
                    onChange={(e) => onChange(list.map((r, k) => (k === i ? { ...r, [key]: e.target.value } : r)))}
                    className="w-24 rounded border border-field bg-paper px-2 py-1 aria-invalid:border-wrong"
                  />
                </td>
              ))}
              <td>
                <button
                  type="button"
                  aria-label={`Remove ${FUNCTIONS[quantity]} ${i + 1}`}
                  className="rounded p-1.5 text-faint hover:text-wrong"
                  onClick={() => onChange(list.filter((_, k) => k !== i))}
                >
                  <Trash2 size={18} aria-hidden />
                </button>
              </td>
            </tr>
          ))}
        </tbody>
      </table>
      <button
        type="button"
        className="mt-1 flex items-center gap-1.5 rounded-lg border border-rule px-3 py-1 hover:bg-band"
        onClick={() => onChange([...list, { ...last, span: "" }])}
      >
        <Plus size={16} aria-hidden /> {FUNCTIONS[quantity].toLowerCase()}
      </button>
    </div>
  );
}
