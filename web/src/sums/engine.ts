import { buildNetwork, type Circuit } from "@hound/core/circuit";
import { readTrail } from "@hound/core/notation";
import { cornersOf, expectReadings, type Prediction } from "@hound/core/rank";
import type { Meter, NumericReading } from "@hound/core/record";

/** A meter that is not there. */
const NO_METER: Meter = { voltage: { inputResistance: "ideal" }, current: { burdenResistance: 0 } };

/**
 * What a small circuit shows at some points, with tolerance windows: the same engine that expects a job's readings.
 * @returns null where the trail does not read or the circuit cannot be solved
 */
export function expectIn(
  trail: string,
  points: readonly NumericReading[],
  meter: Meter = NO_METER,
): Prediction[] | null {
  const circuit = circuitIn(trail);
  return circuit ? expectReadings(buildNetwork(circuit), points, meter) : null;
}

/** The lowest and the highest it shows with every part at an edge of its tolerance; null where that cannot be solved. */
export function cornersIn(trail: string, point: NumericReading): [number, number] | null {
  const circuit = circuitIn(trail);
  return circuit ? cornersOf(buildNetwork(circuit), point) : null;
}

function circuitIn(trail: string): Circuit | null {
  return readTrail(trail).circuit;
}

/** What an ohmmeter between A and B shows, and a voltmeter at a node. */
export const ohmsBetween: NumericReading = { quantity: "resistance", from: "A", to: "B", value: 0 };
export const voltsAt = (from: string): NumericReading => ({ quantity: "voltage", from, value: 0 });
