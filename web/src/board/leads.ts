import type { Network } from "@hound/core/circuit";
import { jointOf } from "@hound/core/coach";
import type { Measurement } from "@hound/core/plan";

/** Where a measurement is taken: the nodes of both leads, or the part that it is about. */
export interface Leads {
  readonly red: string | null;
  readonly black: string | null;
  readonly part: string | null;
  /** The lead that goes to the end of the part that was freed, and whether that is its first end. */
  readonly freed?: { readonly which: "red" | "black"; readonly isFirstEnd: boolean };
}

export function leadsOf(measurement: Measurement, network: Network): Leads {
  const at = (red: string | null, black: string | null, part: string | null): Leads => ({ red, black, part });
  if (!("reading" in measurement)) return at(null, null, measurement.part);
  const { reading } = measurement;
  if (reading.quantity === "current") {
    // The joint to open: red stands where the current enters.
    const joint = jointOf(network, reading.through);
    const branch = network.branches.find((b) => b.name === reading.through);
    const isRed = joint !== null && branch?.kind !== "supply" && network.nodes[branch?.from ?? -1] === joint.at;
    const node = joint?.at ?? null;
    const isFirstEnd = branch !== undefined && network.nodes[branch.from] === node;
    return {
      ...at(isRed ? node : null, isRed ? null : node, reading.through),
      freed: { which: isRed ? "black" : "red", isFirstEnd },
    };
  }
  if (reading.quantity === "resistance" && reading.lifted !== undefined) return at(null, null, reading.lifted);
  return at(reading.from ?? null, reading.to ?? network.nodes[network.reference], null);
}
