import type { Network } from "@hound/core/circuit";
import { type Choice, type PartMode, type Supposed, writeSupposed } from "@hound/core/whatif";
import { X } from "lucide-react";
import { kindsIn, nameOfSuspect } from "../words/faults.ts";
import { spanOf, withValue } from "./reach.ts";
import type { Supposing } from "./useSupposing.ts";
import { ValueSlider } from "./ValueSlider.tsx";

interface SupposedListProps {
  readonly supposing: Supposing;
  readonly choices: ReadonlyMap<string, readonly Choice[]>;
  readonly network: Network;
}

/** Every fault that is supposed: what it is, how far, and away with it. */
export function SupposedList({ supposing, choices, network }: SupposedListProps) {
  const { supposed, change, settle } = supposing;
  if (supposed.length === 0) return null;
  const put = (at: number, fault: Supposed, isMoving: boolean) =>
    change(
      supposed.map((f, i) => (i === at ? fault : f)),
      isMoving,
    );
  return (
    <ul aria-label="Supposed faults" className="flex flex-col gap-2">
      {supposed.map((fault, at) => {
        const words = writeSupposed(fault, network);
        const own = "part" in fault ? (choices.get(fault.part) ?? []) : [];
        const span = "part" in fault ? spanOf(fault, own, network) : null;
        return (
          <li key={"part" in fault ? fault.part : words} className="rounded-lg border border-rule bg-sheet px-3 py-2">
            <div className="flex items-center gap-2">
              <span className="min-w-0 grow truncate text-lg font-bold text-suspect">
                {nameOfSuspect({ faults: [fault] }, kindsIn(network))}
              </span>
              {"part" in fault && own.length > 1 && (
                <select
                  aria-label={`How ${fault.part} is wrong`}
                  value={isDrift(fault.mode) ? "drift" : fault.mode}
                  onChange={(e) => put(at, inMode(fault.part, e.target.value, own), false)}
                  className="rounded border border-rule bg-paper px-1.5 py-1"
                >
                  {optionsOf(own).map(([value, name]) => (
                    <option key={value} value={value}>
                      {name}
                    </option>
                  ))}
                </select>
              )}
              <button
                type="button"
                aria-label={`Without ${words}`}
                onClick={() => change(supposed.filter((f) => f !== fault))}
                className="rounded p-1.5 hover:bg-band"
              >
                <X size={18} aria-hidden />
              </button>
            </div>
            {span && "part" in fault && (
              <ValueSlider
                label={`Value of ${fault.part}`}
                span={span}
                value={fault.value ?? span.nominal}
                onMove={(value) => put(at, withValue(fault, value, network), true)}
                onSettle={settle}
              />
            )}
          </li>
        );
      })}
    </ul>
  );
}

const isDrift = (mode: PartMode) => mode === "high" || mode === "low";

const MODE_NAMES: Readonly<Record<PartMode, string>> = {
  open: "open",
  short: "shorted",
  high: "drift",
  low: "drift",
  dead: "dead",
  weak: "weak inside",
  stuckOpen: "stuck open",
  stuckClosed: "stuck closed",
  wiperOpen: "wiper open",
  leaky: "leaky",
  reversed: "the wrong way round",
};

/** Ways to be wrong that can be chosen; up and down are one, a drift. */
export function optionsOf(choices: readonly Choice[]): [string, string][] {
  const options = choices.map((c): [string, string] => [isDrift(c.mode) ? "drift" : c.mode, MODE_NAMES[c.mode]]);
  return options.filter(([value], i) => options.findIndex(([v]) => v === value) === i);
}

/** A part's fault in a mode, its value where the table of faults has its middle. */
export function inMode(part: string, option: string, choices: readonly Choice[]): Supposed {
  const choice = choices.find((c) => (option === "drift" ? isDrift(c.mode) : c.mode === option)) ?? choices[0];
  const { mode, reach } = choice;
  return reach ? { part, mode, value: Number(reach.usual.toPrecision(3)) } : { part, mode };
}
