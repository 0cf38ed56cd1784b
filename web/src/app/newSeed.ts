/** A seed that nobody chose: 32 bits, from 1. */
export const newSeed = (): number => 1 + Math.floor(Math.random() * (2 ** 32 - 1));
