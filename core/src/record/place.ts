import type { NumericReading } from "./reading.ts";

/**
 * Whether two readings are of the same points, whichever way round; how the circuit stood does not matter.
 * @param reference what a missing second point stands for
 */
export function isSamePlace(one: NumericReading, other: NumericReading, reference = ""): boolean {
  if (one.quantity !== other.quantity) return false;
  if (one.quantity === "current") return one.through === (other as typeof one).through;
  const ends = (r: NumericReading) => ("from" in r ? [r.from ?? "", r.to ?? reference].sort().join("~") : "");
  const lifted = (r: NumericReading) => (r.quantity === "resistance" ? r.lifted : undefined);
  return ends(one) === ends(other) && lifted(one) === lifted(other);
}
