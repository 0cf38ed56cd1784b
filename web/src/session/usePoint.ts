import { type OpenSum, openSum, type SlipQuestion, type ToldAt } from "@hound/core/coach";
import type { Configuration } from "@hound/core/configuration";
import { meterData, type NumericReading, type Reading, takenSo } from "@hound/core/record";
import { useEffect, useMemo, useState } from "react";
import { useDesk } from "../desk/DeskContext.tsx";
import { useSame } from "../desk/useSame.ts";
import type { Ranked } from "../ranking/useRanking.ts";

/** What is known of a point before it is read, and what may be wrong with what was typed there. */
export interface PointKnown {
  readonly told: ToldAt | null;
  readonly questions: readonly SlipQuestion[];
  readonly sum: OpenSum | null;
}

/** Milliseconds without a key. */
const RESTS = 120;
const NOTHING: PointKnown = { told: null, questions: [], sum: null };

/** Asks the suspects about a point: a proposal, or a reading as it is typed. What they said of another point is gone at once. */
export function usePoint(
  asked: NumericReading | null,
  isTyped: boolean,
  ask: Ranked["ask"],
  standing: Configuration,
  /** Changes whenever what was weighed does. */
  weighed: unknown,
): PointKnown {
  const { drawn, readings, meter } = useDesk();
  const point = useSame(asked && takenSo(asked, standing));
  const [answer, setAnswer] = useState<{ of: unknown; known: PointKnown } | null>(null);
  // biome-ignore lint/correctness/useExhaustiveDependencies: asked again when what was weighed is another
  useEffect(() => {
    if (!point) return;
    let isOld = false;
    // Ranking comes first: what is typed is asked about when the hand rests.
    const timer = setTimeout(
      () =>
        ask({ of: "point", point, isTyped }).then((found) => {
          if (isOld || found?.of !== "point") return;
          setAnswer({ of: point, known: { told: found.told, questions: found.questions, sum: null } });
        }),
      isTyped ? RESTS : 0,
    );
    return () => {
      isOld = true;
      clearTimeout(timer);
    };
  }, [point, isTyped, ask, weighed]);
  const sum = useMemo(() => {
    if (!point || !isTyped || !drawn || point.beyond) return null;
    const before = readings.flatMap(({ reading }) => (isNumeric(reading) ? [reading] : []));
    return openSum(drawn.network, before, point, meterData(meter));
  }, [point, isTyped, drawn, readings, meter]);
  const known = answer && answer.of === point ? answer.known : NOTHING;
  return useMemo(() => ({ ...known, questions: isTyped ? known.questions : [], sum }), [known, isTyped, sum]);
}

const isNumeric = (reading: Reading): reading is NumericReading => reading.quantity !== "observation";
