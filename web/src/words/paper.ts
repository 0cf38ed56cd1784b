import type { Network } from "@hound/core/circuit";
import type { FaultAt } from "@hound/core/faults";
import type { Say } from "@hound/core/paper";
import { modeWords } from "./faults.ts";
import { shown } from "./quantities.ts";

/** How figures and faults are written in exercises: with the decimal sign agreed on. */
export const SAY: Say = {
  print: (value, unit) => shown(value, unit, 3),
  fault: ({ site }: FaultAt, { branches }: Network) =>
    `${branches[site.branch]?.name ?? "two nodes"} ${modeWords(site.mode)}`,
};

/** `4 of 5`, `4½ of 5`: as much as was right. */
export function rightWords(share: number, questions: number): string {
  const right = share * questions;
  const whole = Math.floor(right + 1e-9);
  const rest = right - whole;
  const some = rest < 0.2 ? "" : rest < 0.8 ? "½" : "";
  return `${rest >= 0.8 ? whole + 1 : whole === 0 && some !== "" ? "" : whole}${some} of ${questions}`;
}
