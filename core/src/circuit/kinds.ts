import type { Form, KindRow } from "./kindRow.ts";
import { MATERIAL_NAMES, MATERIALS, type Material } from "./materials.ts";
import type { Mode } from "./modes.ts";

const CONTACT = {
  form: "ohms",
  needs: "nothing",
  tolerance: 0.5,
  usual: "contact",
  role: "way",
  isContact: true,
  modes: { open: 0.6, high: 0.4 },
  rating: "current",
  // A contact's amperes less a fifth.
  used: 0.8,
} as const;

/**
 * The kinds of part, one row each: parser, help, schema, model, safety, repair, parts table and symbols read it. A new
 * kind is a row here, what is written of it in the notation if that is new, and a symbol.
 */
export const KINDS = {
  resistor: {
    letters: ["R"],
    also: ["RN", "RX", "RP", "SH", "RSH", "RES"],
    word: "resistor",
    called: ["res"],
    form: "resistance",
    needs: "ohms",
    tolerance: 0.05,
    role: "value",
    rate: 1,
    modes: { open: 0.5, high: 0.35, low: 0.07, short: 0.08 },
    rating: "power",
    // Half of its watts, for it to stay cool enough to last.
    used: 0.5,
    symbol: "box",
  },
  potentiometer: {
    letters: ["RV", "VR"],
    also: ["POT", "PT", "TR", "RH"],
    word: "potentiometer",
    called: ["pot"],
    form: "track",
    sections: ["top", "bottom", "wiper"],
    needs: "ohms",
    tolerance: 0.05,
    role: "value",
    rate: 6,
    modes: { wiperOpen: 0.35, open: 0.2, high: 0.25, low: 0.1, short: 0.1 },
    rating: "power",
    used: 0.5,
    symbol: "track",
  },
  sensor: {
    letters: ["RT", "TH", "LDR"],
    also: ["NTC", "PTC", "RTD", "TC"],
    word: "sensor",
    called: ["thermistor", "ldr"],
    form: "resistance",
    needs: "ohms",
    tolerance: 0.1,
    role: "value",
    warms: true,
    rate: 5,
    modes: { open: 0.4, high: 0.25, low: 0.25, short: 0.1 },
    rating: "power",
    used: 0.5,
    symbol: "bent box",
  },
  lamp: {
    letters: ["DS", "LA", "LP"],
    also: ["H", "HL", "LMP", "LAMP", "EL", "PL"],
    word: "lamp",
    called: ["bulb"],
    form: "resistance",
    needs: "ohmsOrRating",
    tolerance: 0.1,
    role: "consumer",
    byRating: "filament",
    rate: 20,
    modes: { open: 0.92, high: 0.05, short: 0.03 },
    looks: ["dark", "dim", "lit", "bright"],
    works: "shines",
    rating: "power",
    used: 0.8,
    danger: "hot",
    symbol: "crossed circle",
  },
  coil: {
    letters: ["L", "K", "M"],
    also: ["SOL", "Y", "YV", "RL", "RLY", "RY", "KA", "KM", "CR", "MOT", "MTR"],
    word: "coil",
    called: ["relay", "motor", "solenoid", "inductor", "winding"],
    form: "resistance",
    needs: "ohmsOrRating",
    tolerance: 0.1,
    role: "consumer",
    byRating: "resistance",
    rate: 3,
    modes: { open: 0.6, low: 0.35, high: 0.05 },
    looks: ["silent", "pulls"],
    works: "pulls",
    rating: "power",
    used: 0.8,
    danger: "winding",
    symbol: "turns",
  },
  load: {
    letters: ["LD", "E", "HR"],
    also: ["HTR", "HE", "EH", "LOAD", "RLOAD"],
    word: "load",
    called: ["heater"],
    form: "resistance",
    needs: "ohmsOrRating",
    tolerance: 0.05,
    role: "consumer",
    byRating: "resistance",
    rate: 1,
    modes: { open: 0.5, high: 0.35, low: 0.07, short: 0.08 },
    looks: ["cold", "hot"],
    works: "warm",
    rating: "power",
    used: 0.8,
    danger: "hot",
    symbol: "barred box",
  },
  fuse: {
    letters: ["F"],
    also: ["FU", "FS", "FSE", "CB", "TF"],
    word: "fuse",
    called: [],
    form: "ohms",
    needs: "nothing",
    tolerance: 0.2,
    usual: "fuse",
    role: "way",
    blows: true,
    rate: 10,
    modes: { open: 0.95, high: 0.05 },
    looks: ["blown", "intact"],
    works: "intact",
    rating: "current",
    // Three quarters of its amperes, beyond which it tires.
    used: 0.75,
    symbol: "capsule",
  },
  switch: {
    ...CONTACT,
    letters: ["S", "SW"],
    also: ["SA", "SB", "SQ", "QS", "PB", "LS"],
    word: "switch",
    called: [],
    form: "lever",
    rate: 8,
    modes: { high: 0.4, stuckOpen: 0.5, stuckClosed: 0.1 },
    works: "switches",
    symbol: "lever",
  },
  connector: {
    ...CONTACT,
    letters: ["J", "P", "X"],
    also: ["CN", "CON", "CONN", "TB", "XT", "XS", "XP", "JP", "SK"],
    word: "connector",
    called: ["plug", "terminal", "contact"],
    rate: 10,
    symbol: "plug",
  },
  wire: {
    ...CONTACT,
    letters: ["W"],
    also: ["WIRE", "CABLE", "LINK", "LK"],
    word: "wire",
    called: ["cable", "link", "jumper"],
    rate: 3,
    symbol: "wire",
  },
  joint: {
    ...CONTACT,
    letters: ["JT"],
    also: ["SJ", "SP"],
    word: "joint",
    called: [],
    isFixed: true,
    rate: 3,
    symbol: "dot",
  },
  contact: {
    ...CONTACT,
    letters: ["KC"],
    also: [],
    word: "relay contact",
    called: [],
    follows: true,
    rate: 8,
    modes: { high: 0.4, stuckOpen: 0.35, stuckClosed: 0.25 },
    symbol: "pulled lever",
  },
  diode: {
    letters: ["D"],
    also: ["VD", "DI", "CRD"],
    word: "diode",
    called: ["rectifier"],
    form: "junction",
    needs: "nothing",
    // Two sigma of 60 mV.
    tolerance: 0.09,
    role: "way",
    material: "silicon",
    isPolar: true,
    rate: 3,
    // A surge melts it shut before it opens; heat and damp make it leak.
    modes: { short: 0.5, open: 0.3, leaky: 0.15, high: 0.05 },
    rating: "current",
    used: 0.5,
    symbol: "arrow",
  },
  led: {
    letters: ["LED"],
    also: ["VL", "HLED"],
    word: "LED",
    called: ["light-emitting diode"],
    form: "junction",
    needs: "nothing",
    tolerance: 0.03,
    role: "consumer",
    material: "red",
    isPolar: true,
    rate: 4,
    // Bond wires break; of those that fail otherwise most age.
    modes: { open: 0.7, short: 0.12, high: 0.1, leaky: 0.08 },
    looks: ["dark", "dim", "lit"],
    works: "shines",
    rating: "current",
    used: 0.8,
    symbol: "shining arrow",
  },
  zener: {
    letters: ["ZD"],
    also: ["DZ", "VZ", "Z"],
    word: "Zener diode",
    called: ["zener"],
    form: "junction",
    needs: "volts",
    tolerance: 0.05,
    role: "value",
    material: "silicon",
    breaksDown: true,
    isPolar: true,
    rate: 4,
    modes: { short: 0.45, open: 0.2, low: 0.15, leaky: 0.12, high: 0.08 },
    rating: "power",
    used: 0.5,
    symbol: "bent arrow",
  },
  bridgeRectifier: {
    letters: ["BR"],
    also: ["DB", "RB", "GR"],
    word: "bridge rectifier",
    called: ["rectifier bridge", "diode bridge"],
    form: "bridge",
    // Both alternating leads to plus, and minus to both.
    sections: ["1", "2", "3", "4"],
    needs: "leads",
    tolerance: 0.09,
    role: "way",
    material: "silicon",
    isPolar: true,
    // Four diodes in one case, which share its heat.
    rate: 8,
    modes: { short: 0.55, open: 0.3, leaky: 0.1, high: 0.05 },
    rating: "current",
    used: 0.5,
    symbol: "arrow",
  },
  capacitor: {
    letters: ["C"],
    also: ["CAP", "CE"],
    word: "capacitor",
    called: ["cap", "electrolytic"],
    form: "capacitance",
    needs: "nothing",
    tolerance: 0,
    role: "value",
    rate: 6,
    // One that is open, or has dried out, passes no direct current either: nothing here could show it.
    modes: { short: 0.55, leaky: 0.45 },
    rating: "volts",
    used: 0.8,
    symbol: "plates",
  },
  meter: {
    letters: ["AM", "VM"],
    also: ["AMM", "PA", "PV"],
    word: "meter",
    called: [],
    form: "ohms",
    needs: "nothing",
    tolerance: 0.01,
    usual: "meter",
    role: "meter",
    rate: 1,
    modes: { open: 1 },
    rating: "current",
    used: 1,
    symbol: "needle",
  },
  supply: {
    letters: ["BT", "V", "PS", "G"],
    also: ["BAT", "BATT", "PSU", "PWR", "U", "VCC", "VDD", "VS", "VIN"],
    word: "supply",
    called: ["battery", "cell", "source", "psu", "power supply"],
    form: "source",
    needs: "volts",
    tolerance: 0.02,
    role: "source",
    rate: 10,
    modes: { weak: 0.4, low: 0.3, dead: 0.28, high: 0.02 },
    rating: "limit",
    used: 0.8,
    symbol: "cell",
  },
} as const satisfies Readonly<Record<string, KindRow>>;

export type Kind = keyof typeof KINDS;
/** Kinds of which is written what a form asks for. */
export type KindOf<F extends Form> = { [K in Kind]: (typeof KINDS)[K]["form"] extends F ? K : never }[Kind];
export type SymbolName = (typeof KINDS)[Kind]["symbol"];

export const KIND_NAMES = Object.keys(KINDS) as readonly Kind[];

/** The row of a kind, with every column that any kind has. */
export const rowOf = (kind: Kind): KindRow => KINDS[kind];

export function kindsOfForm<F extends Form>(form: F): KindOf<F>[] {
  return KIND_NAMES.filter((kind): kind is KindOf<F> => KINDS[kind].form === form);
}

/** What the value of a part counts in, as drawn or as a fault made it: of a supply and of a junction volts, but for what is inside or beside it. */
export function unitOfValue(kind: Kind, mode: Mode = "high"): "V" | "ohm" {
  const { form, material } = rowOf(kind);
  return (form === "source" || material !== undefined) && !HAS_OHMS.has(mode) ? "V" : "ohm";
}

/** The words for what junctions of a kind may be made of; none of what breaks down at volts of its own. */
export function materialsOf(kind: Kind): Material[] {
  const { material, breaksDown } = rowOf(kind);
  return material && !breaksDown ? MATERIAL_NAMES.filter((word) => MATERIALS[word].of === MATERIALS[material].of) : [];
}

/** True of what may be fitted the wrong way round; of a bridge no single diode can be. */
export const canBeTurned = (kind: Kind): boolean => rowOf(kind).isPolar === true && rowOf(kind).form !== "bridge";

/** Faults with ohms of their own, whatever the part's value counts in. */
export const HAS_OHMS: ReadonlySet<Mode> = new Set(["weak", "leaky"]);

/** Kinds whose resistance is that of a contact: they drift by an added resistance. */
export const CONTACT_KINDS: ReadonlySet<Kind> = new Set(KIND_NAMES.filter((kind) => rowOf(kind).isContact));
