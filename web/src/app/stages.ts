/** The stages that exist, in the order a job is done. */
export const STAGES = {
  circuit: "Circuit",
  expected: "Expected",
  readings: "Readings",
  whatif: "What-if",
  suspects: "Suspects",
  repair: "Repair",
} as const;
export type Stage = keyof typeof STAGES;
export const STAGE_NAMES = Object.keys(STAGES) as Stage[];
