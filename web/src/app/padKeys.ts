/** What the keys of a number pad do besides typing a number; the list of shortcuts shows the same. */
export const PAD_KEYS = {
  Enter: "records; with nothing typed, ticks the next step of a current reading",
  "+": "takes the correction that is asked about; with nothing typed, not now: the next point",
  "−": "minus; by itself and Enter, takes the last reading back",
  "*": "over range",
  "/": "the next kind: volts, amperes, ohms, a look",
} as const;
