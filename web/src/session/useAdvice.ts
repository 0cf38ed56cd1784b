import { type Advice, adviceFor } from "@hound/core/coach";
import type { NumericReading } from "@hound/core/record";
import { useMemo } from "react";
import { useDesk } from "../desk/DeskContext.tsx";
import { expectEach } from "./healthy.ts";
import { isLarge } from "./large.tsx";
import type { PointKnown } from "./usePoint.ts";

/** How to set the meter for a point; by what a healthy circuit has there until the suspects have been asked. */
export function useAdvice(point: NumericReading | null, { told }: PointKnown): Advice | null {
  const { drawn, meter } = useDesk();
  return useMemo(() => {
    if (!drawn || !point || isLarge(drawn.network)) return null;
    const healthy = expectEach(drawn.network, [{ ...point, value: 0 }], meter)[0]?.value ?? 0;
    const expected = told ?? { highest: Math.abs(healthy), likely: healthy };
    return adviceFor(drawn.network, point, meter, expected);
  }, [drawn, meter, point, told]);
}
