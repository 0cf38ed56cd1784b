/** Colour bands and letter codes of resistors, IEC 60062:2016. */
export const BAND_COLOURS = [
  "black",
  "brown",
  "red",
  "orange",
  "yellow",
  "green",
  "blue",
  "violet",
  "grey",
  "white",
  "gold",
  "silver",
  "pink",
] as const;
export type BandColour = (typeof BAND_COLOURS)[number];

/** Power of ten that a band stands for as a multiplier. */
const MULTIPLIERS: Readonly<Record<BandColour, number>> = {
  black: 0,
  brown: 1,
  red: 2,
  orange: 3,
  yellow: 4,
  green: 5,
  blue: 6,
  violet: 7,
  grey: 8,
  white: 9,
  gold: -1,
  silver: -2,
  pink: -3,
};

/** Tolerance in percent. */
const TOLERANCES: Readonly<Partial<Record<BandColour, number>>> = {
  brown: 1,
  red: 2,
  orange: 0.05,
  yellow: 0.02,
  green: 0.5,
  blue: 0.25,
  violet: 0.1,
  grey: 0.01,
  gold: 5,
  silver: 10,
};

const LETTERS: readonly (readonly [string, number])[] = [
  ["B", 0.1],
  ["C", 0.25],
  ["D", 0.5],
  ["F", 1],
  ["G", 2],
  ["J", 5],
  ["K", 10],
  ["M", 20],
];

/**
 * The bands of a resistor: two digits below 2 % and coarser, three for 2 % and finer, multiplier, tolerance.
 * @param percent tolerance
 * @returns null for a value that bands cannot hold
 */
export function bandsOf(ohms: number, percent: number): BandColour[] | null {
  const count = percent <= 2 ? 3 : 2;
  const tolerance = BAND_COLOURS.find((c) => TOLERANCES[c] === percent);
  if (!(ohms > 0) || !tolerance) return null;
  const exponent = Math.floor(Math.log10(ohms) + 1e-12) - count + 1;
  const digits = Number((ohms / 10 ** exponent).toPrecision(12));
  const multiplier = BAND_COLOURS.find((c) => MULTIPLIERS[c] === exponent);
  if (!Number.isInteger(digits) || !multiplier) return null;
  return [
    ...String(digits)
      .split("")
      .map((d) => BAND_COLOURS[Number(d)]),
    multiplier,
    tolerance,
  ];
}

export interface ReadBands {
  readonly ohms: number;
  /** Percent; 20 where there is no fourth band. */
  readonly tolerance: number;
}

/** Reads three to five bands, the first digit first. @returns why not, where they make no value */
export function readBands(bands: readonly BandColour[]): ReadBands | string {
  if (bands.length < 3 || bands.length > 5) return "a resistor has three to five bands";
  const digitCount = bands.length === 5 ? 3 : 2;
  const digits = bands.slice(0, digitCount).map((c) => BAND_COLOURS.indexOf(c));
  const odd = bands.slice(0, digitCount).find((c) => BAND_COLOURS.indexOf(c) > 9);
  if (odd) return `${odd} is no digit: is it held the wrong way round?`;
  const tolerance = bands[digitCount + 1] === undefined ? 20 : TOLERANCES[bands[digitCount + 1]];
  if (tolerance === undefined) return `${bands[digitCount + 1]} is no tolerance: is it held the wrong way round?`;
  const ohms = Number(`${digits.join("")}e${MULTIPLIERS[bands[digitCount]]}`);
  return ohms > 0 ? { ohms, tolerance } : "all digits are zero";
}

/** The letter of a tolerance in percent, or null. */
export function toleranceLetter(percent: number): string | null {
  return LETTERS.find(([, p]) => p === percent)?.[0] ?? null;
}
