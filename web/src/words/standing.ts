import type { Configuration } from "@hound/core/record";

/** How the circuit stood, where it was not as drawn: “a lead of R3 lifted”, “S1 open”, “known-good F1”. */
export function standingWords({
  switches = {},
  lifted = [],
  swapped = [],
  off = [],
  meters = [],
}: Configuration): string[] {
  return [
    ...swapped.map((part) => `known-good ${part}`),
    ...lifted.map((part) => `a lead of ${part} lifted`),
    ...Object.entries(switches).map(([part, position]) => `${part} ${position}`),
    ...off.map((part) => `${part} off`),
    ...meters.map((m) => ("through" in m ? `a meter left in ${m.through}` : `a meter left at ${m.from}`)),
  ];
}
