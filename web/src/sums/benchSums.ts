import {
  BAND_COLOURS,
  type BandColour,
  bandsOf,
  type ESeries,
  matchTwo,
  nearestInSeries,
  ohmsLaw,
  readBands,
  toleranceLetter,
  writeQuantity,
} from "@hound/core/units";
import { print, printNumber } from "../words/print.ts";
import { withLimits } from "../words/quantities.ts";
import { expectIn, ohmsBetween, voltsAt } from "./engine.ts";
import { Missing, ohmPart, type Reader, type Sum, shareWords, stretch, Wrong, working } from "./working.ts";

/** Sums of meters, markings, lamps and ratings. */
export const BENCH_SUMS: readonly Sum[] = [
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
        { label: "Too low by", text: `${printNumber((1 - shown / volts) * 100, 3)}\u00a0%` },
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
        { label: "Code", text: `${rkm(ohms)}${letter ?? ""}`, ...ohmPart(ohms, ` ${printPercent(tolerance)}`) },
        {
          label: `Nearest in ${series}`,
          text: `${print(nearest, "ohm")} (${shareWords(nearest / ohms - 1, 2)})`,
          ...ohmPart(nearest, ` ${printPercent(tolerance)}`),
        },
        ...matchTwo(ohms, "E24", 2).map(({ kind, a, b, ohms: made }) => ({
          label: `Two in ${kind}`,
          text: `${print(a, "ohm")} and ${print(b, "ohm")} make ${print(Number(made.toPrecision(5)), "ohm")} (${shareWords(made / ohms - 1, 2)})`,
          ...stretch(
            kind === "series"
              ? `R1 ${writeQuantity(a)} + R2 ${writeQuantity(b)}`
              : `(R1 ${writeQuantity(a)} | R2 ${writeQuantity(b)})`,
          ),
        })),
      ];
    }),
  },
  {
    id: "reading bands",
    title: "What the bands say",
    about: "Three to five bands, the first digit first; the first letters of a colour are enough.",
    fields: [{ key: "bands", label: "Bands", hint: "yellow violet red gold" }],
    work: working((read) => {
      const found = readBands(colours(read, "bands"));
      if (typeof found === "string") throw new Wrong("bands", found);
      const { ohms, tolerance } = found;
      const [least, most] = [-1, 1].map((side) =>
        print(Number((ohms * (1 + (side * tolerance) / 100)).toPrecision(4)), "ohm"),
      );
      return [
        {
          label: "Value",
          text: `${print(ohms, "ohm")} ±\u00a0${printNumber(tolerance, 3)}\u00a0%`,
          ...ohmPart(ohms, ` ${printPercent(tolerance)}`),
        },
        { label: "Good between", text: `${least} and ${most}` },
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
        { label: "As a part", text: lamp, ...stretch(lamp) },
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
        {
          label: "Verdict",
          text: `${printNumber(share * 100, 3)}\u00a0%: ${words}`,
          tone: share > 1 ? "wrong" : "good",
        },
        {
          label: "Most it stands",
          text: `${print(Number(Math.sqrt(rating * ohms).toPrecision(3)), "V")} or ${print(Number(Math.sqrt(rating / ohms).toPrecision(3)), "A")}`,
        },
      ];
    }),
  },
];

const printPercent = (tolerance: number) => `${Number(tolerance.toPrecision(6))}%`;

/** Colours by their first letters. */
function colours(read: Reader, key: string): BandColour[] {
  const words = read
    .text(key)
    .toLowerCase()
    .split(/[\s,;|-]+/)
    .filter((w) => w !== "");
  if (words.length < 3) throw new Missing();
  return words.map((word) => {
    const meant = BAND_COLOURS.filter((c) => c.startsWith(word.replace("gray", "grey")));
    if (meant.length === 1) return meant[0];
    throw new Wrong(key, meant.length === 0 ? `${word} is no band's colour` : `${word}: ${meant.join(" or ")}?`);
  });
}

/** `4K7`, `R47`, `1M0`: the letter stands where the decimal sign would. */
function rkm(ohms: number): string {
  const [scale, letter] = ohms >= 1e6 ? [1e6, "M"] : ohms >= 1e3 ? [1e3, "K"] : [1, "R"];
  const [whole, part = ""] = String(Number((ohms / scale).toPrecision(6))).split(".");
  return `${whole === "0" ? "" : whole}${letter}${part}`;
}
