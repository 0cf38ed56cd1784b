import type { Network } from "@hound/core/circuit";
import { readSupposed, type Supposed, troubleWithSupposed } from "@hound/core/whatif";
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
