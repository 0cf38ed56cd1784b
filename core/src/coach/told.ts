import { overLimit } from "../measure/index.ts";
import { blend } from "../plan/index.ts";
import { faultsOf, type Prediction, type RankInput, type SuspectFault, type Weighing } from "../rank/index.ts";
import type { NumericReading } from "../record/index.ts";
import { type Foretold, foretellAt, highestOf, usualSizeOf } from "./foretold.ts";

/** What is to be expected at a point, under what leads and at most. */
export interface ToldAt {
  /** The most, by size, that any live suspect foretells. */
  readonly highest: number;
  /** What the leading suspect foretells. */
  readonly likely: number;
  /** What most of them foretell no more than, by size, what is over range left out: what has digits to be read. */
  readonly readable: number;
  readonly leading: readonly { readonly faults: readonly SuspectFault[]; readonly prediction: Prediction }[];
}

const LEADING = 3;
/** Suspects of less weight do not decide which range holds all that may come; of a current hardly any is too rare. */
const LIVE = { voltage: 0.005, resistance: 0.005, current: 1e-7 } as const;

/** What the suspects foretell at a point, as the readings so far have them. Null where it cannot be measured. */
export function toldAt(input: RankInput, weighing: Weighing, point: NumericReading): ToldAt | null {
  const found = foretellAt(input, weighing.hypotheses, [point])?.[0];
  return found ? toldFrom(found, weighing, point) : null;
}

/** The same of a mixture that is known. */
export function toldFrom(found: Foretold, { prepared, hypotheses }: Weighing, point: NumericReading): ToldAt {
  const { weights, mean, deviation, hypothesis } = found;
  const leading = [...new Set(hypothesis)].slice(0, LEADING).map((number) => {
    const own = [...weights.keys()].filter((k) => hypothesis[k] === number);
    const prediction = blend(own.map((k) => ({ weight: weights[k], mean: mean[k], deviation: deviation[k] })));
    return { number, faults: faultsOf(prepared, hypotheses[number]), prediction };
  });
  leading.sort((a, b) => a.number - b.number);
  const over = overLimit(point, prepared.meter);
  return {
    highest: highestOf(found, LIVE[point.quantity]),
    readable: usualSizeOf(found, over),
    likely: leading[0]?.prediction.value ?? 0,
    leading: leading.map(({ faults, prediction }) => ({ faults, prediction })),
  };
}
