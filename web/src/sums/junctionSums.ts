import { materialsOf } from "@hound/core/circuit";
import { valuesOfSeries, writeQuantity } from "@hound/core/units";
import { print } from "../words/print.ts";
import { figureWords } from "../words/quantities.ts";
import { expectIn, voltsAt } from "./engine.ts";
import { Missing, type Reader, type Sum, stretch, Wrong, working } from "./working.ts";

const three = (value: number) => Number(value.toPrecision(3));
const trailVolts = (volts: number) => writeQuantity(volts, "V");
const current = (through: string) => ({ quantity: "current", through, value: 0 }) as const;

/** Sums about diodes, by the same engine that expects a job's readings. */
export const JUNCTION_SUMS: readonly Sum[] = [
  {
    id: "led",
    title: "Resistor for an LED",
    about: "What lets the wanted current through one LED or a string of like ones.",
    fields: [
      { key: "volts", label: "Supply", hint: "12V" },
      { key: "led", label: "LED: colour, or its volts", hint: "red" },
      { key: "amps", label: "Wanted", hint: "10mA" },
      { key: "count", label: "How many in a row", hint: "1", optional: true },
    ],
    work: working((read) => {
      const volts = read.positive("volts", "V");
      const amps = read.positive("amps", "A");
      const led = ledIn(read);
      const count = Number(read.text("count") || "1");
      if (!Number.isInteger(count) || count < 1 || count > 20) throw new Wrong("count", "a whole number up to 20");
      // The drop at the very current: of the row on a source that gives just that.
      const row = Array.from({ length: count }, (_, i) => `LED${i + 1} ${led}`).join(" + ");
      const drop = dropAt(row, amps);
      if (!(drop < volts)) throw new Wrong("volts", `the LEDs alone take ${print(three(drop), "V")}`);
      const ohms = (volts - drop) / amps;
      const sold = nextUp(ohms);
      const trail = `BT1 ${trailVolts(volts)} ri=0: R1 ${writeQuantity(sold)} 5% + [A] ${row}`;
      const found = expectIn(trail, [current("R1")]);
      const runs = found?.[0];
      return [
        { label: "They drop", text: print(three(drop), "V") },
        { label: "Resistor", text: `${print(three(ohms), "ohm")}; sold is ${print(sold, "ohm")}` },
        { label: "Lets through", text: runs ? figureWords(runs, "A") : "–" },
        { label: "It takes", text: runs ? print(three(runs.value ** 2 * sold), "W") : "–" },
        { label: "As a trail", text: trail, ...stretch(`R1 ${writeQuantity(sold)} 5% + ${row}`) },
      ];
    }),
  },
  {
    id: "clamp",
    title: "Divider with a Zener",
    about: "What a Zener holds behind a resistor, and what it takes while it does.",
    fields: [
      { key: "volts", label: "Supply", hint: "12V" },
      { key: "series", label: "Resistor before it", hint: "220" },
      { key: "zener", label: "Zener", hint: "5V1" },
      { key: "load", label: "Load beside it", hint: "1k", optional: true },
    ],
    work: working((read) => {
      const volts = read.positive("volts", "V");
      const series = read.positive("series", "ohm");
      const zener = read.positive("zener", "V");
      const load = read.maybe("load", "ohm");
      if (load !== undefined && !(load > 0)) throw new Wrong("load", "more than zero");
      const beside = load === undefined ? "" : ` | R2 ${writeQuantity(load)} 5%`;
      const part = `R1 ${writeQuantity(series)} 5% + [A] (ZD1 ${trailVolts(zener)} rev${beside})`;
      const found = expectIn(`BT1 ${trailVolts(volts)} ri=0: ${part}`, [voltsAt("A"), current("ZD1")]);
      if (!found) throw new Missing();
      const [at, through] = found;
      const amps = Math.abs(through.value);
      const holds = at.value > zener * 0.95;
      return [
        { label: "Held", text: figureWords(at, "V") },
        {
          label: "Verdict",
          text: holds ? "it holds" : "it holds nothing: the load takes all that comes through the resistor",
          tone: holds ? "good" : "wrong",
        },
        { label: "Through the Zener", text: print(three(amps), "A") },
        { label: "It takes", text: `${print(three(amps * at.value), "W")}; buy for twice that` },
        { label: "As a trail", text: part, ...stretch(part) },
      ];
    }),
  },
  {
    id: "bridge",
    title: "Drop of a bridge rectifier",
    about: "Two of its four diodes conduct at a time.",
    fields: [
      { key: "amps", label: "Current", hint: "0.5A" },
      { key: "made", label: "Diodes", hint: "silicon", optional: true },
    ],
    work: working((read) => {
      const amps = read.positive("amps", "A");
      const made = read.text("made").toLowerCase() || "silicon";
      if (!(materialsOf("diode") as string[]).includes(made))
        throw new Wrong("made", materialsOf("diode").join(" or "));
      const drop = dropAt(`D1 ${made} + D2 ${made}`, amps);
      return [
        { label: "Drops", text: print(three(drop), "V") },
        { label: "Takes", text: print(three(drop * amps), "W") },
      ];
    }),
  },
];

/** `red`, or `2.1V` of any. */
function ledIn(read: Reader): string {
  const said = read.text("led").toLowerCase();
  if (said === "") throw new Missing();
  if ((materialsOf("led") as string[]).includes(said)) return said;
  if (!/\d/.test(said)) throw new Wrong("led", `${materialsOf("led").join(", ")}, or its volts`);
  return trailVolts(read.positive("led", "V"));
}

/** Volts across a row of parts at a current: behind a supply that holds just that. */
function dropAt(row: string, amps: number): number {
  const found = expectIn(`PS1 10kV ri=0 limit=${writeQuantity(amps)}A: [A] ${row} [B]`, [
    { quantity: "voltage", from: "A", to: "B", value: 0 },
  ]);
  return found?.[0].value ?? Number.NaN;
}

/** The next value of the E12 series that lets no more through. */
function nextUp(ohms: number): number {
  const decade = 10 ** Math.floor(Math.log10(ohms));
  const values = [...valuesOfSeries("E12"), 10].map((v) => Number((v * decade).toPrecision(3)));
  return values.find((v) => v >= ohms * 0.999) ?? ohms;
}
