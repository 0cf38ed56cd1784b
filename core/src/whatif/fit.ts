import { deviationOf } from "../measure/index.ts";
import { fitter, OVERLOAD, type Prediction, type RankInput, type RankProblem } from "../rank/index.ts";
import type { NumericReading, Reading } from "../record/index.ts";
import type { Supposed } from "./supposed.ts";
import { preparedFor } from "./sweep.ts";

/** One reading beside what the supposed faults foretell. */
export interface ReadingFit extends Prediction {
  /** Place among all readings given. */
  readonly index: number;
  readonly reading: NumericReading;
  /** How far off, in limits: within ±1 it agrees; negative is low. OL where a value is due is infinitely far. */
  readonly limits: number;
  /** Bits by which it speaks for what is supposed (positive) rather than for the other. */
  readonly bits: number;
}

export interface SupposedFit {
  readonly kind: "fit";
  readonly readings: readonly ReadingFit[];
  /** What was seen has no value to compare; it counts in `bits` only. */
  readonly seen: number;
  /** Bits of all together, for what is supposed rather than for the other. */
  readonly bits: number;
}

/**
 * Would this explain the readings? Weighed without priors, against nothing wrong or other faults.
 * @param rival what it is held against; nothing wrong by default
 */
export function fitOf(
  input: RankInput,
  supposed: readonly Supposed[],
  rival: readonly Supposed[] = [],
): SupposedFit | RankProblem {
  const made = preparedFor(input, [], [...supposed, ...rival]);
  if (made.kind === "problem") return made;
  const fit = fitter(made.prepared);
  const own = fit(made.faults.slice(0, supposed.length));
  const other = fit(made.faults.slice(supposed.length));
  if (!own || !other)
    return { kind: "problem", what: "circuit", message: "with these faults the circuit cannot be solved" };
  return {
    kind: "fit",
    readings: own.readings.map(({ index, value, plusMinus }, i): ReadingFit => {
      const reading = input.readings[index] as NumericReading;
      const limits = limitsOf(reading, { value, plusMinus });
      return { index, reading, value, plusMinus, limits, bits: own.bits[i] - other.bits[i] };
    }),
    seen: input.readings.filter((r: Reading) => r.quantity === "observation").length,
    bits: own.total - other.total,
  };
}

function limitsOf(reading: NumericReading, due: Prediction): number {
  const isOver = due.value >= OVERLOAD;
  if (reading.beyond === "over") return isOver || due.value >= reading.value ? 0 : Number.POSITIVE_INFINITY;
  if (reading.beyond === "under") return due.value <= reading.value ? 0 : Number.NEGATIVE_INFINITY;
  return isOver ? Number.NEGATIVE_INFINITY : deviationOf(reading, due, null).limits;
}
