import { deviationOf } from "../measure/index.ts";
import { type Fit, fitter, OVERLOAD, type Prediction, type RankInput, type RankProblem } from "../rank/index.ts";
import type { NumericReading } from "../record/index.ts";
import { preparedFor } from "./prepared.ts";
import type { Supposed } from "./supposed.ts";

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
  /** Things seen, which have no value to compare; they count in `bits` only. */
  readonly seen: number;
  /** Bits of all together, for what is supposed rather than for the other. */
  readonly bits: number;
}

/**
 * Would this explain the readings? Weighed without priors, against nothing wrong or other faults. What does not depend
 * on the faults is worked out once, so that a value can be dragged.
 */
export class FitBench {
  /** By the bridges that are supposed: they are elements of the network. */
  private readonly known = new Map<string, Weigher>();

  constructor(private readonly input: RankInput) {}

  /** @param rival what it is held against; nothing wrong by default */
  of(supposed: readonly Supposed[], rival: readonly Supposed[] = []): SupposedFit | RankProblem {
    const bridges = [...supposed, ...rival].filter((f) => "nodes" in f);
    const key = JSON.stringify(bridges);
    let weigh = this.known.get(key);
    if (!weigh) {
      weigh = weigherOf(this.input, bridges);
      this.known.set(key, weigh);
    }
    if (typeof weigh !== "function") return weigh;
    const [own, other] = [weigh(supposed), weigh(rival)];
    if (!own || !other)
      return { kind: "problem", what: "circuit", message: "with these faults the circuit cannot be solved" };
    const { readings } = this.input;
    return {
      kind: "fit",
      readings: own.readings.map(({ index, value, plusMinus }, i): ReadingFit => {
        const reading = readings[index] as NumericReading;
        const limits = limitsOf(reading, { value, plusMinus });
        return { index, reading, value, plusMinus, limits, bits: own.bits[i] - other.bits[i] };
      }),
      seen: readings.length - own.readings.length,
      bits: own.total - other.total,
    };
  }
}

type Weigher = ((faults: readonly Supposed[]) => Fit | null) | RankProblem;

function weigherOf(input: RankInput, bridges: readonly Supposed[]): Weigher {
  const made = preparedFor(input, [], bridges);
  if (made.kind === "problem") return made;
  const fit = fitter(made.prepared);
  return (faults) => fit(faults.map(made.faultOf));
}

/** `FitBench` for one question. */
export function fitOf(
  input: RankInput,
  supposed: readonly Supposed[],
  rival: readonly Supposed[] = [],
): SupposedFit | RankProblem {
  return new FitBench(input).of(supposed, rival);
}

function limitsOf(reading: NumericReading, due: Prediction): number {
  const isOver = due.value >= OVERLOAD;
  if (reading.beyond === "over") return isOver || due.value >= reading.value ? 0 : Number.POSITIVE_INFINITY;
  if (reading.beyond === "under") return due.value <= reading.value ? 0 : Number.NEGATIVE_INFINITY;
  return isOver ? Number.NEGATIVE_INFINITY : deviationOf(reading, due, null).limits;
}
