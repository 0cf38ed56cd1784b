import type { Network } from "@hound/core/circuit";
import { useMemo } from "react";
import { useDesk } from "../desk/DeskContext.tsx";
import { type MeasuredRow, measuredRows } from "./measuredRows.ts";

/** What was read on this job beside what the circuit should give there. */
export function useMeasured(network: Network): MeasuredRow[] {
  const { readings, meter } = useDesk();
  return useMemo(
    () =>
      measuredRows(
        network,
        readings.map((r) => r.reading),
        meter,
      ),
    [network, readings, meter],
  );
}
