import { printQuantity, type Unit } from "../units/index.ts";
import type { SafetyFacts } from "./facts.ts";

/** Where a caution is said. */
export type CautionPlace = "coach" | "whatif" | "suspects" | "breadboard" | "print";

/** What somebody is about to do, as far as it matters. */
export interface Doing {
  /** Taking volts, ohms, amperes; a lead lifted, a part swapped or held to the supply; a look; a fault imagined. */
  readonly kind: "voltage" | "ohms" | "current" | "lift" | "swap" | "alone" | "look" | "imagine";
  readonly part?: string;
  /** Of a current: the most that any live suspect foretells, and the fuse of the socket. */
  readonly amps?: number;
  readonly fuse?: number;
  /** Of an imagined fault: that it joins what should be apart, and the parts that it runs beyond their ratings. */
  readonly isShort?: boolean;
  readonly overloads?: readonly {
    readonly part: string;
    readonly value: number;
    readonly rating: number;
    readonly unit: Unit;
  }[];
}

export interface Caution {
  readonly id: CautionId;
  readonly words: string;
  /** Can hurt somebody at once; the others come to harm a part or a meter. */
  readonly isDanger: boolean;
}

interface Row {
  /** What sets it off, in a sentence. */
  readonly when: string;
  readonly places: readonly CautionPlace[];
  readonly isDanger: boolean;
  /** The words, or null where there is no cause for them. */
  readonly say: (facts: SafetyFacts, doing: Doing | undefined) => string | null;
}

/** Volts from which a shock is taken seriously: alternating and direct, dry and wet (extra-low voltage, IEC 61140). */
const SHOCK_VOLTS = { dry: { ac: 30, dc: 60 }, wet: { ac: 12, dc: 30 } } as const;
/** Amperes into a short that make a ring or a spanner glow. */
const STRONG_AMPS = 100;
/** Volts and amperes that a solderless breadboard is for. */
const BREADBOARD = { volts: 30, amps: 1 } as const;
/** Share of its rating from which a part is too hot for a finger. */
const HOT_SHARE = 0.5;

const amount = (value: number, unit: Unit) => printQuantity(value, unit, { digits: 3 }).replace(/\.0+(?=\u00a0)/, "");
const list = (names: readonly string[]) =>
  names.length < 2 ? names.join("") : `${names.slice(0, -1).join(", ")} and ${names[names.length - 1]}`;
/** Kinds of work for which the power goes off first. */
const DEAD_WORK: ReadonlySet<Doing["kind"]> = new Set(["ohms", "current", "lift", "swap", "alone"]);
const BREAKS: ReadonlySet<Doing["kind"]> = new Set(["current", "lift", "swap", "alone"]);
const ALL: readonly CautionPlace[] = ["coach", "whatif", "suspects", "breadboard", "print"];
/** Local rules and licensed work come before anything here; each row that speaks of danger ends so. */
const RULES = "Local rules come first, and licensed people where they ask for it.";

const limitOf = ({ isWet, isAlternating }: SafetyFacts) =>
  SHOCK_VOLTS[isWet ? "wet" : "dry"][isAlternating ? "ac" : "dc"];

/** What sets a caution off, its words, and where they are shown: each worded once, here. */
const ROWS = {
  mains: {
    when: "A supply is marked mains.",
    places: ALL,
    isDanger: true,
    say: ({ mains }) =>
      mains.length === 0
        ? null
        : `Shock hazard: ${list(mains)} ${mains.length === 1 ? "is" : "are"} from the mains. Isolate, lock off and prove dead before touching; rated meter and leads. ${RULES}`,
  },
  shock: {
    when: "Volts between any two nodes above 30 V AC or 60 V DC; in a wet place 12 V AC or 30 V DC.",
    places: ALL,
    isDanger: true,
    say: (facts) =>
      facts.mains.length > 0 || facts.volts <= limitOf(facts)
        ? null
        : `Shock hazard: up to ${amount(facts.volts, "V")} ${facts.isAlternating ? "AC" : "DC"} between two nodes${facts.isWet ? ", in a wet place" : ""}. Isolate and prove dead before touching; rated meter and leads. ${RULES}`,
  },
  meterRating: {
    when: "More volts than the meter or its leads are made for, or a mains job and a meter without a category.",
    places: ["coach", "print"],
    isDanger: true,
    say: ({ volts, meterVolts, mains, hasUncategorised }) => {
      if (volts > meterVolts)
        return `Up to ${amount(volts, "V")} between two nodes, and a meter or lead of this job is made for ${amount(meterVolts, "V")}: do not probe with it.`;
      return mains.length > 0 && hasUncategorised
        ? "A meter of this job has no overvoltage category: not on a circuit fed from the mains."
        : null;
    },
  },
  powerOff: {
    when: "Ohms, a current, a lifted lead, a swap: whatever opens the circuit.",
    places: ["coach", "suspects"],
    isDanger: false,
    say: (_, doing) =>
      doing && DEAD_WORK.has(doing.kind)
        ? `Power off and disconnected, capacitors discharged, before ${doing.kind === "ohms" ? "ohms are taken" : "a lead or a branch is opened"}.`
        : null,
  },
  winding: {
    when: "A branch with a coil in it is about to be opened.",
    places: ["coach", "suspects"],
    isDanger: true,
    say: ({ windings }, doing) =>
      doing && BREAKS.has(doing.kind) && windings.length > 0
        ? `${list(windings)} kick${windings.length === 1 ? "s" : ""} with a high voltage when opened under current: power off first.`
        : null,
  },
  ampereSocket: {
    when: "A current is about to be read.",
    places: ["coach"],
    isDanger: true,
    say: (_, doing) =>
      doing?.kind === "current"
        ? "The ampere socket is a short: never across a supply or a part. Move the lead back to volts afterwards."
        : null,
  },
  meterFuse: {
    when: "More current may come than the fuse of the socket takes.",
    places: ["coach"],
    isDanger: false,
    say: (_, doing) =>
      doing?.kind === "current" && doing.fuse !== undefined && (doing.amps ?? 0) > doing.fuse
        ? `Up to ${amount(doing.amps ?? 0, "A")} may flow, and this socket’s fuse is ${amount(doing.fuse, "A")}: take a higher socket, or another way.`
        : null,
  },
  strongSupply: {
    when: "A supply that can drive 100 A or more through a short.",
    places: ALL,
    isDanger: true,
    say: ({ strong }) => {
      const found = strong.filter((s) => s.amps >= STRONG_AMPS);
      return found.length === 0
        ? null
        : `${list(found.map((s) => `${s.part} can drive ${amount(s.amps, "A")}`))} through a short: rings and watch off, insulated tools, a fuse in the lead.`;
    },
  },
  overRating: {
    when: "A part takes more power as drawn than it is rated for.",
    places: ALL,
    isDanger: false,
    say: ({ loads }) => {
      const found = loads.filter((l) => l.watts > l.rating * (1 + 1e-9));
      return found.length === 0
        ? null
        : `Above its rating as drawn, so hot: ${list(found.map((l) => `${l.part} takes ${amount(l.watts, "W")} of ${amount(l.rating, "W")}`))}.`;
    },
  },
  hot: {
    when: "A part about to be touched takes more than half of its rating.",
    places: ["coach", "suspects"],
    isDanger: false,
    say: ({ loads }, doing) => {
      const near = loads.find((l) => l.part === doing?.part);
      return doing && near && near.watts > HOT_SHARE * near.rating && near.watts <= near.rating
        ? `${near.part} runs at ${amount(near.watts, "W")} of ${amount(near.rating, "W")}: hot to the finger.`
        : null;
    },
  },
  hotUnderFault: {
    when: "A fault would run other parts beyond their ratings.",
    places: ["whatif", "suspects"],
    isDanger: false,
    say: (_, doing) => {
      const found = doing?.overloads ?? [];
      return found.length === 0
        ? null
        : `With this fault hot or blown: ${list(found.map((l) => `${l.part} at ${amount(l.value, l.unit)} of ${amount(l.rating, l.unit)}`))}.`;
    },
  },
  coldFirst: {
    when: "A lamp or a heater is about to be taken out.",
    places: ["coach", "suspects"],
    isDanger: false,
    say: ({ hotByNature }, doing) =>
      doing?.part !== undefined && BREAKS.has(doing.kind) && hotByNature.includes(doing.part)
        ? `${doing.part}: off and cold before it is touched.`
        : null,
  },
  neverShort: {
    when: "A short is supposed.",
    places: ["whatif", "suspects"],
    isDanger: true,
    say: (_, doing) => (doing?.isShort ? "Never short a part on the bench to try this out: it is tried here." : null),
  },
  notOnBreadboard: {
    when: "A mains circuit is laid out on a breadboard.",
    places: ["breadboard"],
    isDanger: true,
    say: ({ mains }) => (mains.length > 0 ? "What comes from the mains does not belong on a breadboard." : null),
  },
  breadboardVolts: {
    when: "More than 30 V on a breadboard.",
    places: ["breadboard"],
    isDanger: true,
    say: ({ volts }) => (volts > BREADBOARD.volts ? `${amount(volts, "V")} is too much for a breadboard.` : null),
  },
  breadboardAmps: {
    when: "More than 1 A on a breadboard.",
    places: ["breadboard"],
    isDanger: false,
    say: ({ amps }) => {
      const most = Math.max(0, ...amps.values());
      return most > BREADBOARD.amps
        ? `${amount(most, "A")} would flow: a breadboard’s contacts take about one ampere.`
        : null;
    },
  },
  general: {
    when: "Wherever something is printed or built.",
    places: ["breadboard", "print"],
    isDanger: false,
    say: () => `Power off and capacitors discharged before a lead or a part is moved. ${RULES}`,
  },
} as const satisfies Record<string, Row>;

export type CautionId = keyof typeof ROWS;
export const CAUTION_IDS = Object.keys(ROWS) as readonly CautionId[];

/** What sets each caution off, in the order of the table. */
export const CAUSES: readonly { readonly id: CautionId; readonly when: string; readonly isDanger: boolean }[] =
  CAUTION_IDS.map((id) => ({ id, when: ROWS[id].when, isDanger: ROWS[id].isDanger }));

/** Of what somebody is about to do alone: what would be said anyway is left out. */
export function cautionsOfDoing(place: CautionPlace, facts: SafetyFacts, doing: Doing): Caution[] {
  const anyway = new Set(cautionsFor(place, facts).map((c) => c.id));
  return cautionsFor(place, facts, doing).filter((c) => !anyway.has(c.id));
}

/** What has to be said in a place, dangers first. Silence never means that something is safe. */
export function cautionsFor(place: CautionPlace, facts: SafetyFacts, doing?: Doing): Caution[] {
  return CAUTION_IDS.flatMap((id): Caution[] => {
    const row: Row = ROWS[id];
    const words = row.places.includes(place) ? row.say(facts, doing) : null;
    return words === null ? [] : [{ id, words, isDanger: row.isDanger }];
  }).sort((a, b) => Number(b.isDanger) - Number(a.isDanger));
}
