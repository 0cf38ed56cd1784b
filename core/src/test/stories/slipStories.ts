import { DIVIDER, type Story, VENT } from "./story.ts";

/** Readings that were mis-taken: one, some, all. */
export const SLIP_STORIES: readonly Story[] = [
  // One reading, all readings, and slips.
  {
    tells: "a lone reading with the leads swapped",
    trail: VENT,
    lines: ["B -17.07"],
    first: ["nothing", "BT1 weak"],
    slips: { 0: "sign" },
    stands: "open",
  },
  {
    tells: "every reading with the leads swapped",
    trail: VENT,
    lines: ["A -23.98", "B -17.07", "D -3.14"],
    slips: { 0: "sign", 1: "sign", 2: "sign" },
    most: { "R1 high": 0.05, R3: 0.05 },
  },
  {
    tells: "a lone zero may be no contact",
    trail: VENT,
    lines: ["A 0"],
    first: "F1 open",
    least: { nothing: 5e-5 },
    most: { "R1 open": 0.01 },
  },
  {
    tells: "one reading a thousandth",
    trail: VENT,
    lines: ["A 23.98", "B 17.07mV", "C 9.0", "D 3.14"],
    slips: { 1: "milli" },
    least: { nothing: 0.05 },
  },
  {
    tells: "a decade too much is a slip, not an exotic pair",
    trail: DIVIDER,
    lines: ["A 239.7"],
    slips: { 0: "ten" },
    most: { "BT1 weak & R1 low": 0.05 },
  },
  {
    tells: "ohms typed where volts were asked for",
    trail: DIVIDER,
    lines: ["A 23.98", "B 220"],
    slips: { 1: "other" },
    most: { "BT1 weak & R1 low": 0.02 },
  },
  {
    tells: "volts of nothing where volts are due",
    trail: VENT,
    lines: ["A 23.98", "B 17.07", "C 0.00", "D 3.14"],
    slips: { 2: "zero" },
  },
  {
    tells: "two slips among four",
    trail: VENT,
    lines: ["A -23.98", "B 17.07", "C 9020", "D 3.14"],
    slips: { 0: "sign" },
    most: { R3: 0.2, R4: 0.2 },
  },
  {
    tells: "the meter's own fuse: every current reads nothing",
    trail: VENT,
    lines: ["A 23.98", "B 17.07", "D 3.14", "R1 0.00mA", "R5 0.00mA"],
    slips: { 3: "zero", 4: "zero" },
  },
];
