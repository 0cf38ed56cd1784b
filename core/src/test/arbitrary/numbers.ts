import fc from "fast-check";

/** Numbers spread evenly from `min` to `max`: `fc.double` spreads its bits, so that nearly all it draws are nearly zero. */
export function decimals(min: number, max: number): fc.Arbitrary<number> {
  return fc.integer({ min: 0, max: 10_000 }).map((k) => min + ((max - min) * k) / 10_000);
}

/** So many of them. */
export function lists(length: number, min: number, max: number): fc.Arbitrary<number[]> {
  return fc.array(decimals(min, max), { minLength: length, maxLength: length });
}
