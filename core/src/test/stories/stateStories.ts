import { LANTERN, ONE_LAMP, type Story, SWITCHED, VENT } from "./story.ts";

/** Switches moved, leads lifted, parts swapped and tried alone. */
export const STATE_STORIES: readonly Story[] = [
  // Switches.
  {
    tells: "an open switch that stays open when it is closed",
    trail: "BT1 12V: S1 open + [A] R1 100 5%",
    lines: ["S1 closed", "A 0"],
    first: "S1 stuckOpen",
    least: { "S1 stuckOpen": 0.45 },
  },
  {
    tells: "half the volts behind a switch, none when it is opened",
    trail: SWITCHED,
    lines: ["A 6.00", "S1 open", "A 0.00"],
    least: { "S1 high": 0.2 },
    most: { "S1 stuckClosed": 0.01, "S1 stuckOpen": 0.01 },
  },
  {
    tells: "a welded switch",
    trail: SWITCHED,
    lines: ["A 11.99", "S1 open", "A 11.99"],
    first: "S1 stuckClosed",
    stands: "settled",
    repair: "S1",
  },
  {
    tells: "closed is what it was drawn",
    trail: SWITCHED,
    lines: ["S1 closed", "A 11.99"],
    most: { "S1 stuckClosed": 0 },
  },
  {
    tells: "a switch that works is not stuck",
    trail: LANTERN,
    lines: ["LA1 dark", "S1 works"],
    most: { "S1 stuckOpen": 0.002 },
  },
  {
    tells: "opened and closed again, all as it should",
    trail: SWITCHED,
    lines: ["A 11.98", "S1 open", "A 0.00", "S1 closed", "A 11.98"],
    most: { "S1 stuckClosed": 0.01, "S1 stuckOpen": 0.01 },
  },
  // Clearing a bridge.
  {
    tells: "a bridge that was cleared is what it was, and is no more",
    trail: VENT,
    lines: ["A 23.90", "B 23.90", "D 23.90", "A-D cleared", "A 23.97", "B 17.10", "C 8.88", "D 3.14"],
    first: "A~D",
    stands: "settled",
  },
  {
    tells: "where clearing a bridge changes nothing, it was something else",
    trail: VENT,
    lines: ["A 23.90", "B 23.90", "D 23.90", "A-D cleared", "B 23.90", "D 23.90"],
    most: { "A~D": 0.01 },
  },
  // Lifting a lead.
  {
    tells: "the lifted part is good",
    trail: VENT,
    lines: ["A 23.97", "B 19.99", "D 1.82", "R3 lifted", "R3 lifted 470"],
    first: "R4 open",
    stands: "settled",
    repair: "R4",
  },
  {
    tells: "the lifted part, its name alone",
    trail: VENT,
    lines: ["A 23.97", "B 19.99", "D 1.82", "R3 lifted", "R3 470ohm"],
    first: "R4 open",
    stands: "settled",
    repair: "R4",
  },
  {
    tells: "the lifted part is open",
    trail: VENT,
    lines: ["A 23.97", "B 19.99", "D 1.82", "R3 lifted", "R3 OL"],
    first: "R3 open",
    stands: "settled",
    repair: "R3",
  },
  {
    tells: "a lifted part that has climbed",
    trail: "BT1 18V: [A] R1 150 + [B] (R2 1k5 | R3 560)",
    lines: ["R2 lifted", "R2 7.2kohm"],
    first: "R2 high",
    least: { R2: 0.85 },
    most: { R3: 0.05 },
  },
  {
    tells: "read with a lead off, the lead counts as off",
    trail: VENT,
    lines: ["R2 lifted", "B 19.29", "C 11.13", "D 2.14"],
    most: { "R1 high": 0.05, "R4 high": 0.05, "R2 open": 0.12 },
  },
  // Swaps, and parts alone.
  {
    tells: "a new lamp lights",
    trail: LANTERN,
    lines: ["LA1 dark", "LA1 swapped", "LA1 lit"],
    first: "LA1 open",
    least: { LA1: 0.9 },
  },
  {
    tells: "a new lamp stays dark",
    trail: LANTERN,
    lines: ["LA1 dark", "LA1 swapped, still dark"],
    most: { "LA1 open": 0.02 },
  },
  {
    tells: "the lamp alone stays dark, on a new battery too; a new lamp lights",
    trail: ONE_LAMP,
    lines: ["LA1 dark", "LA1 alone dark", "BT1 swapped", "LA1 alone dark", "LA1 swapped", "LA1 alone lit", "LA1 lit"],
    first: "LA1 open",
    least: { LA1: 0.85 },
    most: { "BT1 dead": 0.05 },
  },
  {
    tells: "a lamp that lights alone is good",
    trail: LANTERN,
    lines: ["LA1 dark", "LA1 alone lit"],
    most: { "LA1 open": 0.05 },
  },
  {
    tells: "the same with a new part: it was not that one",
    trail: VENT,
    lines: ["B 19.99", "D 1.82", "R3 swapped", "B 19.99"],
    first: "R4 open",
    most: { "R3 open": 0.02 },
  },
];
