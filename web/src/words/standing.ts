import type { Configuration } from "@hound/core/record";
import { print } from "./print.ts";

/** How the circuit stood, where it was not as drawn: “a lead of R3 lifted”, “S1 open”, “known-good F1”. */
export function standingWords({
  switches = {},
  lifted = [],
  swapped = [],
  off = [],
  out = [],
  values = {},
  added = [],
  meters = [],
  cleared = [],
  leads,
}: Configuration): string[] {
  return [
    ...swapped.map((part) => `known-good ${part}`),
    ...lifted.map((part) => `a lead of ${part} lifted`),
    ...Object.entries(switches).map(([part, position]) => `${part} ${position}`),
    ...off.map((part) => `${part} off`),
    ...out.map((part) => `${part} taken out`),
    ...Object.entries(values).map(([part, value]) => `${part} now ${print(value, "ohm", { digits: 3 })}`),
    ...added.map((a) => `${print(a.ohms, "ohm", { digits: 3 })} between ${a.from} and ${a.to ?? "the reference"}`),
    ...meters.map((m) => ("through" in m ? `a meter left in ${m.through}` : `a meter left at ${m.from}`)),
    ...cleared.map(([a, b]) => `bridge ${a}–${b} cleared`),
    ...(leads === undefined ? [] : [`${print(leads, "ohm", { digits: 3 })} of leads taken off`]),
  ];
}
