import type { FaultAt } from "../faults/index.ts";
import { errorOf } from "../measure/index.ts";
import { type Prediction, type Prepared, prepare, type RankInput, type RankProblem } from "../rank/index.ts";
import type { NumericReading } from "../record/index.ts";
import { faultsAtSupposed, type Supposed } from "./supposed.ts";

/** The circuit with its readings and some more points, and supposed faults as it takes them. */
export interface Made {
  readonly kind: "made";
  readonly prepared: Prepared;
  readonly faults: readonly FaultAt[];
  /** One of them again, or a fault of a part; of bridges only those supposed at first are in the network. */
  readonly faultOf: (fault: Supposed) => FaultAt;
}

export function preparedFor(
  input: RankInput,
  points: readonly NumericReading[],
  supposed: readonly Supposed[],
): Made | RankProblem {
  const plain = prepare(input, points);
  if (plain.kind === "problem") return plain;
  const { network } = plain;
  const { faults, bridges } = faultsAtSupposed(network, supposed, plain.set.bridges);
  const known = new Map(supposed.map((fault, i) => [JSON.stringify(fault), faults[i]]));
  const faultOf = (fault: Supposed) => known.get(JSON.stringify(fault)) ?? faultsAtSupposed(network, [fault]).faults[0];
  const joined = bridges.slice(plain.set.bridges.length);
  if (joined.length === 0) return { kind: "made", prepared: plain, faults, faultOf };
  const prepared = prepare(input, points, undefined, [], joined);
  return prepared.kind === "problem" ? prepared : { kind: "made", prepared, faults, faultOf };
}

/** What every point beyond the readings shows under faults, and two standard deviations of tolerances and meter. */
export function predictionsUnder(
  { integrator, numericCount, set, meter }: Prepared,
  faults: readonly FaultAt[],
): Prediction[] {
  const { predictor } = integrator;
  const outcome = predictor.predict(faults, "variances");
  return set.probes.slice(numericCount).map(({ reading }, i) => {
    const r = numericCount + i;
    const value = outcome.y[r];
    const { own } = errorOf({ ...reading, value }, meter);
    return { value, plusMinus: 2 * Math.sqrt(predictor.varianceOf(outcome, r) + own ** 2) };
  });
}
