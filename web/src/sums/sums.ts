import { BENCH_SUMS } from "./benchSums.ts";
import { JUNCTION_SUMS } from "./junctionSums.ts";
import { RESISTANCE_SUMS } from "./resistanceSums.ts";
import type { Sum } from "./working.ts";

/** Every pocket sum, in the order of the page. */
export const POCKET_SUMS: readonly Sum[] = [...RESISTANCE_SUMS, ...BENCH_SUMS, ...JUNCTION_SUMS];
