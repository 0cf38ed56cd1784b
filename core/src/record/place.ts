import { pairKey } from "../configuration/index.ts";
import { isDiodeTest, type NumericReading } from "./reading.ts";

/**
 * Whether two readings are of the same points, whichever way round; how the circuit stood does not matter.
 * @param reference what a missing second point stands for
 */
export function isSamePlace(one: NumericReading, other: NumericReading, reference = ""): boolean {
  if (one.quantity !== other.quantity) return false;
  if (one.quantity === "current") return one.through === (other as typeof one).through;
  type Across = Exclude<NumericReading, { quantity: "current" }>;
  const liftedOf = (r: Across) => r.lifted;
  if (isDiodeTest(one) !== isDiodeTest(other)) return false;
  // A junction is another one the other way round.
  if (isDiodeTest(one) && (one.from !== (other as Across).from || liftedOf(one) !== liftedOf(other as Across)))
    return false;
  const ends = (r: Across) => pairKey(r.from ?? "", r.to ?? reference);
  return ends(one) === ends(other as Across) && liftedOf(one) === liftedOf(other as Across);
}
