import type { Network } from "../circuit/index.ts";
import { isSameState } from "../configuration/index.ts";
import { isSamePlace, type MeterData, type NumericReading, type Reading } from "../record/index.ts";
import { corrected } from "./correction.ts";
import { limitOf } from "./limits.ts";

/** A part's own ohms as they were measured. */
export interface MeasuredPart {
  readonly name: string;
  readonly ohms: number;
  /** Two standard deviations of the meter, in ohms. */
  readonly plusMinus: number;
}

/**
 * The network with every part's ohms as they were measured, where they were: with a lead lifted, or across a part that
 * nothing else leads past; what was not measured stays as it is marked.
 * @param readings as the circuit is drawn; the last of a part counts
 */
export function asMeasured(
  network: Network,
  readings: readonly Reading[],
  meter: MeterData,
): { readonly network: Network; readonly parts: readonly MeasuredPart[] } {
  const parts: MeasuredPart[] = [];
  const branches = network.branches.map((branch, k) => {
    const { law, part, name } = branch;
    if (law.kind !== "resistance") return branch;
    const reading = readings.findLast((r): r is NumericReading => isOwn(network, k, r));
    if (!reading || reading.beyond || !(corrected(reading, meter).value > 0)) return branch;
    const ohms = corrected(reading, meter).value;
    const plusMinus = limitOf(reading, meter);
    parts.push({ name, ohms, plusMinus });
    return { ...branch, law: { ...law, ohms }, part: { ...part, tolerance: plusMinus / ohms } };
  });
  return { network: { ...network, branches }, parts };
}

/** True of a reading that shows a part's own ohms. */
function isOwn({ branches, nodes, reference }: Network, k: number, reading: Reading): boolean {
  if (reading.quantity !== "resistance") return false;
  const { name, from, to } = branches[k];
  if (reading.lifted !== undefined) return reading.lifted === name;
  if (!isSameState(reading.state)) return false;
  const across: NumericReading = { quantity: "resistance", from: nodes[from], to: nodes[to], value: 0 };
  if (from === to || !isSamePlace(across, reading, nodes[reference])) return false;
  // Nothing else leads from one end to the other; supplies are disconnected.
  const reached = new Set([from]);
  for (let size = 0; size < reached.size; ) {
    size = reached.size;
    branches.forEach((b, other) => {
      if (other === k || b.kind === "supply" || b.law.kind === "open") return;
      if (reached.has(b.from) || reached.has(b.to)) reached.add(b.from).add(b.to);
    });
  }
  return !reached.has(to);
}
