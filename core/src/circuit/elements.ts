/** How voltage and current of a branch hang together; SI units. */
export type Law =
  | { readonly kind: "resistance"; readonly ohms: number }
  | { readonly kind: "open" }
  /** v = volts + ohms·i, with i into the plus terminal; beyond `limit` amperes delivered it is a current source. */
  | { readonly kind: "supply"; readonly volts: number; readonly ohms: number; readonly limit?: number }
  /** Filament: `hot` ohms at `volts`, R ∝ V^0.45 when lit, never below `cold` ohms. */
  | { readonly kind: "filament"; readonly hot: number; readonly cold: number; readonly volts: number };

type LawOf<K extends Law["kind"]> = Extract<Law, { kind: K }>;

/** What every law answers, so that nobody else need know which it is. */
interface Element<L extends Law> {
  /** Static ohms before anything flows: where solving begins. */
  readonly ohms: (law: L) => number;
  /** Volts that it gives by itself. */
  readonly volts?: (law: L) => number;
  /** Of one that bends: static ohms at a voltage across it, and its dynamic ones where it has so many. */
  readonly bends?: {
    readonly at: (law: L, volts: number) => number;
    readonly dynamic: (law: L, ohms: number) => number;
  };
  /** Its ohms with the power off where they are others, and their spread as a fraction, one standard deviation. */
  readonly cold?: { readonly ohms: (law: L) => number; readonly spread: number };
  /** Watts that it takes in at a current (a supply: that its source gives). */
  readonly watts: (law: L, amps: number) => number;
  /** With its resistance or voltage times a factor. */
  readonly scaled: (law: L, factor: number) => Law;
  /** With another value in place of what it is drawn with: ohms, or volts of a supply. */
  readonly valued: (law: L, value: number) => Law;
  /** That value, as drawn; null of what has none. */
  readonly value: (law: L) => number | null;
}

/** A filament's resistance when cold, as a share of that at its rating. */
const COLD_SHARE = 1 / 12;
/** Standard deviation of a filament's cold ohms, as a fraction. */
const COLD_SPREAD = 0.35;
/** Exponent of R ∝ V^x of a lit filament. */
const EXPONENT = 0.45;

const FILAMENT: Element<LawOf<"filament">> = {
  ohms: ({ hot }) => hot,
  bends: {
    at: ({ hot, cold, volts: rated }, volts) => Math.max(cold, hot * (Math.abs(volts) / rated) ** EXPONENT),
    dynamic: ({ cold }, ohms) => (ohms > cold ? ohms / (1 - EXPONENT) : ohms),
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
};

/** The laws there are, one row each: a new one is a row here. */
const ELEMENTS: { readonly [K in Law["kind"]]: Element<LawOf<K>> } = {
  resistance: {
    ohms: ({ ohms }) => ohms,
    watts: ({ ohms }, amps) => amps * amps * ohms,
    scaled: (law, factor) => ({ ...law, ohms: law.ohms * factor }),
    valued: (law, ohms) => ({ ...law, ohms }),
    value: ({ ohms }) => ohms,
  },
  open: {
    ohms: () => Number.POSITIVE_INFINITY,
    watts: () => 0,
    scaled: (law) => law,
    valued: (_, ohms) => ({ kind: "resistance", ohms }),
    value: () => null,
  },
  supply: {
    ohms: ({ ohms }) => ohms,
    volts: ({ volts }) => volts,
    watts: ({ volts }, amps) => Math.abs(amps * volts),
    scaled: (law, factor) => ({ ...law, volts: law.volts * factor }),
    valued: (law, volts) => ({ ...law, volts }),
    value: ({ volts }) => volts,
  },
  filament: FILAMENT,
};

/** Laws of what is written by its rating: the column `byRating` of the table of kinds names one. */
export const RATED_LAWS = {
  resistance: (volts, watts) => ({ kind: "resistance", ohms: volts ** 2 / watts }),
  filament: (volts, watts) => {
    const hot = volts ** 2 / watts;
    return { kind: "filament", hot, cold: hot * COLD_SHARE, volts };
  },
} as const satisfies Readonly<Record<string, (volts: number, watts: number) => Law>>;

function elementOf(law: Law): Element<Law> {
  return ELEMENTS[law.kind] as Element<Law>;
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
/** What a branch is with the power off: a filament is cold. */
export function coldLaw(law: Law): Law {
  const ohms = elementOf(law).cold?.ohms(law);
  return ohms === undefined ? law : { kind: "resistance", ohms };
}
/** Standard deviation of the ohms it has with the power off, beside its tolerance; 0 where they are the same. */
export const coldSpreadOf = (law: Law): number => elementOf(law).cold?.spread ?? 0;
/** A law with its resistance or voltage times a factor. */
export const scaledLaw = (law: Law, factor: number): Law => (factor === 1 ? law : elementOf(law).scaled(law, factor));

/** Whether a branch's ohms follow its voltage. */
export const bends = (law: Law): boolean => elementOf(law).bends !== undefined;
/** Ohms that count for a small change, of a branch that has so many at its working point. */
export const dynamicOhms = (law: Law, ohms: number): number => elementOf(law).bends?.dynamic(law, ohms) ?? ohms;

/**
 * One step of the fixed point of what bends: each takes the static ohms of the voltage across it. Solve, follow, and
 * again, until none moves. With R ∝ V^0.45 each step leaves about half of the error.
 * @param bending numbers of branches that bend
 * @param volts across a branch, as just solved
 * @param within share by which one may move and still rest
 * @returns a branch that moved; −1 when none did
 */
export function follow(
  bending: readonly number[],
  lawAt: (branch: number) => Law,
  volts: (branch: number) => number,
  ohms: Float64Array,
  within: number,
): number {
  let moved = -1;
  // All voltages are of one and the same solution.
  const next = bending.map((k) => {
    const law = lawAt(k);
    return elementOf(law).bends?.at(law, volts(k)) ?? ohms[k];
  });
  bending.forEach((k, i) => {
    if (Math.abs(next[i] - ohms[k]) > within * next[i]) moved = k;
    ohms[k] = next[i];
  });
  return moved;
}
