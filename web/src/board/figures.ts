import type { Network } from "@hound/core/circuit";
import type { Configuration } from "@hound/core/configuration";
import { expectReadings, type Prediction } from "@hound/core/rank";
import type { Meter, NumericReading } from "@hound/core/record";

/** What a healthy circuit has, nodes first, then branches; and what the meter shows of the nodes. */
export interface Figures {
  readonly own: readonly Prediction[] | null;
  readonly loaded: readonly Prediction[] | null;
}

/** Volts and amperes; without a supply, ohms against the reference and across each part. */
export function figuresOf(network: Network, meter: Meter, standing: Configuration): Figures {
  const isDriven = network.branches.some((b) => b.kind === "supply");
  const reference = network.nodes[network.reference];
  const points: NumericReading[] = [
    ...network.nodes.map(
      (from): NumericReading =>
        isDriven
          ? { quantity: "voltage", from, value: 0, state: standing }
          : { quantity: "resistance", from, to: reference, value: 0, state: standing },
    ),
    ...network.branches.map((b): NumericReading => {
      if (isDriven) return { quantity: "current", through: b.name, value: 0, state: standing };
      const [from, to] = [network.nodes[b.from], network.nodes[b.to]];
      return { quantity: "resistance", from, to, value: 0, state: standing };
    }),
  ];
  return {
    own: expectReadings(network, points, null),
    loaded: expectReadings(network, points.slice(0, network.nodes.length), meter),
  };
}
