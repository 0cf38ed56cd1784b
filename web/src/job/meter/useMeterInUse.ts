import { meterData, type NumericReading, type Reading } from "@hound/core/record";
import { useMemo } from "react";
import { useOnDevice } from "../../app/device.ts";
import { useDesk } from "../DeskContext.tsx";

/** Which of the job's meters is in hand on this device, and the range it is set to where that was said. */
export interface MeterInUse {
  /** Names of the job's meters, the first one first. */
  readonly names: readonly string[];
  readonly name: string;
  readonly use: (name: string) => void;
  /** A reading, or a point, as taken with it; what says a meter itself keeps it. */
  readonly on: <R extends Reading | NumericReading>(reading: R) => R;
}

export function useMeterInUse(): MeterInUse {
  const { state, meter } = useDesk();
  const [chosen, choose] = useOnDevice(`meter:${state.job.id}`, "");
  return useMemo(() => {
    const data = meterData(meter);
    const names = [data.name, ...[...data.others.values()].map((m) => m.name)];
    const name = names.includes(chosen) ? chosen : data.name;
    return {
      names,
      name,
      use: choose,
      on: (reading) =>
        name === "" || reading.meter !== undefined || reading.quantity === "observation"
          ? reading
          : { ...reading, meter: name },
    };
  }, [meter, chosen, choose]);
}
