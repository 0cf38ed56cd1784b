import type { Probe } from "../../measure/index.ts";
import { type MeterData, meterNameOf, type NumericReading } from "../../record/index.ts";

/** A meter that is out of its specification on one function: all its readings there are off by one factor. */
export interface FalseMeter {
  readonly quantity: NumericReading["quantity"];
  /** The meter's name, or the instrument drawn in the circuit; "" for the one in hand. */
  readonly meter: string;
  /** Whether a reading is taken with it, on that function. */
  readonly takes: (reading: NumericReading) => boolean;
  /** Whether each numeric reading was taken with it, in the order of the probes. */
  readonly took: readonly boolean[];
  /** The factor at the share t of its prior: as many low as high, log-uniform from its limit to a fifth. */
  readonly factor: (t: number) => number;
}

/** Probability that a meter is out of its specification, for each function with readings. */
export const FALSE_METER = 0.005;
const FARTHEST = 0.2;
/** Limit of a meter that says none. */
const USUAL_PERCENT = 0.5;

/** The meters and functions that readings were taken with, but for those that were held against a known value. */
export function falseMetersOf(
  probes: readonly Probe[],
  data: MeterData,
  isChecked: (reading: NumericReading) => boolean,
): FalseMeter[] {
  const meterOf = (reading: NumericReading) => reading.by ?? meterNameOf(reading, data);
  const keyOf = (reading: NumericReading) => `${reading.quantity} ${meterOf(reading)}`;
  return [...new Set(probes.map((p) => keyOf(p.reading)))].flatMap((key): FalseMeter[] => {
    const takes = (reading: NumericReading) => keyOf(reading) === key;
    const took = probes.map((p) => takes(p.reading));
    const { reading, range } = probes[took.indexOf(true)];
    if (isChecked(reading)) return [];
    const limit = Math.min(FARTHEST / 2, (range.percent || USUAL_PERCENT) / 100);
    const factor = (t: number) => {
      const size = limit * (FARTHEST / limit) ** Math.abs(2 * t - 1);
      return t < 0.5 ? 1 - size : 1 + size;
    };
    return [{ quantity: reading.quantity, meter: meterOf(reading), takes, took, factor }];
  });
}

/** Scales what readings show as a false meter has it; works in place. */
export function scaleInPlace(y: Float64Array, took: readonly boolean[], factor: number) {
  for (let r = 0; r < y.length; r += 1) if (took[r]) y[r] *= factor;
}
