import type { Network } from "@hound/core/circuit";
import type { Measurement } from "@hound/core/plan";

/** Where a measurement is taken: the nodes of both leads, or the part that it is about. */
export interface Leads {
  readonly red: string | null;
  readonly black: string | null;
  readonly part: string | null;
}

export function leadsOf(measurement: Measurement, network: Network): Leads {
  const at = (red: string | null, black: string | null, part: string | null): Leads => ({ red, black, part });
  if (!("reading" in measurement)) return at(null, null, measurement.part);
  const { reading } = measurement;
  if (reading.quantity === "current") return at(null, null, reading.through);
  if (reading.quantity === "resistance" && reading.lifted !== undefined) return at(null, null, reading.lifted);
  return at(reading.from ?? null, reading.to ?? network.nodes[network.reference], null);
}
