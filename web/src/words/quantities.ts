import { endsOf, OVERLOAD, type Prediction, type Reach, type Window } from "@hound/core/rank";
import {
  type Conventions,
  isDiodeTest,
  type NumericReading,
  type Quantity,
  type Reading,
  SEEN,
  UNIT_OF,
} from "@hound/core/record";
import type { Unit } from "@hound/core/units";
import { print, printFixed, printLimits } from "./print.ts";

/** Below these a figure is what ideal wires and rounding leave of nothing. */
const NO_MORE = 1e-9;
const DUST: Readonly<Partial<Record<Unit, number>>> = { A: 1e-10, V: 1e-7, ohm: 1e-6 };

/** A figure without the dust that ideal wires, ideal meters and rounding leave. */
export const undusted = (value: number, unit: Unit) => (Math.abs(value) < (DUST[unit] ?? NO_MORE) ? 0 : value);

/** A value as a meter would show it; OL beyond every range. */
export function shown(value: number, unit: Unit, digits = 4): string {
  if (Math.abs(value) >= OVERLOAD) return "OL";
  const dust = DUST[unit] ?? NO_MORE;
  return print(Math.abs(value) < dust ? 0 : value, unit, { digits: Math.abs(value) < dust ? 1 : digits });
}

/** `16.93 ± 0.40 V`: the value rounded at the second digit of its limits, both with one prefix and as many decimals. */
export function withLimits(value: number, plusMinus: number, unit: Unit, hidesLimits = false): string {
  if (Math.abs(value) >= OVERLOAD) return "OL";
  const dust = DUST[unit] ?? NO_MORE;
  if (Math.abs(value) < dust && plusMinus < dust) return print(0, unit);
  return plusMinus > 0 ? printLimits(value, plusMinus, unit, hidesLimits) : shown(value, unit);
}

/** Ohms that no ohmmeter shows: what is predicted above them stands for OL. */
const OVER_RANGE = 2e7;

/** What a meter should show of a quantity: OL where that is beyond any ohmmeter. */
export function predictedWords(prediction: Prediction, quantity: Quantity): string {
  return quantity === "resistance" && prediction.value >= OVER_RANGE
    ? "OL"
    : figureWords(prediction, UNIT_OF[quantity]);
}

/** How far a figure may go by tolerances, as the conventions have it: nothing where parts are taken for exact. */
export function withinBy(prediction: Prediction, limits: Conventions["limits"]): Prediction {
  const { value, plusMinus, worst = plusMinus, reach, drawn } = prediction;
  if (reach) return prediction;
  if (limits === "none") return { value, plusMinus: 0 };
  if (limits === "likely") return prediction;
  return { value, plusMinus: worst, ...(drawn ? { drawn: { ...drawn, likely: drawn.worst } } : {}) };
}

/** A window of the chart by the conventions, as a prediction. */
export function windowBy({ two, ...window }: Window, limits: Conventions["limits"]): Prediction {
  return withinBy({ ...window, plusMinus: two }, limits);
}

/** How far a figure may be off by its limits, to the side where these are wider. */
export function widerLimit(prediction: Prediction): number {
  const { value, plusMinus, drawn } = prediction;
  return drawn ? Math.max(drawn.likely.high - value, value - drawn.likely.low) : plusMinus;
}

/** What the limits of expected figures are, in a line above them. */
export const LIMITS_WORDS: Readonly<Record<Conventions["limits"], string>> = {
  likely: "Limits are two standard deviations of what tolerances allow",
  worst: "Limits are the worst case: every part at the edge of its tolerance that moves it most",
  none: "Parts are taken for exact, without limits",
};

/**
 * What a figure is, `16.93 ± 0.40 V`. While a value is not known, between what it lies: `0 V to 12 V ?`; and where limits are
 * not as wide either way both: `0.33 mA (13 µA to 1.9 mA)`.
 */
export function figureWords(prediction: Prediction, unit: Unit, hidesLimits = false): string {
  const { value, plusMinus, reach, drawn } = prediction;
  if (reach) return reachWords(reach, unit, "?");
  if (!drawn || value >= OVERLOAD) return withLimits(value, plusMinus, unit, hidesLimits);
  return hidesLimits ? shown(value, unit, 3) : `${shown(value, unit, 3)} (${endsWords(prediction, unit)})`;
}

/** The same where both ends stand beside it, or in a drawing: without them, unless `±` says them. */
export function figureBesideEnds(prediction: Prediction, unit: Unit): string {
  return figureWords(prediction, unit, prediction.drawn !== undefined);
}

/** `11.8 V to 12.4 V`: between what its limits have a figure. */
export function endsWords(prediction: Prediction, unit: Unit): string {
  const [low, high] = endsOf(prediction);
  if (prediction.drawn) return fromTo({ low, high }, unit, 3).replaceAll(" ", "\u00a0");
  return `${withLimits(low, 0, unit)} to ${withLimits(high, 0, unit)}`;
}

/** `0 V to 12 V, not known`. */
export function reachWords({ low, high }: Reach, unit: Unit, how: "?" | ", not known" = ", not known"): string {
  return `${fromTo({ low, high }, unit, 2)}${how === "?" ? "\u00a0?" : how}`;
}

/** Both ends; one that is next to nothing beside the other is nothing. */
function fromTo({ low, high }: Reach, unit: Unit, digits: number): string {
  const size = Math.max(Math.abs(low), Math.abs(high));
  const end = (v: number) => shown(Math.abs(v) < size / 1000 ? 0 : v, unit, digits);
  return `${end(low)} to ${end(high)}`;
}

/** Where a reading was taken: `B`, `B–D`, `through R3`, `R3 lifted`. */
export function placeOf(reading: Reading): string {
  switch (reading.quantity) {
    case "voltage":
      if (isDiodeTest(reading))
        return `${reading.lifted === undefined ? `${reading.from}→${reading.to ?? "0"}` : `${reading.lifted} lifted`}, diode test`;
      return reading.to === undefined ? reading.from : `${reading.from}–${reading.to}`;
    case "current":
      return `through ${reading.through}`;
    case "resistance":
      return reading.lifted === undefined ? `${reading.from}–${reading.to ?? "0"}` : `${reading.lifted} lifted`;
    case "observation":
      return reading.part;
    default:
      return reading satisfies never;
  }
}

/** What a reading showed. */
export function valueOfReading(reading: Reading): string {
  if (reading.quantity === "observation") return SEEN[reading.seen];
  const unit = UNIT_OF[reading.quantity];
  if (reading.beyond === "over" && isDiodeTest(reading)) return "OL";
  if (reading.beyond === "over") return `above ${shown(reading.value, unit)}`;
  if (reading.beyond === "under") return `below ${shown(reading.value, unit)}`;
  return shown(reading.value, unit, digitsOf(reading));
}

/** Digits as typed: 7.40 stays 7.40. */
function digitsOf({ value, step }: NumericReading): number {
  if (!step || value === 0) return 4;
  return Math.min(8, Math.max(1, Math.floor(Math.log10(Math.abs(value))) - Math.round(Math.log10(step)) + 1));
}

export function percent(probability: number): string {
  if (probability > 0.9995) return `> ${printFixed(99.9, 1)}\u00a0%`;
  if (probability < 0.001) return `< ${printFixed(0.1, 1)}\u00a0%`;
  return `${printFixed(probability * 100, probability < 0.1 || probability > 0.99 ? 1 : 0)}\u00a0%`;
}
