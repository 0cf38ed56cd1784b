import type { Network } from "../circuit/index.ts";
import { isSameState } from "../configuration/index.ts";
import { type Closure, closuresOf } from "../measure/index.ts";
import type { MeterData, NumericReading } from "../record/index.ts";

/** A sum that a reading closes, and that does not come out. */
export interface OpenSum {
  readonly closure: Closure;
  /** Readings in it, the new one last; and which of them is most probably off, where one can be named. */
  readonly readings: readonly NumericReading[];
  readonly suspect: NumericReading | null;
}

/** A sum is asked about from so many limits on: one limit is two standard deviations. */
const CLOSES = 2;

/**
 * Kirchhoff's laws on a reading that closes a loop or a junction with those before it, taken in the same state of the
 * circuit. They hold whatever is wrong in it.
 */
export function openSum(
  network: Network,
  before: readonly NumericReading[],
  reading: NumericReading,
  meter: MeterData,
): OpenSum | null {
  const same = before.filter((r) => isSameState(r.state, reading.state) && !r.beyond);
  const readings = [...same, reading];
  const { checks, suspect } = closuresOf(network, readings, meter);
  const last = readings.length - 1;
  const closure = checks
    .filter((c) => Math.abs(c.limits) > CLOSES && c.terms.some((t) => t.reading === last))
    .reduce<Closure | null>((worst, c) => (worst && Math.abs(worst.limits) >= Math.abs(c.limits) ? worst : c), null);
  return closure && { closure, readings, suspect: suspect === null ? null : readings[suspect] };
}
