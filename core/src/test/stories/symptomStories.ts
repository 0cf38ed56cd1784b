import { LAMPS, type Story } from "./story.ts";

/** What parts show, and what faults do to others. */
export const SYMPTOM_STORIES: readonly Story[] = [
  // Symptoms.
  {
    tells: "a silent relay, and no volts at it",
    trail: "BT1 24V: S1 + [A] K1 100",
    lines: ["K1 silent", "A 0.00"],
    most: { K1: 0.05 },
  },
  {
    tells: "a silent relay with its volts on it",
    trail: "BT1 24V: S1 + [A] K1 100",
    lines: ["K1 silent", "A 23.97"],
    first: "K1 open",
    least: { K1: 0.9 },
  },
  {
    tells: "a cold heater with its volts on it",
    trail: "BT1 24V: S1 + [A] HR1 24V 60W",
    lines: ["HR1 cold", "A 23.98"],
    first: "HR1 open",
    least: { HR1: 0.9 },
  },
  {
    tells: "one lamp of three is dark",
    trail: LAMPS,
    lines: ["LA1 lit", "LA2 dark", "LA3 lit"],
    first: ["LA2 open", "S1 stuckOpen"],
    most: { BT1: 0.05 },
  },
  {
    tells: "all lamps are dark: what they share",
    trail: LAMPS,
    lines: ["LA1 dark", "LA2 dark", "LA3 dark"],
    first: "BT1 dead",
  },
  {
    tells: "a lamp for half the volts burns too bright",
    trail: "BT1 24V: [A] LA1 12V 5W",
    lines: ["LA1 bright", "A 23.9"],
    overloads: ["LA1"],
  },
  // Consequences.
  {
    tells: "a fuse blown, nothing else known: look for what blew it",
    trail: "BT1 24V ri=0.1: F1 3A + [A] R1 12 5% 50W",
    lines: ["A 0", "F1 blown"],
    first: "F1 open",
    least: { "F1 open & R1 short": 0.002 },
  },
  {
    tells: "a weak supply blows nothing",
    trail: "BT1 24V ri=0.1: F1 3A + [A] R1 12 5% 50W",
    lines: ["A 0", "F1 blown"],
    least: { F1: 0.95 },
  },
  {
    tells: "a short that blew the fuse",
    trail: "BT1 12V ri=0.05: [P] F1 1A + [A] (LA1 12V 5W | R1 22 5% + [B] R2 33 5%)",
    lines: ["P 12.0", "A 0.000", "F1 blown", "A-0 0.1ohm"],
    first: "F1 open & LA1 short",
  },
  {
    tells: "a fuse that is intact did not blow",
    trail: "BT1 24V ri=0.1: F1 3A + [A] R1 12 5% 50W",
    lines: ["A 0", "F1 intact"],
    most: { "F1 open": 0.1 },
  },
];
