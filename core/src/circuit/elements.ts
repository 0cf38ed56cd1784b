import type { Bend, Element } from "./element.ts";
import {
  JUNCTION_BEND,
  type JunctionLaw,
  junctionVolts,
  scaledJunction,
  TEST_AMPS,
  valuedJunction,
} from "./junction.ts";

/** How voltage and current of a branch hang together; SI units. */
export type Law =
  | { readonly kind: "resistance"; readonly ohms: number }
  | { readonly kind: "open" }
  /** v = volts + ohms·i, with i into the plus terminal; beyond `limit` amperes delivered it is a current source. */
  | { readonly kind: "supply"; readonly volts: number; readonly ohms: number; readonly limit?: number }
  /** Filament: `hot` ohms at `volts`, R ∝ V^0.45 when lit, never below `cold` ohms. */
  | { readonly kind: "filament"; readonly hot: number; readonly cold: number; readonly volts: number }
  | JunctionLaw
  /** What is one resistance while it works and another when nothing flows: a thermistor. */
  | { readonly kind: "thermal"; readonly hot: number; readonly cold: number }
  /** Closed at `ohms`, or open, by the current of a branch: it pulls from `pulls` amperes on, and drops below `drops`. */
  | {
      readonly kind: "contact";
      readonly ohms: number;
      readonly coil: number;
      readonly closes: boolean;
      readonly pulls: number;
      readonly drops: number;
    };

type LawOf<K extends Law["kind"]> = Extract<Law, { kind: K }>;

/** A filament's resistance when cold, as a share of that at its rating. */
const COLD_SHARE = 1 / 12;
/** Standard deviation of a filament's cold ohms, as a fraction. */
const COLD_SPREAD = 0.35;
/** Exponent of R ∝ V^x of a lit filament. */
const EXPONENT = 0.45;

const filamentOhms = ({ hot, cold, volts: rated }: LawOf<"filament">, volts: number) =>
  Math.max(cold, hot * (Math.abs(volts) / rated) ** EXPONENT);

const FILAMENT: Element<LawOf<"filament">, Law> = {
  ohms: ({ hot }) => hot,
  bends: {
    // Its state is the voltage across it: V = R·i with R ∝ V^x is 1/(1 − x) times as steep as R.
    start: ({ volts }) => volts,
    line: (law, volts) => {
      const ohms = filamentOhms(law, volts);
      if (ohms <= law.cold) return { ohms, volts: 0 };
      return { ohms: ohms / (1 - EXPONENT), volts: (-volts * EXPONENT) / (1 - EXPONENT) };
    },
    // Across nothing it goes by way of where it is cold, and straight.
    next: (_, state, volts) => (state * volts < 0 ? 0 : volts),
    rests: (_, state, next, within) => Math.abs(next - state) <= Math.sqrt(within) * 1e-2 * Math.abs(next) + 1e-15,
  },
  cold: { ohms: ({ cold }) => cold, spread: COLD_SPREAD },
  watts: ({ hot, cold, volts }, amps) => {
    // V = hot·(V/V₀)^x·i, solved for V; below the cold resistance Ohm's law holds.
    const lit = ((hot * Math.abs(amps)) / volts ** EXPONENT) ** (1 / (1 - EXPONENT));
    return Math.max(lit * Math.abs(amps), amps * amps * cold);
  },
  scaled: (law, factor) => ({ ...law, hot: law.hot * factor, cold: law.cold * factor }),
  valued: (law, value) => ({ ...law, hot: value, cold: (law.cold * value) / law.hot }),
  value: ({ hot }) => hot,
  unit: "ohm",
};

const JUNCTION: Element<JunctionLaw, Law> = {
  ohms: ({ forward }) => forward / TEST_AMPS,
  bends: JUNCTION_BEND,
  // The test volts of an ohms range do not reach the knee.
  cold: { ohms: ({ leak }) => 1 / leak, spread: 0 },
  watts: (law, amps) => Math.abs(amps * junctionVolts(law, amps)),
  scaled: scaledJunction,
  valued: valuedJunction,
  value: ({ forward, zener }) => zener ?? forward,
  unit: "V",
};

const CONTACT: Element<LawOf<"contact">, Law> = {
  ohms: ({ ohms }) => ohms,
  bends: {
    // As the power comes on nothing is pulled in yet.
    start: () => 0,
    line: ({ ohms, closes }, pulled) => ({ ohms: (pulled === 1) === closes ? ohms : APART_OHMS, volts: 0 }),
    next: ({ pulls, drops }, pulled, _, amps) => (Math.abs(amps) >= pulls ? 1 : Math.abs(amps) < drops ? 0 : pulled),
    rests: (_, state, next) => state === next,
    follows: ({ coil }) => coil,
  },
  cold: { ohms: ({ ohms, closes }) => (closes ? Number.POSITIVE_INFINITY : ohms), spread: 0 },
  watts: ({ ohms }, amps) => amps * amps * ohms,
  scaled: (law, factor) => ({ ...law, ohms: law.ohms * factor }),
  valued: (law, ohms) => ({ ...law, ohms }),
  value: ({ ohms }) => ohms,
  unit: "ohm",
};

/** Ohms of a contact that is apart, of its insulation: nothing flows that a meter could show. */
const APART_OHMS = 1e12;

/** The laws there are, one row each: a new one is a row here. */
const ELEMENTS: { readonly [K in Law["kind"]]: Element<LawOf<K>, Law> } = {
  resistance: {
    ohms: ({ ohms }) => ohms,
    watts: ({ ohms }, amps) => amps * amps * ohms,
    scaled: (law, factor) => ({ ...law, ohms: law.ohms * factor }),
    valued: (law, ohms) => ({ ...law, ohms }),
    value: ({ ohms }) => ohms,
    unit: "ohm",
  },
  open: {
    ohms: () => Number.POSITIVE_INFINITY,
    watts: () => 0,
    scaled: (law) => law,
    valued: (_, ohms) => ({ kind: "resistance", ohms }),
    value: () => null,
    unit: "ohm",
  },
  supply: {
    ohms: ({ ohms }) => ohms,
    volts: ({ volts }) => volts,
    watts: ({ volts }, amps) => Math.abs(amps * volts),
    scaled: (law, factor) => ({ ...law, volts: law.volts * factor }),
    valued: (law, volts) => ({ ...law, volts }),
    value: ({ volts }) => volts,
    unit: "V",
  },
  filament: FILAMENT,
  junction: JUNCTION,
  thermal: {
    ohms: ({ hot }) => hot,
    cold: { ohms: ({ cold }) => cold, spread: 0 },
    watts: ({ hot }, amps) => amps * amps * hot,
    scaled: (law, factor) => ({ ...law, hot: law.hot * factor, cold: law.cold * factor }),
    valued: (law, value) => ({ ...law, hot: value, cold: (law.cold * value) / law.hot }),
    value: ({ hot }) => hot,
    unit: "ohm",
  },
  contact: CONTACT,
};

/** Laws of what is written by its rating: the column `byRating` of the table of kinds names one. */
export const RATED_LAWS = {
  resistance: (volts, watts) => ({ kind: "resistance", ohms: volts ** 2 / watts }),
  filament: (volts, watts) => {
    const hot = volts ** 2 / watts;
    return { kind: "filament", hot, cold: hot * COLD_SHARE, volts };
  },
} as const satisfies Readonly<Record<string, (volts: number, watts: number) => Law>>;

function elementOf(law: Law): Element<Law, Law> {
  return ELEMENTS[law.kind] as Element<Law, Law>;
}

/** Static ohms before anything flows; infinite of an open. */
export const ohmsOf = (law: Law): number => elementOf(law).ohms(law);
/** Volts that a branch gives by itself. */
export const voltsOf = (law: Law): number => elementOf(law).volts?.(law) ?? 0;
/** Watts that a branch takes in at a current (a supply: that its source gives); an open takes none. */
export const wattsOf = (law: Law, amps: number): number => elementOf(law).watts(law, amps);
/** A law with another value: ohms, or volts of a supply. */
export const valuedLaw = (law: Law, value: number): Law => elementOf(law).valued(law, value);
/** The value that a law is drawn with: ohms, volts of a supply; null of an open. */
export const drawnValue = (law: Law): number | null => elementOf(law).value(law);
/** What a branch is with the power off: a filament is cold, and nothing pulls a contact. */
export function coldLaw(law: Law): Law {
  const ohms = elementOf(law).cold?.ohms(law);
  if (ohms === undefined) return law;
  return Number.isFinite(ohms) ? { kind: "resistance", ohms } : { kind: "open" };
}
/** Standard deviation of the ohms it has with the power off, beside its tolerance; 0 where they are the same. */
export const coldSpreadOf = (law: Law): number => elementOf(law).cold?.spread ?? 0;
/** A law with its resistance or voltage times a factor. */
export const scaledLaw = (law: Law, factor: number): Law => (factor === 1 ? law : elementOf(law).scaled(law, factor));

/** What the value of a law is counted in. */
export const unitOfLaw = (law: Law): "ohm" | "V" => elementOf(law).unit;

/** Whether a branch's ohms follow its voltage, or another branch. */
export const bends = (law: Law): boolean => elementOf(law).bends !== undefined;
/** Whether its law has a knee or a step: within a tolerance it may be another line altogether. */
export const bendsSharply = (law: Law): boolean => {
  const bend = elementOf(law).bends;
  return bend?.step !== undefined || bend?.follows !== undefined;
};
/** Volts by which a share of its value moves a branch, of one whose value is volts; `state` where it bends. */
export const movedVolts = (law: Law, state: number): number =>
  elementOf(law).bends?.moves?.(law, state) ?? elementOf(law).volts?.(law) ?? 0;
/** How a law bends; of one that does. */
export const bendOf = (law: Law): Bend<Law> => elementOf(law).bends as Bend<Law>;
