import type { Network } from "../circuit/index.ts";
import { buildProbes } from "../measure/index.ts";
import { type Meter, meterData, type NumericReading } from "../record/index.ts";
import type { Prediction } from "./describe.ts";
import { Predictor } from "./predictor.ts";

/**
 * What the healthy circuit should show at the given points (values of the readings do not matter), the meter loading
 * it, with two standard deviations by tolerances. OL shows as a huge value.
 * @returns null where the network cannot be solved or a point is not in it
 */
export function expectReadings(
  network: Network,
  points: readonly NumericReading[],
  meter?: Meter,
): Prediction[] | null {
  const data = meterData(meter);
  const set = buildProbes(network, points, { meter: data });
  if (set.kind !== "probes") return null;
  const predictor = new Predictor(set, data);
  predictor.predict([], true);
  const P = predictor.parameters.length;
  return points.map((_, r) => {
    let variance = 0;
    for (let p = 0; p < P; p += 1) variance += predictor.j[r * P + p] ** 2;
    return { value: predictor.y[r], plusMinus: 2 * Math.sqrt(variance) };
  });
}
