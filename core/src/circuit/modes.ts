/** What can be wrong with a part; `wiperOpen` is a potentiometer's alone, `bridged` is between two nodes, `misplaced` a lead on the wrong one, `leaky` ohms beside what should block, `reversed` the wrong way round. */
export const MODES = [
  "open",
  "short",
  "high",
  "low",
  "dead",
  "weak",
  "stuckOpen",
  "stuckClosed",
  "wiperOpen",
  "bridged",
  "misplaced",
  "leaky",
  "reversed",
] as const;
export type Mode = (typeof MODES)[number];
