import { buildNetwork } from "../circuit/index.ts";
import type { RankInput } from "../rank/index.ts";
import { FitBench } from "./fit.ts";
import { choicesOf, type Supposed } from "./supposed.ts";

/** How probable each value of a faulty part is, given that it is this fault. */
export interface ValueDistribution {
  readonly kind: "distribution";
  readonly unit: "ohm" | "V";
  readonly nominal: number;
  readonly isLogarithmic: boolean;
  /** Values, ascending, and their density on the scale on which the prior is even; the highest is 1. */
  readonly xs: Float64Array;
  readonly density: Float64Array;
}

const TRIED = 200;

/**
 * The distribution of one fault's value by the readings, the prior being even over its reach; other faults stay as given.
 * The range is narrowed once to where the density lies.
 * @param which number of the fault among those supposed
 * @returns null where it has no value
 */
export function valueDistribution(
  input: RankInput,
  supposed: readonly Supposed[],
  which: number,
): ValueDistribution | null {
  const fault = supposed[which];
  if (!fault || "nodes" in fault) return null;
  const choices = choicesOf(buildNetwork(input.circuit)).get(fault.part) ?? [];
  const reach = choices.find((c) => c.mode === fault.mode)?.reach;
  if (!reach) return null;
  const bench = new FitBench(input);
  const { least, most, isLogarithmic, unit, nominal } = reach;
  const at = (t: number) => (isLogarithmic ? least * (most / least) ** t : least + (most - least) * t);
  const bitsAt = (value: number) => {
    const fit = bench.of(supposed.map((f, i) => (i === which ? { ...fault, value } : f)));
    return fit.kind === "fit" ? fit.bits : Number.NEGATIVE_INFINITY;
  };
  const over = (from: number, to: number) => {
    const shares = Array.from({ length: TRIED + 1 }, (_, i) => from + ((to - from) * i) / TRIED);
    const bits = shares.map((t) => bitsAt(at(t)));
    const top = Math.max(...bits);
    return { shares, density: bits.map((b) => (Number.isFinite(top) ? 2 ** (b - top) : 1)) };
  };
  const rough = over(0, 1);
  const live = rough.density.flatMap((d, i) => (d > 1e-3 ? [i] : []));
  const [from, to] = [Math.max(0, live[0] - 2), Math.min(TRIED, live[live.length - 1] + 2)];
  const fine = to - from < TRIED / 2 ? over(rough.shares[from], rough.shares[to]) : rough;
  return {
    kind: "distribution",
    unit,
    nominal,
    isLogarithmic,
    xs: Float64Array.from(fine.shares, at),
    density: Float64Array.from(fine.density),
  };
}
