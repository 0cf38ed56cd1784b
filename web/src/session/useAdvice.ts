import { type Advice, adviceFor, type ToldAt } from "@hound/core/coach";
import type { NumericReading } from "@hound/core/record";
import { useMemo, useRef } from "react";
import { useDesk } from "../desk/DeskContext.tsx";
import { isLarge } from "./large.tsx";
import type { PointKnown } from "./usePoint.ts";

/** How to set the meter, and the most that may come there. */
export interface AdviceNow extends Advice {
  readonly highest: number;
}

/**
 * How to set the meter for a point; null until the suspects have said what may come there. While a value is typed what they
 * said of its place stays.
 */
export function useAdvice(point: NumericReading | null, { told }: PointKnown): AdviceNow | null {
  const { drawn, meter } = useDesk();
  const heard = useRef<{ readonly place: string; readonly told: ToldAt } | null>(null);
  const place = point ? JSON.stringify({ ...point, value: 0, step: undefined, beyond: undefined }) : "";
  if (told) heard.current = { place, told };
  const known = told ?? (heard.current?.place === place ? heard.current.told : null);
  return useMemo(() => {
    if (!drawn || !point || !known || isLarge(drawn.network)) return null;
    return { ...adviceFor(drawn.network, point, meter, known), highest: known.highest };
  }, [drawn, meter, point, known]);
}
