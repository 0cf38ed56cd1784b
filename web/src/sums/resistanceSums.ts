import type { NumericReading } from "@hound/core/record";
import { parallelOf, seriesOf } from "@hound/core/reduce";
import { type OhmsLaw, ohmsLaw, parseQuantity, writeQuantity } from "@hound/core/units";
import { print, printNumber } from "../words/print.ts";
import { withLimits } from "../words/quantities.ts";
import { cornersIn, expectIn, ohmsBetween, voltsAt } from "./engine.ts";
import {
  copied,
  Missing,
  ohmPart,
  ohmResult,
  type Result,
  resistances,
  type Sum,
  shareWords,
  stretch,
  Wrong,
  working,
} from "./working.ts";

/** With every part at an edge of its tolerance; nothing where it cannot be said. */
function worstCase(trail: string, point: NumericReading, unit: "ohm" | "V"): Result[] {
  const corners = cornersIn(trail, point);
  if (!corners || corners[1] - corners[0] < 1e-9 * Math.abs(corners[1])) return [];
  const [low, high] = corners.map((value) => print(Number(value.toPrecision(4)), unit));
  return [{ label: "at the edges", text: `${low} to ${high}` }];
}

/** Whether an error lies within a tolerance, or within what the meter may add: both are two standard deviations and independent. */
function errorVerdict(error: number, tolerance: number, meter: number) {
  const limit = Math.hypot(tolerance, meter * (1 + error));
  const size = Math.abs(error);
  if (size <= tolerance) return { words: "within its tolerance", tone: "good" as const, limit };
  return size <= limit
    ? { words: "outside, but the meter’s own limits may explain it", tone: "good" as const, limit }
    : { words: "outside its tolerance, and the meter does not explain it", tone: "wrong" as const, limit };
}

/** `R1 470 512 5%`, `470; 512`: one part of a column. */
function partLine(line: string, n: number, leads: number, meter: number): Result {
  const words = line.split(/[\s;|]+/).filter((w) => w !== "");
  const isNamed = words[0] !== undefined && parseQuantity(words[0]).kind === "mistake";
  const label = isNamed ? words[0] : `${n + 1}`;
  const [marked, shown, spread] = (isNamed ? words.slice(1) : words).map((word) => {
    const found = parseQuantity(word);
    if (found.kind === "mistake") throw new Wrong("rows", `line ${n + 1}, ${word}: ${found.why}`);
    return found.value;
  });
  if (marked === undefined || shown === undefined)
    throw new Wrong("rows", `line ${n + 1}: what is marked, then what was read`);
  if (!(marked > 0)) throw new Wrong("rows", `line ${n + 1}: more than zero`);
  const own = shown - leads;
  const error = own / marked - 1;
  const { words: verdict, tone } = errorVerdict(error, (spread ?? 5) / 100, meter);
  return {
    label,
    text: `${print(Number(own.toPrecision(5)), "ohm")}, ${shareWords(error)}: ${verdict.split(",")[0]}`,
    copy: copied(own),
    tone,
  };
}

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
      const trails = [`[A] ${parts.join(" + ")} [B]`, parts.map((p) => `[A] ${p} [B]`).join("\n")];
      const [[series] = [], [parallel] = []] = trails.map((trail) => expectIn(trail, [ohmsBetween]) ?? []);
      const ohms = list.map((l) => l.ohms);
      return [
        ohmResult("In series", seriesOf(ohms), series?.plusMinus),
        ...worstCase(trails[0], ohmsBetween, "ohm"),
        ohmResult("In parallel", parallelOf(ohms), parallel?.plusMinus),
        ...worstCase(trails[1], ohmsBetween, "ohm"),
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
          copy: copied(free[0].value, "V"),
        },
        ...worstCase(trail(false), voltsAt("A"), "V"),
        ...(loaded
          ? [
              {
                label: "With the load",
                text: withLimits(loaded[0].value, loaded[0].plusMinus, "V"),
                copy: copied(loaded[0].value, "V"),
              },
              ...worstCase(trail(true), voltsAt("A"), "V"),
            ]
          : []),
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
      const inUnits = (key: keyof OhmsLaw) => print(Number(found[key].toPrecision(5)), units[key]);
      const [volts, amps, ohms, watts] = [inUnits("volts"), inUnits("amps"), inUnits("ohms"), inUnits("watts")];
      const ways = [
        { label: "P = V × I", text: `${volts} × ${amps} = ${watts}` },
        { label: "P = I² × R", text: `(${amps})² × ${ohms} = ${watts}` },
        { label: "P = V² ÷ R", text: `(${volts})² ÷ ${ohms} = ${watts}` },
      ];
      const wanted = keys
        .filter((key) => given[key] === undefined)
        .map((key) => {
          const value = Number(found[key].toPrecision(5));
          const copy = writeQuantity(value, units[key]);
          const goes = { volts: { reading: copy }, amps: { reading: copy }, ohms: ohmPart(value), watts: {} }[key];
          return { label: labels[key], text: print(value, units[key]), copy, ...goes };
        });
      return [...wanted, ...ways.filter((way) => !wanted.some((w) => w.label === way.label))];
    }),
  },
  {
    id: "error",
    title: "Percent error",
    about:
      "What was read against what was written, in any unit; with a tolerance, whether it and the meter explain it.",
    fields: [
      { key: "nominal", label: "Written", hint: "470, 12V" },
      { key: "measured", label: "Read", hint: "512, 11.4V" },
      { key: "tolerance", label: "Tolerance", hint: "5%", optional: true },
      { key: "meter", label: "Meter ±", hint: "1%", optional: true },
    ],
    work: working((read) => {
      const nominal = read.any("nominal");
      const measured = read.any("measured");
      if (nominal.value === 0) throw new Wrong("nominal", "not zero: nothing is a share of it");
      if (nominal.unit !== null && measured.unit !== null && nominal.unit !== measured.unit)
        throw new Wrong("measured", "the same unit as above");
      const unit = nominal.unit ?? measured.unit;
      const error = measured.value / nominal.value - 1;
      const off = {
        label: "Error",
        text: shareWords(error),
        ...(unit === null || unit === "ohm" ? { reading: `lifted ${copied(measured.value)}ohm` } : {}),
      };
      const tolerance = read.maybe("tolerance", "%");
      if (tolerance === undefined) return [off];
      const { words, tone, limit } = errorVerdict(error, tolerance, read.maybe("meter", "%") ?? 0);
      const edge = (side: number) => {
        const value = Number((nominal.value * (1 + side * limit)).toPrecision(4));
        return unit === null ? printNumber(value) : print(value, unit);
      };
      return [off, { label: "Verdict", text: words, tone }, { label: "Limits", text: `${edge(-1)} to ${edge(1)}` }];
    }),
  },
  {
    id: "column",
    title: "A column of parts",
    about: "A line a part: marked, read, and its tolerance (5\u00a0% where none is written). Paste them from a sheet.",
    fields: [
      { key: "rows", label: "Marked, read, tolerance", hint: "R1 470 512 5%", lines: true },
      { key: "leads", label: "Leads together", hint: "0.4", optional: true },
      { key: "meter", label: "Meter ±", hint: "1%", optional: true },
    ],
    work: working((read) => {
      const leads = read.maybe("leads", "ohm") ?? 0;
      const meter = read.maybe("meter", "%") ?? 0;
      const lines = read
        .text("rows")
        .split("\n")
        .filter((line) => line.trim() !== "");
      if (lines.length === 0) throw new Missing();
      return lines.map((line, n) => partLine(line, n, leads, meter));
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
          text: `R1 lifted ${copied(shown)}ohm null=${copied(leads)}`,
          copy: `R1 lifted ${copied(shown)}ohm null=${copied(leads)}`,
          reading: `lifted ${copied(shown)}ohm null=${copied(leads)}`,
        },
        ...(leads > 0.1 * shown
          ? [{ label: "Mind", text: "more than a tenth of it is the leads", tone: "wrong" as const }]
          : []),
      ];
    }),
  },
];
