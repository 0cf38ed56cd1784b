/**
 * The kinds of part, one table: designator letters, words, default tolerance (a fraction, two standard deviations)
 * and what has to be written down. Parser, help, model and parts table all read it. Letters in `also` are met on other
 * people's drawings: they say what is probably meant, and are asked about.
 */
export const KINDS = {
  resistor: {
    also: ["RN", "RX", "RP", "SH", "RSH", "RES", "Z"],
    letters: ["R"],
    word: "resistor",
    needs: "ohms",
    tolerance: 0.05,
  },
  potentiometer: {
    also: ["POT", "PT", "TR", "RH"],
    letters: ["RV", "VR"],
    word: "potentiometer",
    needs: "ohms",
    tolerance: 0.05,
  },
  sensor: {
    also: ["NTC", "PTC", "RTD", "TC"],
    letters: ["RT", "TH", "LDR"],
    word: "sensor",
    needs: "ohms",
    tolerance: 0.1,
  },
  lamp: {
    also: ["H", "HL", "LMP", "LAMP", "EL", "PL"],
    letters: ["DS", "LA", "LP"],
    word: "lamp",
    needs: "ohmsOrRating",
    tolerance: 0.1,
  },
  coil: {
    also: ["SOL", "Y", "YV", "RL", "RLY", "RY", "KA", "KM", "CR", "MOT", "MTR"],
    letters: ["L", "K", "M"],
    word: "coil",
    needs: "ohmsOrRating",
    tolerance: 0.1,
  },
  load: {
    also: ["HTR", "HE", "EH", "LOAD", "RLOAD"],
    letters: ["LD", "E", "HR"],
    word: "load",
    needs: "ohmsOrRating",
    tolerance: 0.05,
  },
  fuse: { also: ["FU", "FS", "FSE", "CB", "TF"], letters: ["F"], word: "fuse", needs: "nothing", tolerance: 0.2 },
  switch: {
    also: ["SA", "SB", "SQ", "QS", "PB", "LS"],
    letters: ["S", "SW"],
    word: "switch",
    needs: "nothing",
    tolerance: 0.5,
  },
  connector: {
    also: ["CN", "CON", "CONN", "TB", "XT", "XS", "XP", "JP", "SK"],
    letters: ["J", "P", "X"],
    word: "connector",
    needs: "nothing",
    tolerance: 0.5,
  },
  wire: { also: ["WIRE", "CABLE", "LINK", "LK"], letters: ["W"], word: "wire", needs: "nothing", tolerance: 0.5 },
  joint: { also: ["SJ", "SP"], letters: ["JT"], word: "joint", needs: "nothing", tolerance: 0.5 },
  meter: { also: ["AMM", "PA", "PV"], letters: ["AM", "VM"], word: "meter", needs: "nothing", tolerance: 0.01 },
  supply: {
    also: ["BAT", "BATT", "PSU", "PWR", "U", "VCC", "VDD", "VS", "VIN"],
    letters: ["BT", "V", "PS", "G"],
    word: "supply",
    needs: "volts",
    tolerance: 0.02,
  },
} as const;

export type Kind = keyof typeof KINDS;

export const KIND_NAMES = Object.keys(KINDS) as readonly Kind[];

/** Kinds whose resistance is that of a contact: they drift by an added resistance. */
export const CONTACT_KINDS: ReadonlySet<Kind> = new Set(["switch", "connector", "wire", "joint"]);

/** Ohms of a good contact, a supply's inside, a fault's short circuit, and a fuse's volts over its rated current. */
export const DEFAULTS = {
  contactOhms: 0.02,
  internalOhms: 0.05,
  shortOhms: 0.01,
  fuseVolts: 0.1,
  fuseAmps: 1,
  /** Standard deviation of a wiper's place, as a share of the track: ±1 % is two. */
  placeSpread: 0.005,
} as const;

/** Whether nobody wrote what a supply has inside: the usual is taken then, and nothing is known of it. */
export function isTakenForGranted(supply: { readonly internalOhms: number; readonly saysInternal?: true }): boolean {
  return supply.internalOhms === DEFAULTS.internalOhms && supply.saysInternal !== true;
}

const BY_LETTERS = new Map<string, Kind>(
  KIND_NAMES.flatMap((kind) => KINDS[kind].letters.map((letters) => [letters, kind] as const)),
);

const BY_HINT = new Map<string, Kind>(
  KIND_NAMES.flatMap((kind) => KINDS[kind].also.map((letters) => [letters, kind] as const)),
);

const DESIGNATOR = /^([A-Za-z]+)(\d+)([a-z]?)$/;

/** Ohms of a meter that is drawn as a part, by its letters: an ammeter's burden, a voltmeter's input. */
const METER_OHMS: Readonly<Record<string, number>> = { AM: 1, VM: 1e7 };

/** Ohms of a meter that is drawn without any. */
export function meterOhms(designator: string): number {
  return METER_OHMS[splitDesignator(designator)?.letters ?? ""] ?? METER_OHMS.AM;
}

/** What a coil's letters say of its winding: a running motor's current is not its resistance's alone. */
const WINDINGS: Readonly<Record<string, "inductor" | "relay" | "motor">> = { L: "inductor", K: "relay", M: "motor" };

/** What a coil winds, by its designator; null of other kinds. */
export function windingOf(part: { readonly kind: Kind; readonly designator: string }) {
  if (part.kind !== "coil") return null;
  return WINDINGS[splitDesignator(part.designator)?.letters ?? ""] ?? "inductor";
}

/** Letters and number of a designator (`RV12` → RV, 12); null where the text has not that form. */
export function splitDesignator(text: string): { letters: string; number: number } | null {
  const match = DESIGNATOR.exec(text);
  return match ? { letters: match[1].toUpperCase(), number: Number(match[2]) } : null;
}

/** The kind that a designator's letters stand for, or null. */
export function kindOfDesignator(designator: string): Kind | null {
  const split = splitDesignator(designator);
  return split ? (BY_LETTERS.get(split.letters) ?? null) : null;
}

/** The kind that letters of another drawing's custom probably stand for, or null. */
export function kindHintedBy(letters: string): Kind | null {
  return BY_HINT.get(letters.toUpperCase()) ?? null;
}
