import { buildNetwork, type Circuit } from "@hound/core/circuit";
import { MINUTES } from "@hound/core/plan";
import { expectReadings } from "@hound/core/rank";
import type { NumericReading } from "@hound/core/record";

export interface HalvedJob {
  readonly circuit: Circuit;
  /** Designators of the parts at fault; bridges by any other name. */
  readonly owners: readonly string[];
  readonly voltageAt: (node: string) => NumericReading | null;
}

/**
 * Half-splitting as it is done without a computer: the nodes in the order of the trail, healthy windows in mind, always the
 * middle one of those in question. What lies between the last good node and the first bad one is then checked part by
 * part, the nearest first: a lead lifted and ohms taken where that tells, swapped where it does not; last all joints and
 * neighbours that might touch, by eye. Every fault has to be found.
 * @returns minutes spent
 */
export function halvingMinutes({ circuit, owners, voltageAt }: HalvedJob): number {
  const network = buildNetwork(circuit);
  const nodes = network.nodes.filter((_, n) => n !== network.reference);
  const points = nodes.map((from): NumericReading => ({ quantity: "voltage", from, value: 0 }));
  const healthy = expectReadings(network, points) ?? [];
  let minutes = 0;
  let [good, bad] = [-1, nodes.length];
  while (bad - good > 1) {
    const middle = Math.floor((good + bad) / 2);
    const reading = voltageAt(nodes[middle]);
    minutes += MINUTES.voltage;
    const { value, plusMinus } = healthy[middle];
    const isGood = reading !== null && Math.abs(reading.value - value) <= plusMinus + (reading.plusMinus ?? 0);
    if (isGood) good = middle;
    else bad = middle;
  }
  const place = (node: number) => {
    const at = nodes.indexOf(network.nodes[node]);
    return at < 0 ? nodes.length : at;
  };
  const centre = (good + bad) / 2;
  const far = ({ from, to }: (typeof network.branches)[number]) =>
    Math.min(Math.abs(place(from) - centre), Math.abs(place(to) - centre));
  const order = [...network.branches].sort((a, b) => far(a) - far(b));
  const left = new Set(owners);
  for (const { part } of order) {
    if (left.size === 0) return minutes;
    minutes += part.kind === "resistor" || part.kind === "potentiometer" ? MINUTES.lift : MINUTES.swap;
    left.delete(part.designator);
  }
  return minutes + left.size * MINUTES.ohms * nodes.length;
}
