import type { Advice } from "@hound/core/coach";
import { isUnpowered, type NumericReading } from "@hound/core/record";
import type { Doing } from "@hound/core/safety";
import type { PointKnown } from "./usePoint.ts";

/** What somebody does who reads there with the meter set so, as far as it matters for cautions. */
export function doingAt(point: NumericReading | null, { told }: PointKnown, { quantity, range }: Advice): Doing {
  if (point?.quantity === "current") {
    const fuse = range.fuse === undefined ? {} : { fuse: range.fuse };
    return { kind: "current", part: point.through, ...(told ? { amps: told.highest } : {}), ...fuse };
  }
  if (quantity === "voltage" && !(point && isUnpowered(point))) return { kind: "voltage" };
  const lifted = point?.lifted;
  return lifted === undefined ? { kind: "ohms" } : { kind: "lift", part: lifted };
}
