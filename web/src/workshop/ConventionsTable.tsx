import type { Conventions } from "@hound/core/record";
import { Loading } from "../app/Loading.tsx";
import { useChangeConventions, useKeptConventions } from "../desk/conventions.ts";
import { EXAMPLES } from "./conventionExamples.ts";

/** Each convention with its choices, in words. */
const CHOICES = {
  arrows: {
    name: "Arrows of current",
    choices: { conventional: "Conventional, from plus to minus", electron: "Electron flow, from minus to plus" },
  },
  symbols: { name: "Resistors drawn", choices: { iec: "As rectangles (IEC)", ansi: "As zigzags (ANSI)" } },
  sourceLetter: { name: "A source’s voltage is called", choices: { E: "E", V: "V" } },
  decimal: { name: "Decimal sign", choices: { point: "Point: 4.7 kΩ", comma: "Comma: 4,7 kΩ" } },
  sums: {
    name: "Parallel resistances are summed",
    choices: {
      reciprocals: "By reciprocals: 1/R = 1/R1 + 1/R2",
      product: "By product over sum, two at a time",
      conductances: "By conductances: G = G1 + G2",
    },
  },
  equalShortcut: { name: "Equal ones in parallel", choices: { on: "As R ÷ n", off: "Like any others" } },
  rounding: {
    name: "Rounding in the chart",
    choices: { exact: "Exact inside, rounded in sight", paper: "Three figures carried on, as on paper" },
  },
  meters: {
    name: "Meters",
    choices: { real: "As they load the circuit", ideal: "As if they were not there" },
  },
  supplies: {
    name: "Supplies",
    choices: { real: "With their internal resistance", ideal: "Ideal: they hold their voltage" },
  },
  wires: {
    name: "Wires, joints, plugs and switches",
    choices: { real: "With their contact resistance", ideal: "Ideal: they drop nothing" },
  },
  attack: {
    name: "What to measure next",
    choices: {
      information: "What tells most a minute",
      halfSplit: "Halve what is left, along the trail",
      fromSupply: "From the supply outward",
      swapOne: "Swap one part at a time",
    },
  },
  place: {
    name: "New jobs stand in",
    choices: { dry: "A dry place", wet: "A wet place: lower voltages count as a shock hazard" },
  },
  limits: {
    name: "Limits of what is expected",
    choices: {
      likely: "Two standard deviations",
      worst: "Worst case: every part at its edge",
      none: "None: exact parts",
    },
  },
  signs: { name: "Drops", choices: { shown: "With the sign of their direction", hidden: "By size alone" } },
  textSize: { name: "Text size", choices: { usual: "Usual", large: "Large" } },
  theme: {
    name: "Look, where a device has not chosen its own",
    choices: { system: "As the device has it", light: "Light", dark: "Dark" },
  },
} as const satisfies Record<keyof Conventions, { name: string; choices: Record<string, string> }>;

type Key = keyof Conventions;

/** Where practitioners differ: a row each, with what the choice does on an example. */
export function ConventionsTable() {
  const conventions = useKeptConventions();
  const change = useChangeConventions();
  if (!conventions) return <Loading what="the conventions" />;
  const exampleOf = <K extends Key>(key: K) => EXAMPLES[key](conventions[key], conventions);
  return (
    <section aria-label="Conventions" className="flex flex-col gap-2">
      <h2 className="text-xl font-bold">Conventions</h2>
      <div className="rounded-lg border border-rule bg-sheet px-4">
        {(Object.keys(CHOICES) as Key[]).map((key) => (
          <fieldset
            key={key}
            aria-label={CHOICES[key].name}
            className="grid items-center gap-x-4 border-t border-rule py-1.5 first:border-0 md:grid-cols-[12rem_minmax(0,1fr)_14rem]"
          >
            <span className="font-bold">{CHOICES[key].name}</span>
            <span className="flex flex-wrap gap-x-5">
              {Object.entries(CHOICES[key].choices).map(([value, words]) => (
                <label key={value} className="flex items-center gap-2 py-0.5">
                  <input
                    type="radio"
                    name={key}
                    checked={conventions[key] === value}
                    onChange={() => change({ [key]: value }, `${CHOICES[key].name}: ${words}`)}
                    className="size-5 shrink-0 accent-copper"
                  />
                  {words}
                </label>
              ))}
            </span>
            <output className="text-faint tabular-nums">
              {key === "symbols" ? <Resistor isBox={conventions.symbols === "iec"} /> : exampleOf(key)}
            </output>
          </fieldset>
        ))}
      </div>
      <p className="text-faint">
        Kept by the server, for everybody who uses it. Files always use conventional current.
      </p>
    </section>
  );
}

/** A resistor as it is drawn. */
function Resistor({ isBox }: { isBox: boolean }) {
  const shape = isBox ? "M0 8H14M14 2H46V14H14ZM46 8H60" : "M0 8H14L17 2L23 14L29 2L35 14L41 2L44 8H60";
  return (
    <svg viewBox="0 0 60 16" className="h-5 w-20 text-ink" role="img" aria-label={isBox ? "rectangle" : "zigzag"}>
      <path d={shape} fill="none" stroke="currentColor" strokeWidth="2" />
    </svg>
  );
}
