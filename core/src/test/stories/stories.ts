import type { Meter, Situation } from "../../record/index.ts";

/**
 * Everyday jobs as a technician types them, and what a good one concludes. Names of suspects are `R3 open`, `B~D` (a
 * bridge), `F1 open & R3 short`; probabilities are bounds.
 */
export interface Story {
  readonly tells: string;
  readonly trail: string;
  readonly lines: readonly string[];
  readonly situation?: Situation;
  readonly meter?: Meter;
  /** Where the job then stands, and the part or parts to be replaced where it is settled. */
  readonly stands?: "settled" | "healthy" | "open" | "stuck";
  readonly repair?: string;
  /** The likeliest suspect, or those among which it is. */
  readonly first?: string | readonly string[];
  /** Suspects with at least, and at most, this probability; a part's name stands for all of its faults. */
  readonly least?: Readonly<Record<string, number>>;
  readonly most?: Readonly<Record<string, number>>;
  /** Readings mis-taken with more than half: number from 0, and how. */
  readonly slips?: Readonly<Record<number, string>>;
  /** The leads' ohms are in every ohms reading. */
  readonly forgotten?: boolean;
  /** Readings that are a power of ten off. */
  readonly decade?: Readonly<Record<number, number>>;
  /** The leading suspect's part is so many times its value. */
  readonly times?: number;
  /** Parts that the leading suspect runs beyond their rating. */
  readonly overloads?: readonly string[];
}

const VENT = "BT1 24V 2% ri=0.3: F1 1A + [A] R1 220 5% + [B] (R2 1k 5% | R3 470 2% + [C] R4 330 5%) + [D] R5 100 1%";
const SWITCHED = "BT1 12V: S1 + [A] R1 100 5%";
const LANTERN = "BT1 12V: F1 1A + [A] S1 + [B] LA1 12V 5W + [C] R1 1 5%";
const ONE_LAMP = "BT1 18V: [P] LA1 18V 4W";
const DIVIDER = "BT1 24V: [A] R1 220 5% + [B] R2 150 5%";
const BENCH = "PS1 9V ri=0: [P] R1 56 + [Q] R2 39";
const LAMPS = "BT1 12V: [P] (LA1 12V 5W | S1 + [A] LA2 12V 5W | LA3 12V 5W)";

export const STORIES: readonly Story[] = [
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
    slips: { 0: "other" },
    decade: { 0: 10 },
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
  // Healthy is an answer.
  {
    tells: "four perfect readings",
    trail: BENCH,
    lines: ["P 9.00", "Q 3.69", "P-Q 5.31", "R1 94.7mA"],
    stands: "healthy",
  },
  {
    tells: "a new build that agrees",
    trail: VENT,
    situation: "newBuild",
    lines: ["A 23.98", "B 17.07", "C 9.13", "D 3.14"],
    first: "nothing",
    least: { nothing: 0.7 },
  },
  {
    tells: "the same value five times is not five opinions",
    trail: "BT1 10V 1% ri=0: [A] R1 1k 1% + [B] R2 1k 1%",
    situation: "newBuild",
    lines: ["B 5.03", "B 5.03", "B 5.03", "B 5.03", "B 5.03"],
    least: { nothing: 0.5 },
  },
  {
    tells: "a dead circuit that shows some millivolts",
    trail: "BT1 12V: [P] R1 1k + [Q] R2 1k",
    lines: ["P 0.005", "Q 0.003"],
    first: "BT1 dead",
    least: { "BT1 dead": 0.85 },
  },
  {
    tells: "a track drawn loosely still divides well",
    trail: "BT1 10V 1%: [P] RV1 10k 20% at=50% wiper=[W]",
    situation: "newBuild",
    lines: ["P 9.99", "W 5.60"],
    first: ["RV1.top low", "RV1.bottom high", "RV1.top high", "RV1.bottom low"],
    most: { nothing: 0.1 },
  },
  {
    tells: "a lead on the node next to its own",
    trail: "BT1 9V: [A] R1 1k 1% + [B] R2 2k2 1% + [C] R3 3k3 1%",
    situation: "newBuild",
    lines: ["A 8.99", "B 8.99", "C 5.39"],
    first: "R2 misplaced",
    least: { "R2 misplaced": 0.3 },
  },
  // Ranges.
  {
    tells: "zero on a coarse range says little",
    trail: "BT1 12V: R1 4k7 5% + [B] R2 4k7 5%",
    lines: ["R1 0A @10A"],
    least: { nothing: 0.005 },
    most: { "R1 open": 0.3 },
  },
  {
    tells: "zero on a fine range says much",
    trail: "BT1 12V: R1 4k7 5% + [B] R2 4k7 5%",
    lines: ["R1 0.00mA"],
    first: ["BT1 dead", "R1 open", "R2 open"],
  },
  {
    tells: "over the top of the range",
    trail: DIVIDER,
    lines: ["A 23.98", "B OL @20V"],
    first: "R2 open",
    least: { R2: 0.5 },
  },
  // Without a supply.
  {
    tells: "ohms alone: a resistor that has climbed",
    trail: "[A] R1 1k 5% + [B] R2 2k2 5% + [C] R3 470 5% [D]",
    lines: ["R1 1.01kohm", "R2 3.9kohm", "R3 468ohm"],
    first: "R2 high",
    stands: "settled",
    repair: "R2",
  },
  {
    tells: "ohms alone with the leads taken off",
    trail: "[A] R1 2.2ohm 5% + [B] R2 4.7ohm 5% [C]",
    situation: "newBuild",
    lines: ["leads 0.4ohm", "R1 2.6ohm", "R2 5.1ohm"],
    first: "nothing",
  },
  {
    tells: "ohms alone, the leads' ohms in every one of them",
    trail: "[A] R1 2.2ohm 5% + [B] R2 4.7ohm 5% + [C] R3 10 5% + [D] R4 3.3ohm 5% [E]",
    situation: "newBuild",
    lines: ["R1 2.6ohm", "R2 5.1ohm", "R3 10.4ohm", "R4 3.7ohm"],
    first: "nothing",
    least: { nothing: 0.6 },
    forgotten: true,
  },
  {
    tells: "a resistor with its multiplier band misread",
    trail: "BT1 10V 1%: [A] R1 1k 1% + [B] R2 1k 1% + [C] R3 1k 1%",
    situation: "newBuild",
    lines: ["A 9.99", "B 9.16", "C 0.833"],
    first: "R2 high",
    times: 10,
  },
  // Values changed on purpose, parts in and out.
  {
    tells: "another value on purpose, and the readings follow",
    trail: DIVIDER,
    situation: "newBuild",
    lines: ["B 9.72", "R2 now 330", "B 14.40"],
    first: "nothing",
    least: { nothing: 0.5 },
  },
  {
    tells: "a part put in for a test shows the source's weakness",
    trail: "BT1 12V ri=0.1: [A] R1 1k 5%",
    lines: ["A 11.95", "A-0 now 10ohm", "A 6.00"],
    first: "BT1 weak",
    least: { "BT1 weak": 0.9 },
  },
  {
    tells: "a part taken out clears its neighbour",
    trail: "BT1 12V ri=0.1: R1 100 5% + [B] (R2 100 5% | R3 100 5%)",
    lines: ["B 0.00", "R3 out", "B 5.99"],
    first: "R3 short",
    least: { R3: 0.9 },
  },
  {
    tells: "a meter left in the branch is part of it",
    trail: "BT1 12V ri=0.1: [A] R1 100 5% + [B] R2 100 5%",
    situation: "newBuild",
    lines: ["R1 metered", "B 5.97"],
    first: "nothing",
  },
  // Ordinary faults, for good measure.
  {
    tells: "two opens that look alike until the point between is read",
    trail: VENT,
    lines: ["A 23.97", "B 19.99", "D 1.82"],
    first: ["R3 open", "R4 open"],
    stands: "open",
  },
  {
    tells: "and then one of them",
    trail: VENT,
    lines: ["A 23.97", "B 19.99", "D 1.82", "C 1.82"],
    first: "R3 open",
    stands: "settled",
    repair: "R3",
  },
  {
    tells: "a bad connector under load",
    trail: "BT1 12V: J1 10A + [A] LD1 12V 60W",
    lines: ["A 9.2", "BT1 11.95V", "J1 2.7V"],
    first: "J1 high",
    stands: "settled",
    repair: "J1",
  },
  {
    tells: "a shorted resistor",
    trail: VENT,
    lines: ["A 23.96", "B 13.4", "C 3.9", "D 3.9"],
    first: "R4 short",
    least: { R4: 0.8 },
  },
];
