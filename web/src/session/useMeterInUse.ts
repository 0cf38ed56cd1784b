import { meterData, type NumericReading, type Quantity, type Reading } from "@hound/core/record";
import { useMemo } from "react";
import { useOnDevice } from "../app/device.ts";
import { useDesk } from "../desk/DeskContext.tsx";

/** Which of the job's meters is in hand on this device, and the range it is set to where that was said. */
export interface MeterInUse {
  /** Names of the job's meters, the first one first. */
  readonly names: readonly string[];
  readonly name: string;
  readonly use: (name: string) => void;
  /** The range it is set to, by what is measured: as one writes it, `20V`; empty where the digits tell. */
  readonly rangeOf: (quantity: Quantity) => string;
  readonly setRange: (quantity: Quantity, range: string) => void;
  /** A reading as taken with it; what says a meter or a range itself keeps it. */
  readonly on: <R extends Reading>(reading: R) => R;
  readonly onPoint: (point: NumericReading | null) => NumericReading | null;
}

export function useMeterInUse(): MeterInUse {
  const { state, meter } = useDesk();
  const [chosen, choose] = useOnDevice(`meter:${state.job.id}`, "");
  const [set, setAll] = useOnDevice(`ranges:${state.job.id}`, "{}");
  return useMemo(() => {
    const data = meterData(meter);
    const names = [data.name, ...[...data.others.values()].map((m) => m.name)];
    const name = names.includes(chosen) ? chosen : data.name;
    const ranges = JSON.parse(set) as Partial<Record<Quantity, string>>;
    const on = <R extends Reading>(reading: R): R => {
      if (reading.quantity === "observation") return reading;
      const range = ranges[reading.quantity] ?? "";
      const own = reading.meter === undefined && name !== "" ? { meter: name } : {};
      // Another meter has other ranges.
      const isHere = (reading.meter ?? name) === name;
      return { ...reading, ...own, ...(reading.range === undefined && range !== "" && isHere ? { range } : {}) };
    };
    return {
      names,
      name,
      use: (next) => {
        choose(next);
        setAll("{}");
      },
      rangeOf: (quantity) => ranges[quantity] ?? "",
      setRange: (quantity, range) => setAll(JSON.stringify({ ...ranges, [quantity]: range })),
      on,
      onPoint: (point) => point && on(point),
    };
  }, [meter, chosen, choose, set, setAll]);
}
