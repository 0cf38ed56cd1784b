/** Engineering prefixes, one table for reading and printing. Powers of ten. */
export const PREFIXES = [
  { symbol: "p", exponent: -12, also: [] },
  { symbol: "n", exponent: -9, also: [] },
  { symbol: "µ", exponent: -6, also: ["u", "μ"] },
  { symbol: "m", exponent: -3, also: [] },
  { symbol: "", exponent: 0, also: [] },
  { symbol: "k", exponent: 3, also: ["K"] },
  { symbol: "M", exponent: 6, also: [] },
  { symbol: "G", exponent: 9, also: [] },
] as const;

/** Power of ten of a prefix letter, or undefined where the letter is none. */
export function exponentOf(letter: string): number | undefined {
  const found = PREFIXES.find((p) => p.symbol === letter || (p.also as readonly string[]).includes(letter));
  return found?.exponent;
}

/** The prefix symbol that stands for 10^exponent; exponents outside the table have none. */
export function prefixOf(exponent: number): string | undefined {
  return PREFIXES.find((p) => p.exponent === exponent)?.symbol;
}
