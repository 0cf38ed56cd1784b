import type { Network, NodeName } from "@hound/core/circuit";
import { rangeOf } from "@hound/core/measure";
import { expectReadings, type Prediction } from "@hound/core/rank";
import { isSamePlace, type Meter, meterData, type NumericReading, type Reading, UNIT_OF } from "@hound/core/record";
import { print } from "../words/print.ts";
import { figureWords, reachWords, shown, withLimits } from "../words/quantities.ts";
import { isLarge } from "./large.tsx";

/** Share of the limits that the meter has to move a figure by before it is worth a word. */
const TOLD = 0.1;

/** What a healthy circuit has at a point, and what the meter shows of it: it loads the circuit, or stands in the branch. */
export interface Healthy {
  readonly own: Prediction;
  readonly shown: Prediction;
  /** Ohms that the meter puts across the points, or into the branch. */
  readonly meterOhms: number;
}

/** Of each reading, in the order given; null of one whose point is not in the circuit. */
export function healthyAt(network: Network, readings: readonly NumericReading[], meter: Meter): (Healthy | null)[] {
  const own = expectEach(network, readings, null);
  const seen = expectEach(network, readings, meter);
  return readings.map((reading, i) => {
    const [without, shows] = [own[i], seen[i]];
    if (!without || !shows) return null;
    const range = rangeOf({ ...reading, value: reading.value || without.value }, meterData(meter));
    return { own: without, shown: shows, meterOhms: range.ohms };
  });
}

/** What a healthy circuit shows at many points with one solution; one that is not in it does not spoil the others. */
export function expectEach(
  network: Network,
  readings: readonly NumericReading[],
  meter: Meter | null,
): readonly (Prediction | undefined)[] {
  // Of a large circuit only the board has figures, when they are worked out.
  if (isLarge(network)) return readings.map(() => undefined);
  return expectReadings(network, readings, meter) ?? readings.map((r) => expectReadings(network, [r], meter)?.[0]);
}

/** True where the meter shows another figure than the circuit has without it, to the digits that its limits leave. */
function isMovedByMeter({ own, shown: seen }: Healthy, quantity: NumericReading["quantity"]): boolean {
  const text = ({ value }: Prediction) => withLimits(value, seen.plusMinus, UNIT_OF[quantity]);
  const isTold = Math.abs(own.value - seen.value) > TOLD * seen.plusMinus;
  return quantity !== "resistance" && isTold && text(own) !== text(seen);
}

/** `16.93 ± 0.4 V`; where the circuit itself has another: `… as your meter will show, 10 MΩ across; 17.07 V without it`. */
export function healthyWords(network: Network, reading: NumericReading, meter: Meter): string | null {
  const [found] = healthyAt(network, [reading], meter);
  return found && wordsOfHealthy(found, reading.quantity);
}

export function wordsOfHealthy(found: Healthy, quantity: NumericReading["quantity"]): string {
  const unit = UNIT_OF[quantity];
  if (found.shown.reach) return reachWords(found.shown.reach, unit);
  // What the meter moves by next to nothing is said as the board and the chart say it.
  if (!isMovedByMeter(found, quantity)) return figureWords({ ...found.shown, value: found.own.value }, unit);
  const due = figureWords(found.shown, unit);
  const where = quantity === "current" ? "in the branch" : "across";
  return `${due} as your meter will show, ${print(found.meterOhms, "ohm")} ${where}; ${shown(found.own.value, unit)} without it`;
}

/** The same in a word, with the digits that the board shows: `3.217 V`. */
export function healthyInBrief(found: Healthy, quantity: NumericReading["quantity"]): string {
  const unit = UNIT_OF[quantity];
  const value = isMovedByMeter(found, quantity) ? found.shown.value : found.own.value;
  return figureWords({ ...found.shown, value }, unit, true);
}

/** The last ohms reading between two nodes; an ohmmeter reads the same either way round. */
export function ohmsAcross(
  readings: readonly Reading[],
  from: NodeName,
  to: NodeName,
  reference: NodeName,
): NumericReading | undefined {
  const across: NumericReading = { quantity: "resistance", from, to, value: 0 };
  return readings.findLast(
    (r): r is NumericReading => r.quantity !== "observation" && isSamePlace(across, r, reference),
  );
}
