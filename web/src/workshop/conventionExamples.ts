import type { Conventions } from "@hound/core/record";
import { printQuantity } from "@hound/core/units";

type Examples = { readonly [K in keyof Conventions]: (value: Conventions[K], all: Conventions) => string };

/** Parts of the examples: 24 V over 220 Ω and 150 Ω; 220 Ω beside 470 Ω. */
const [SOURCE, FIRST, SECOND, BESIDE] = [24, 220, 150, 470];
/** Three significant figures, as carried on paper. */
const rounded = (value: number) => Number(value.toPrecision(3));

/** What each convention does, on an example; the decimal sign is the one that is chosen. */
export const EXAMPLES: Examples = {
  arrows: (value) => (value === "conventional" ? "+ → R1 → 0" : "0 → R1 → +"),
  symbols: () => "",
  sourceLetter: (value, all) => `${value} = ${show(SOURCE, "V", all)}`,
  decimal: (_, all) => show(4700, "ohm", all),
  sums: (value, all) => {
    const sum = show(1 / (1 / FIRST + 1 / BESIDE), "ohm", all, 3);
    const [a, b] = [FIRST, BESIDE].map((ohms) => `${decimal((1000 / ohms).toFixed(2), all)} mS`);
    return {
      reciprocals: `1/${FIRST} + 1/${BESIDE} = 1/${sum}`,
      product: `${FIRST} × ${BESIDE} ÷ (${FIRST} + ${BESIDE}) = ${sum}`,
      conductances: `${a} + ${b}: ${sum}`,
    }[value];
  },
  equalShortcut: (value, all) =>
    `${value === "on" ? "330 ÷ 3 =" : "1/330 + 1/330 + 1/330:"} ${show(330 / 3, "ohm", all)}`,
  rounding: (value, all) => {
    const exact = SOURCE / (FIRST + SECOND);
    const amps = value === "exact" ? exact : rounded(exact);
    return `${show(exact, "A", all, 3)} × ${SECOND} = ${show(amps * SECOND, "V", all, 4)}`;
  },
  meters: (value, all) => {
    // A meter of 10 MΩ in the middle of two times 1 MΩ.
    const loaded = value === "real" ? 6 * (10 / 10.5) : 6;
    return `${show(6, "V", all)} behind 500 kΩ shows ${show(loaded, "V", all, 3)}`;
  },
  supplies: (value, all) => {
    const volts = value === "real" ? SOURCE - 0.3 * 2 : SOURCE;
    return `${show(SOURCE, "V", all)}, 0${decimal(".3", all)} Ω, 2 A: ${show(volts, "V", all, 3)}`;
  },
  wires: (value, all) => `four contacts at 2 A drop ${show(value === "real" ? 4 * 0.02 * 2 : 0, "V", all)}`,
  attack: (value) =>
    ({
      information: "the point that tells most",
      halfSplit: "A … C … E: C first",
      fromSupply: "A, then B, then C",
      swapOne: "another R1, then R2",
    })[value],
  place: (value) => (value === "dry" ? "from 60 V DC, 30 V AC on" : "from 30 V DC, 12 V AC on"),
  limits: (value, all) => {
    // Two equal resistors of 5 % as a divider: half of what each moves it, together by squares or straight.
    const edge = { likely: 24 * 0.25 * 0.05 * Math.SQRT2, worst: 24 * 0.25 * 0.05 * 2, none: 0 }[value];
    const half = show(SOURCE / 2, "V", all, 4);
    return edge === 0 ? half : `${half} ± ${show(edge, "V", all, 2)}`;
  },
  signs: (value, all) => show(value === "shown" ? -4.1 : 4.1, "V", all),
  textSize: (value) => (value === "usual" ? "7.42 V" : "7.42 V, larger"),
  theme: () => "",
};

function show(value: number, unit: "V" | "A" | "ohm", { decimal: mark }: Conventions, digits?: number): string {
  return printQuantity(value, unit, { ...(digits ? { digits } : {}), decimal: mark === "comma" ? "," : "." });
}

const decimal = (text: string, { decimal: mark }: Conventions) => (mark === "comma" ? text.replace(".", ",") : text);
