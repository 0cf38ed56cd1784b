import { blend } from "../plan/index.ts";
import { faultsOf, type Prediction, type RankInput, type SuspectFault, type Weighing } from "../rank/index.ts";
import type { NumericReading } from "../record/index.ts";
import { type Foretold, foretellAt, highestOf } from "./foretold.ts";

/** What is to be expected at a point, under what leads and at most. */
export interface ToldAt {
  /** The most, by size, that any live suspect foretells. */
  readonly highest: number;
  /** What the leading suspect foretells. */
  readonly likely: number;
  readonly leading: readonly { readonly faults: readonly SuspectFault[]; readonly prediction: Prediction }[];
}

const LEADING = 3;

/** What the suspects foretell at a point, as the readings so far have them. Null where it cannot be measured. */
export function toldAt(input: RankInput, weighing: Weighing, point: NumericReading): ToldAt | null {
  const found = foretellAt(input, weighing.hypotheses, [point])?.[0];
  return found ? toldFrom(found, weighing) : null;
}

/** The same of a mixture that is known. */
export function toldFrom(found: Foretold, { prepared, hypotheses }: Weighing): ToldAt {
  const { weights, mean, deviation, hypothesis } = found;
  const leading = [...new Set(hypothesis)].slice(0, LEADING).map((number) => {
    const own = [...weights.keys()].filter((k) => hypothesis[k] === number);
    const prediction = blend(own.map((k) => ({ weight: weights[k], mean: mean[k], deviation: deviation[k] })));
    return { number, faults: faultsOf(prepared, hypotheses[number]), prediction };
  });
  leading.sort((a, b) => a.number - b.number);
  return {
    highest: highestOf(found),
    likely: leading[0]?.prediction.value ?? 0,
    leading: leading.map(({ faults, prediction }) => ({ faults, prediction })),
  };
}
