import type { Network } from "@hound/core/circuit";
import type { FaultAt } from "@hound/core/faults";
import { faultsAtSupposed, readSupposed, type Supposed, troubleWithSupposed } from "@hound/core/whatif";
import { UsageError } from "./failure.ts";

/** Faults given by `--fault`: `R3=open`, `R2=high:1820`, `R2 470→2k`, `A~D bridged`; each may hold several. */
export function faultsGiven(network: Network, texts: readonly string[]): Supposed[] {
  const faults = texts.flatMap((text) => {
    const read = readSupposed(text, network);
    if (read.kind === "mistake") throw new UsageError(`--fault ${text}: ${read.message}`);
    return read.faults;
  });
  const trouble = troubleWithSupposed(network, faults);
  if (trouble) throw new UsageError(`--fault: ${trouble}`);
  return faults;
}

/** Faults as the simulated bench takes them, with the pairs of nodes that its bridges are between. */
export interface BenchFaults {
  readonly faults: readonly FaultAt[];
  readonly bridges: readonly (readonly [number, number])[];
}

/** Faults given by `--fault`, in every word that `solve` takes. @throws UsageError where the circuit has no such fault */
export function benchFaults(network: Network, texts: readonly string[]): BenchFaults {
  return faultsAtSupposed(network, faultsGiven(network, texts));
}
