import type { ProbeSet } from "../../measure/index.ts";

/** What blocks is no resistance in a row. */
const BLOCKS = 1e8;

/**
 * Width of the range in which a reading that is "anything else" would lie, in the reading's unit: ±1.5 Σ|E| for volts,
 * that over the smallest resistance a supply sees for amperes, 1.5 times all resistance in a row for ohms.
 */
export function spansOf(set: ProbeSet): Float64Array {
  const { network, settings, probes } = set;
  const { ports } = settings[0];
  let volts = 0;
  let ohms = 0;
  let amps = 0;
  network.branches.forEach((branch, k) => {
    const resistance = ports.point.ohms[k];
    if (branch.law.kind !== "supply" && resistance < BLOCKS) ohms += resistance;
    if (branch.law.kind !== "supply") return;
    volts += Math.abs(branch.law.volts);
    amps = Math.max(amps, Math.abs(ports.point.amps[k]));
  });
  const width = { voltage: 3 * (volts || 1), current: 3 * Math.max(amps, 1e-3), resistance: 1.5 * (ohms || 1) };
  return Float64Array.from(probes, ({ reading }) => Math.max(width[reading.quantity], 3 * Math.abs(reading.value)));
}
