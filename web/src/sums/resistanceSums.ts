import type { NumericReading } from "@hound/core/record";
import { parallelOf, seriesOf } from "@hound/core/reduce";
import { type OhmsLaw, ohmsLaw, writeQuantity } from "@hound/core/units";
import { print, printNumber } from "../words/print.ts";
import { withLimits } from "../words/quantities.ts";
import { expectIn, ohmsBetween, voltsAt } from "./engine.ts";
import { Missing, ohmPart, ohmResult, resistances, type Sum, stretch, Wrong, working } from "./working.ts";

/** Sums of resistances, and of one part. */
export const RESISTANCE_SUMS: readonly Sum[] = [
  {
    id: "together",
    title: "In series, in parallel",
    about: "Any number of resistances, each with its tolerance (5\u00a0% where none is written).",
    fields: [{ key: "list", label: "Resistances", hint: "1k 5% 2k2 470 1%" }],
    work: working((read) => {
      const list = resistances(read, "list");
      const parts = list.map(({ words }, i) => `R${i + 1} ${words}`);
      const [series] = expectIn(`[A] ${parts.join(" + ")} [B]`, [ohmsBetween]) ?? [];
      const [parallel] = expectIn(parts.map((p) => `[A] ${p} [B]`).join("\n"), [ohmsBetween]) ?? [];
      const ohms = list.map((l) => l.ohms);
      return [
        ohmResult("In series", seriesOf(ohms), series?.plusMinus),
        ohmResult("In parallel", parallelOf(ohms), parallel?.plusMinus),
        { label: "As a trail", text: `(${parts.join(" | ")})`, ...stretch(`(${parts.join(" | ")})`) },
      ];
    }),
  },
  {
    id: "divider",
    title: "Divider, with its load",
    about: "Two resistances across a voltage, and what their middle gives.",
    fields: [
      { key: "volts", label: "Voltage across both", hint: "24V" },
      { key: "top", label: "Upper", hint: "10k 5%" },
      { key: "bottom", label: "Lower", hint: "4k7 5%" },
      { key: "load", label: "Load across the lower", hint: "none", optional: true },
    ],
    work: working((read) => {
      const volts = read.need("volts", "V");
      const [[top], [bottom]] = [resistances(read, "top"), resistances(read, "bottom")];
      const load = read.text("load") === "" ? null : resistances(read, "load")[0];
      const lower = (loaded: boolean) =>
        loaded && load ? `(R2 ${bottom.words} | R3 ${load.words})` : `R2 ${bottom.words}`;
      const trail = (loaded: boolean) =>
        `BT1 ${writeQuantity(volts, "V")} 0% ri=0: [P] R1 ${top.words} + [A] ${lower(loaded)}`;
      const current: NumericReading = { quantity: "current", through: "R1", value: 0 };
      const free = expectIn(trail(false), [voltsAt("A"), current]);
      const loaded = load ? expectIn(trail(true), [voltsAt("A"), current]) : null;
      if (!free) throw new Wrong("volts", "this cannot be solved");
      return [
        {
          label: "Without a load",
          text: withLimits(free[0].value, free[0].plusMinus, "V"),
          copy: writeQuantity(free[0].value, "V"),
        },
        ...(loaded ? [{ label: "With the load", text: withLimits(loaded[0].value, loaded[0].plusMinus, "V") }] : []),
        { label: "Current", text: withLimits((loaded ?? free)[1].value, (loaded ?? free)[1].plusMinus, "A") },
        {
          label: "As a trail",
          text: trail(load !== null),
          copy: trail(load !== null),
          part: `R1 ${top.words} + ${lower(load !== null)}`,
        },
      ];
    }),
  },
  {
    id: "ohm",
    title: "Ohm’s law and power",
    about: "Any two of the four, all of one and the same part.",
    fields: [
      { key: "volts", label: "V", hint: "12V", optional: true },
      { key: "amps", label: "I", hint: "500mA", optional: true },
      { key: "ohms", label: "R", hint: "24", optional: true },
      { key: "watts", label: "P", hint: "6W", optional: true },
    ],
    work: working((read) => {
      const units = { volts: "V", amps: "A", ohms: "ohm", watts: "W" } as const;
      const keys = Object.keys(units) as (keyof OhmsLaw)[];
      const given = Object.fromEntries(
        keys.flatMap((key) => {
          const value = read.maybe(key, units[key]);
          return value === undefined ? [] : [[key, value]];
        }),
      ) as Partial<OhmsLaw>;
      const filled = keys.filter((key) => given[key] !== undefined);
      if (filled.length < 2) throw new Missing();
      if (filled.length > 2) throw new Wrong(filled[2], "two of the four: leave the others empty");
      const found = ohmsLaw(given);
      if (!found) throw new Wrong(filled[1], "these two cannot go together");
      const labels = { volts: "V = I × R", amps: "I = V ÷ R", ohms: "R = V ÷ I", watts: "P = V × I" };
      return keys
        .filter((key) => given[key] === undefined)
        .map((key) => {
          const value = Number(found[key].toPrecision(5));
          const copy = writeQuantity(value, units[key]);
          const goes = { volts: { reading: copy }, amps: { reading: copy }, ohms: ohmPart(value), watts: {} }[key];
          return { label: labels[key], text: print(value, units[key]), copy, ...goes };
        });
    }),
  },
  {
    id: "error",
    title: "Percent error",
    about: "What was read against what was written, and whether tolerance and meter explain it.",
    fields: [
      { key: "nominal", label: "Written", hint: "470" },
      { key: "measured", label: "Read", hint: "512" },
      { key: "tolerance", label: "Tolerance", hint: "5%" },
      { key: "meter", label: "Meter ±", hint: "1%", optional: true },
    ],
    work: working((read) => {
      const nominal = read.positive("nominal", "ohm");
      const measured = read.need("measured", "ohm");
      const tolerance = read.need("tolerance", "%");
      const meter = read.maybe("meter", "%") ?? 0;
      const error = measured / nominal - 1;
      // Both are limits of two standard deviations and independent: they add in squares.
      const limit = Math.hypot(tolerance, meter * (measured / nominal));
      const verdict =
        Math.abs(error) <= tolerance
          ? { text: "within its tolerance", tone: "good" as const }
          : Math.abs(error) <= limit
            ? { text: "outside, but the meter’s own limits may explain it", tone: "good" as const }
            : { text: "outside its tolerance, and the meter does not explain it", tone: "wrong" as const };
      return [
        {
          label: "Error",
          text: `${error > 0 ? "+" : ""}${printNumber(error * 100, 3)}\u00a0%`,
          reading: `lifted ${writeQuantity(measured)}ohm`,
        },
        { label: "Verdict", ...verdict },
        {
          label: "Limits",
          text: `${print(Number((nominal * (1 - limit)).toPrecision(4)), "ohm")} to ${print(Number((nominal * (1 + limit)).toPrecision(4)), "ohm")}`,
        },
      ];
    }),
  },
  {
    id: "leads",
    title: "Lead nulling",
    about: "Hold the leads together, note what they show, take it off.",
    fields: [
      { key: "shown", label: "Read", hint: "2.7" },
      { key: "leads", label: "Leads together", hint: "0.4" },
    ],
    work: working((read) => {
      const shown = read.need("shown", "ohm");
      const leads = read.need("leads", "ohm");
      if (leads > shown) throw new Wrong("leads", "the leads alone show more than the part: measure them again");
      const ohms = shown - leads;
      return [
        { ...ohmResult("The part itself", ohms) },
        {
          label: "As a reading",
          text: `R1 lifted ${writeQuantity(shown)}ohm null=${writeQuantity(leads)}`,
          copy: `R1 lifted ${writeQuantity(shown)}ohm null=${writeQuantity(leads)}`,
          reading: `lifted ${writeQuantity(shown)}ohm null=${writeQuantity(leads)}`,
        },
        ...(leads > 0.1 * shown
          ? [{ label: "Mind", text: "more than a tenth of it is the leads", tone: "wrong" as const }]
          : []),
      ];
    }),
  },
];
