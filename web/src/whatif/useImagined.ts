import type { Network } from "@hound/core/circuit";
import type { Configuration } from "@hound/core/configuration";
import { type Meter, meterData } from "@hound/core/record";
import { type Base, baseOf, compareWith, type Supposed, type Unsolved } from "@hound/core/whatif";
import { useMemo } from "react";
import type { Imagined } from "../board/imagined.ts";
import { useSame } from "../desk/useSame.ts";

const NOTHING: Unsolved = { kind: "unsolved", at: "the circuit", why: "there is none" };

/** The circuit beside itself with faults; what is healthy is worked out once. Unsolved where either cannot be solved. */
export function useImagined(
  network: Network | null,
  supposed: readonly Supposed[] | null,
  stands: Configuration,
  meter: Meter,
  isSuspect: boolean,
): Imagined | Unsolved | null {
  const standing = useSame(stands);
  const isWanted = supposed !== null;
  const base: Base | Unsolved = useMemo(
    () => (network && isWanted ? baseOf(network, standing, meterData(meter)) : NOTHING),
    [network, isWanted, standing, meter],
  );
  return useMemo(() => {
    if (!supposed) return null;
    const comparison = base.kind === "unsolved" ? base : compareWith(base, supposed);
    return comparison.kind === "unsolved" ? comparison : { supposed, comparison, isSuspect };
  }, [base, supposed, isSuspect]);
}
