import type { PointReach } from "@hound/core/coach";
import type { Configuration } from "@hound/core/configuration";
import { useEffect, useRef, useState } from "react";
import { useDesk } from "../desk/DeskContext.tsx";
import type { Ranked } from "../ranking/useRanking.ts";

/** Of circuits of more parts it is not worked out: some hundred solutions, each as costly as all parts cubed. */
const MOST = 60;
const UNKNOWN: readonly PointReach[] = [];

/**
 * What may be read at every point with one fault at most: worked out once for a circuit as it stands, after the ranking is
 * there; nothing where it is not known yet, or where the circuit is large.
 */
export function useReaches(ask: Ranked["ask"], standing: Configuration, isJudged: boolean): readonly PointReach[] {
  const { drawn, meter } = useDesk();
  // The first ranking comes before it; then it waits for no other.
  const wasJudged = useRef(false);
  wasJudged.current ||= isJudged;
  const isReady = wasJudged.current;
  const [known, setKnown] = useState<{ readonly of: unknown; readonly reaches: readonly PointReach[] } | null>(null);
  // With a value that nobody knows there is nothing to be worked out.
  const isKnown = drawn !== null && !drawn.outdated && drawn.settled === null;
  const circuit = isKnown && drawn.circuit.parts.length <= MOST ? drawn.circuit : null;
  useEffect(() => {
    if (!circuit || !isReady) return;
    let isOld = false;
    ask({ of: "reaches", circuit, standing, meter }).then((answer) => {
      if (!isOld && answer?.of === "reaches") setKnown({ of: circuit, reaches: answer.reaches });
    });
    return () => {
      isOld = true;
    };
  }, [circuit, standing, meter, isReady, ask]);
  return known && known.of === circuit ? known.reaches : UNKNOWN;
}
