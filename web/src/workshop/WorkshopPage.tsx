import type { Conventions } from "@hound/core/record";
import { Loading } from "../app/Loading.tsx";
import { NoticeArea, NoticeBar } from "../app/Notice.tsx";
import { useChangeConventions, useKeptConventions } from "../desk/conventions.ts";
import { TopBar } from "../frame/TopBar.tsx";
import { Backup } from "./Backup.tsx";
import { Folder } from "./Folder.tsx";
import { HabitsForm } from "./HabitsForm.tsx";
import { LetterheadForm } from "./LetterheadForm.tsx";
import { MeterLinkForm } from "./MeterLinkForm.tsx";
import { Meters } from "./Meters.tsx";
import { Paired } from "./Paired.tsx";
import { People } from "./People.tsx";

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
  signs: { name: "Drops", choices: { shown: "With the sign of their direction", hidden: "By size alone" } },
  textSize: { name: "Text size", choices: { usual: "Usual", large: "Large" } },
  theme: {
    name: "Look, where a device has not chosen its own",
    choices: { system: "As the device has it", light: "Light", dark: "Dark" },
  },
} as const satisfies Record<keyof Conventions, { name: string; choices: Record<string, string> }>;

/** What the workshop has agreed on: where practitioners differ, a setting and no argument. */
export function WorkshopPage() {
  const conventions = useKeptConventions();
  const change = useChangeConventions();
  return (
    <NoticeArea>
      <div className="mx-auto max-w-4xl px-4 pb-24">
        <TopBar title="Workshop" />
        <main className="flex flex-col gap-4">
          <h2 className="text-xl font-bold">Conventions</h2>
          {!conventions && <Loading what="the conventions" />}
          {conventions &&
            (Object.keys(CHOICES) as (keyof typeof CHOICES)[]).map((key) => (
              <fieldset key={key} className="rounded-lg border border-rule bg-sheet px-4 pt-1 pb-3">
                <legend className="px-1 font-bold">{CHOICES[key].name}</legend>
                {Object.entries(CHOICES[key].choices).map(([value, words]) => (
                  <label key={value} className="flex items-center gap-3 py-1.5">
                    <input
                      type="radio"
                      name={key}
                      checked={conventions[key] === value}
                      onChange={() => change({ [key]: value }, `${CHOICES[key].name}: ${words}`)}
                      className="size-5 accent-copper"
                    />
                    {words}
                  </label>
                ))}
              </fieldset>
            ))}
          <p className="text-faint">
            Kept by the server, for everybody who uses it. Files always use conventional current.
          </p>
          <People />
          <Paired />
          <Meters />
          <MeterLinkForm />
          <HabitsForm />
          <LetterheadForm />
          <Backup />
          <Folder />
        </main>
        <NoticeBar className="fixed inset-x-0 bottom-0 z-40" />
      </div>
    </NoticeArea>
  );
}
