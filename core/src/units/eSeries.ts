/** Preferred values within a decade, IEC 60063:2015. */
const TWO_DIGITS = [10, 11, 12, 13, 15, 16, 18, 20, 22, 24, 27, 30, 33, 36, 39, 43, 47, 51, 56, 62, 68, 75, 82, 91];

export const E_SERIES = ["E6", "E12", "E24", "E48", "E96", "E192"] as const;
export type ESeries = (typeof E_SERIES)[number];

/** The values of a series from 1 up to 10, in rising order. */
export function valuesOfSeries(series: ESeries): readonly number[] {
  return TABLE[series];
}

const TABLE: Record<ESeries, readonly number[]> = {
  E6: TWO_DIGITS.filter((_, i) => i % 4 === 0).map((v) => v / 10),
  E12: TWO_DIGITS.filter((_, i) => i % 2 === 0).map((v) => v / 10),
  E24: TWO_DIGITS.map((v) => v / 10),
  E48: threeDigits(48),
  E96: threeDigits(96),
  E192: threeDigits(192),
};

/** 10^(i/n) to three digits; the standard has 9.20 where rounding gives 9.19. */
function threeDigits(n: number): number[] {
  return Array.from({ length: n }, (_, i) => Math.round(10 ** (i / n) * 100) / 100).map((v) => (v === 9.19 ? 9.2 : v));
}

/** The value of a series nearest to a positive one, by ratio. */
export function nearestInSeries(value: number, series: ESeries): number {
  const decade = Math.floor(Math.log10(value));
  let best = Number.NaN;
  for (const step of [decade - 1, decade, decade + 1]) {
    for (const v of TABLE[series]) {
      const candidate = Number(`${v}e${step}`);
      if (Number.isNaN(best) || Math.abs(Math.log(candidate / value)) < Math.abs(Math.log(best / value)))
        best = candidate;
    }
  }
  return best;
}

/** The coarsest series that holds a value, or null. */
export function seriesOf(value: number): ESeries | null {
  return E_SERIES.find((series) => Math.abs(nearestInSeries(value, series) / value - 1) < 1e-9) ?? null;
}

/**
 * The standard value that was probably meant by one of no series: two digits changed places (74k for 47k), or one typed
 * twice (477 for 47). Null where neither gives one: an odd value may well be right.
 */
export function likelySlip(value: number): number | null {
  if (!(value > 0) || seriesOf(value) !== null) return null;
  const [mantissa, power] = value.toExponential().split("e");
  const digits = mantissa.replace(".", "");
  const swapped = digits.length === 2 ? digits[1] + digits[0] : null;
  const single = digits.length === 3 && /(\d)\1/.test(digits) ? digits.replace(/(\d)\1/, "$1") : null;
  const meant = swapped ?? single;
  if (meant === null || !TWO_DIGITS.includes(Number(meant))) return null;
  return Number(`${meant}e${Number(power) - digits.length + 1}`);
}

export interface TwoResistors {
  readonly kind: "series" | "parallel";
  readonly a: number;
  readonly b: number;
  readonly ohms: number;
}

/** The values of a series on either side of a positive one. */
function around(value: number, series: ESeries): number[] {
  const decade = Math.floor(Math.log10(value));
  const near = [decade - 1, decade, decade + 1].flatMap((d) => TABLE[series].map((v) => Number(`${v}e${d}`)));
  return [Math.max(...near.filter((v) => v <= value)), Math.min(...near.filter((v) => v > value))];
}

/** The closest to a value that two resistors of a series give, in series or in parallel; best first. */
export function matchTwo(value: number, series: ESeries, most = 3): TwoResistors[] {
  const decade = Math.floor(Math.log10(value));
  const offered = [-2, -1, 0, 1, 2].flatMap((d) => TABLE[series].map((v) => Number(`${v}e${decade + d}`)));
  const found = offered.flatMap((a): TwoResistors[] => {
    const inSeries = value > a ? around(value - a, series) : [];
    const beside = a > value ? around(1 / (1 / value - 1 / a), series) : [];
    return [
      ...inSeries.filter((b) => b <= a).map((b) => ({ kind: "series" as const, a, b, ohms: a + b })),
      ...beside.filter((b) => b >= a).map((b) => ({ kind: "parallel" as const, a, b, ohms: 1 / (1 / a + 1 / b) })),
    ];
  });
  const off = (t: TwoResistors) => Math.abs(Math.log(t.ohms / value));
  return found.sort((a, b) => off(a) - off(b)).slice(0, most);
}
