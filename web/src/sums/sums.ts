import type { NumericReading } from "@hound/core/record";
import { parallelOf, seriesOf } from "@hound/core/reduce";
import {
  bandsOf,
  type ESeries,
  matchTwo,
  nearestInSeries,
  type OhmsLaw,
  ohmsLaw,
  parseQuantity,
  toleranceLetter,
  type Unit,
  writeQuantity,
} from "@hound/core/units";
import { print, printNumber } from "../words/print.ts";
import { withLimits } from "../words/quantities.ts";
import { expectIn } from "./engine.ts";

export interface Field {
  readonly key: string;
  readonly label: string;
  readonly hint: string;
  readonly optional?: true;
}

/** One line of a result; `copy` is what a trail or a reading line takes. */
export interface Result {
  readonly label: string;
  readonly text: string;
  readonly copy?: string;
  readonly tone?: "good" | "wrong";
}

export type Worked =
  | { readonly kind: "results"; readonly list: readonly Result[] }
  | { readonly kind: "wrong"; readonly field: string; readonly why: string };

export interface Sum {
  readonly id: string;
  readonly title: string;
  readonly about: string;
  readonly fields: readonly Field[];
  /** Null while a field that is needed is empty. */
  readonly work: (fields: Readonly<Record<string, string>>) => Worked | null;
}

class Wrong extends Error {
  constructor(
    readonly field: string,
    readonly why: string,
  ) {
    super(why);
  }
}
/** A field that is needed is empty. */
class Missing extends Error {}

/** Wraps a sum: a field that is wrong says so beside it, one that is missing waits. */
const working =
  (work: (read: Reader) => Result[]) =>
  (fields: Readonly<Record<string, string>>): Worked | null => {
    try {
      return { kind: "results", list: work(new Reader(fields)) };
    } catch (error) {
      if (error instanceof Missing) return null;
      if (error instanceof Wrong) return { kind: "wrong", field: error.field, why: error.why };
      throw error;
    }
  };

class Reader {
  constructor(private readonly fields: Readonly<Record<string, string>>) {}

  /** The quantity in a field, in base units; undefined where an optional one is empty. */
  maybe(key: string, unit: Unit): number | undefined {
    const text = this.fields[key]?.trim() ?? "";
    if (text === "") return undefined;
    const read = parseQuantity(text.replace(/\s+/g, ""));
    if (read.kind === "mistake") throw new Wrong(key, read.why);
    if (read.unit !== null && read.unit !== unit) throw new Wrong(key, `this takes ${NAMES[unit]}`);
    return unit === "%" ? read.value / 100 : read.value;
  }

  need(key: string, unit: Unit): number {
    const value = this.maybe(key, unit);
    if (value === undefined) throw new Missing();
    return value;
  }

  positive(key: string, unit: Unit): number {
    const value = this.need(key, unit);
    if (!(value > 0)) throw new Wrong(key, "more than zero");
    return value;
  }

  text(key: string): string {
    return this.fields[key]?.trim() ?? "";
  }
}

const NAMES: Readonly<Record<Unit, string>> = { ohm: "ohms", V: "volts", A: "amperes", W: "watts", "%": "percent" };

/** `1k 5%, 2k2 470 1%`: resistances, each with its own tolerance or the usual 5 %. */
function resistances(read: Reader, key: string): { ohms: number; words: string }[] {
  const words = read
    .text(key)
    .split(/[\s,;+|]+/)
    .filter((w) => w !== "");
  if (words.length === 0) throw new Missing();
  const list: { ohms: number; words: string }[] = [];
  for (const word of words) {
    const found = parseQuantity(word);
    if (found.kind === "mistake") throw new Wrong(key, `${word}: ${found.why}`);
    const last = list[list.length - 1];
    if (found.unit === "%" && last) list[list.length - 1] = { ...last, words: `${last.words} ${word}` };
    else if (found.unit !== null && found.unit !== "ohm") throw new Wrong(key, `${word} is no resistance`);
    else if (!(found.value > 0)) throw new Wrong(key, `${word}: more than zero`);
    else list.push({ ohms: found.value, words: word });
  }
  return list;
}

const ohmsBetween: NumericReading = { quantity: "resistance", from: "A", to: "B", value: 0 };
const voltsAt = (from: string): NumericReading => ({ quantity: "voltage", from, value: 0 }) as NumericReading;

const ohmResult = (label: string, value: number, plusMinus = 0): Result => ({
  label,
  text: withLimits(value, plusMinus, "ohm"),
  copy: writeQuantity(Number(value.toPrecision(6))),
});

/** Every pocket sum, one table. */
export const POCKET_SUMS: readonly Sum[] = [
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
        { label: "As a trail", text: `(${parts.join(" | ")})`, copy: `(${parts.join(" | ")})` },
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
      const trail = (loaded: boolean) =>
        `BT1 ${writeQuantity(volts, "V")} 0% ri=0: [P] R1 ${top.words} + [A] ${loaded && load ? `(R2 ${bottom.words} | R3 ${load.words})` : `R2 ${bottom.words}`}`;
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
        { label: "As a trail", text: trail(load !== null), copy: trail(load !== null) },
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
        .map((key) => ({
          label: labels[key],
          text: print(Number(found[key].toPrecision(5)), units[key]),
          copy: writeQuantity(Number(found[key].toPrecision(5)), units[key]),
        }));
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
        { label: "Error", text: `${error > 0 ? "+" : ""}${printNumber(error * 100, 3)} %` },
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
        },
        ...(leads > 0.1 * shown
          ? [{ label: "Mind", text: "more than a tenth of it is the leads", tone: "wrong" as const }]
          : []),
      ];
    }),
  },
  {
    id: "loading",
    title: "Meter loading",
    about: "What a voltmeter makes of a point it is held to.",
    fields: [
      { key: "volts", label: "Voltage without the meter", hint: "12V" },
      { key: "source", label: "Resistance seen from the point", hint: "470k" },
      { key: "input", label: "Meter’s input resistance", hint: "10M" },
    ],
    work: working((read) => {
      const volts = read.need("volts", "V");
      const source = read.positive("source", "ohm");
      const input = read.positive("input", "ohm");
      const found = expectIn(
        `BT1 ${writeQuantity(volts, "V")} ri=0: [P] R2 1k\n[P] R1 ${writeQuantity(source)} [A]`,
        [voltsAt("A")],
        {
          voltage: { inputResistance: input },
        },
      );
      const shown = found?.[0].value ?? Number.NaN;
      return [
        {
          label: "The meter shows",
          text: print(Number(shown.toPrecision(4)), "V"),
          copy: writeQuantity(Number(shown.toPrecision(4)), "V"),
        },
        { label: "Too low by", text: `${printNumber((1 - shown / volts) * 100, 3)} %` },
        {
          label: "Voltage behind a reading of as much",
          text: print(Number(((volts * (source + input)) / input).toPrecision(4)), "V"),
        },
      ];
    }),
  },
  {
    id: "bands",
    title: "Bands, codes, nearest values",
    about: "A value as bands and letters (IEC 60062), its neighbours in the E-series, and two that make it.",
    fields: [
      { key: "ohms", label: "Value", hint: "4k7" },
      { key: "tolerance", label: "Tolerance", hint: "5%" },
    ],
    work: working((read) => {
      const ohms = read.positive("ohms", "ohm");
      const tolerance = (read.maybe("tolerance", "%") ?? 0.05) * 100;
      const bands = bandsOf(ohms, Number(tolerance.toPrecision(6)));
      const series: ESeries = tolerance <= 2 ? "E96" : "E24";
      const nearest = nearestInSeries(ohms, series);
      const letter = toleranceLetter(Number(tolerance.toPrecision(6)));
      return [
        { label: "Bands", text: bands?.join(", ") ?? "bands cannot hold this value" },
        { label: "Code", text: `${rkm(ohms)}${letter ?? ""}`, copy: writeQuantity(ohms) },
        {
          label: `Nearest in ${series}`,
          text: `${print(nearest, "ohm")} (${printNumber((nearest / ohms - 1) * 100, 2)} %)`,
          copy: writeQuantity(nearest),
        },
        ...matchTwo(ohms, "E24", 2).map(({ kind, a, b, ohms: made }) => ({
          label: `Two in ${kind}`,
          text: `${print(a, "ohm")} and ${print(b, "ohm")} make ${print(Number(made.toPrecision(5)), "ohm")} (${printNumber((made / ohms - 1) * 100, 2)} %)`,
          copy:
            kind === "series"
              ? `R1 ${writeQuantity(a)} + R2 ${writeQuantity(b)}`
              : `(R1 ${writeQuantity(a)} | R2 ${writeQuantity(b)})`,
        })),
      ];
    }),
  },
  {
    id: "lamp",
    title: "Lamp from its rating",
    about: "Resistance hot and cold, and at another voltage.",
    fields: [
      { key: "volts", label: "Rated", hint: "12V" },
      { key: "watts", label: "Power", hint: "5W" },
      { key: "at", label: "At", hint: "9V", optional: true },
    ],
    work: working((read) => {
      const volts = read.positive("volts", "V");
      const watts = read.positive("watts", "W");
      const at = read.maybe("at", "V") ?? volts;
      const lamp = `LA1 ${writeQuantity(volts, "V")} ${writeQuantity(watts, "W")}`;
      const lit = expectIn(`BT1 ${writeQuantity(at, "V")} 0% ri=0: [A] ${lamp} [B]`, [
        { quantity: "current", through: "LA1", value: 0 },
      ]);
      const cold = expectIn(`[A] ${lamp} [B]`, [ohmsBetween]);
      const amps = lit?.[0].value ?? Number.NaN;
      return [
        {
          label: `At ${print(at, "V")}`,
          text: `${print(Number((at / amps).toPrecision(3)), "ohm")}, ${print(Number(amps.toPrecision(3)), "A")}, ${print(Number((at * amps).toPrecision(3)), "W")}`,
        },
        { label: "Cold, on the ohmmeter", text: cold ? withLimits(cold[0].value, cold[0].plusMinus, "ohm") : "–" },
        { label: "As a part", text: lamp, copy: lamp },
      ];
    }),
  },
  {
    id: "power",
    title: "Power against rating",
    about: "Whether a part stands what it takes in.",
    fields: [
      { key: "ohms", label: "Resistance", hint: "220" },
      { key: "volts", label: "Voltage across", hint: "12V", optional: true },
      { key: "amps", label: "or current through", hint: "60mA", optional: true },
      { key: "rating", label: "Rating", hint: "0.25W" },
    ],
    work: working((read) => {
      const ohms = read.positive("ohms", "ohm");
      const rating = read.positive("rating", "W");
      const volts = read.maybe("volts", "V");
      const amps = read.maybe("amps", "A");
      if (volts === undefined && amps === undefined) throw new Missing();
      if (volts !== undefined && amps !== undefined) throw new Wrong("amps", "one of the two: leave the other empty");
      const watts = ohmsLaw({ ohms, ...(volts === undefined ? { amps } : { volts }) })?.watts ?? Number.NaN;
      const share = watts / rating;
      const words =
        share > 1
          ? "above its rating"
          : share > 0.5
            ? "within its rating, but it gets hot"
            : "no more than half its rating";
      return [
        { label: "Power", text: print(Number(watts.toPrecision(3)), "W") },
        { label: "Verdict", text: `${printNumber(share * 100, 3)} %: ${words}`, tone: share > 1 ? "wrong" : "good" },
        {
          label: "Most it stands",
          text: `${print(Number(Math.sqrt(rating * ohms).toPrecision(3)), "V")} or ${print(Number(Math.sqrt(rating / ohms).toPrecision(3)), "A")}`,
        },
      ];
    }),
  },
];

/** `4K7`, `R47`, `1M0`: the letter stands where the decimal sign would. */
function rkm(ohms: number): string {
  const [scale, letter] = ohms >= 1e6 ? [1e6, "M"] : ohms >= 1e3 ? [1e3, "K"] : [1, "R"];
  const [whole, part = ""] = String(Number((ohms / scale).toPrecision(6))).split(".");
  return `${whole === "0" ? "" : whole}${letter}${part}`;
}
