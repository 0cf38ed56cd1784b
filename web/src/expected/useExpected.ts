import type { Network } from "@hound/core/circuit";
import { type ExpectedChart, expectChart } from "@hound/core/rank";
import type { Conventions } from "@hound/core/record";
import {
  type BranchState,
  type Check,
  checksOf,
  type Paper,
  type Reduction,
  reduceNetwork,
  statesOfParts,
  type WayBack,
  wayBack,
} from "@hound/core/reduce";
import { type Solution, solveNetwork } from "@hound/core/solve";
import { useMemo } from "react";
import { seenIn } from "./ends.ts";

/** Figures carried on paper. */
const PAPER_DIGITS = 3;

export interface Expected {
  readonly network: Network;
  readonly solution: Solution;
  readonly chart: ExpectedChart | null;
  readonly reduction: Reduction;
  readonly back: WayBack | null;
  /** Volts and amperes of each branch as the chart carries them: exact, or rounded step by step. */
  readonly states: readonly BranchState[];
  readonly checks: readonly Check[];
  /** True where the figures were rounded at every step. */
  readonly onPaper: boolean;
}

/** Everything the stage shows, from one network: worked out once, on the page, in a few milliseconds. */
export function useExpected(network: Network, conventions: Conventions): Expected {
  const paper = useMemo(() => paperOf(conventions), [conventions]);
  return useMemo(() => workOut(network, paper), [network, paper]);
}

/** How figures are carried; exact ones stay as they are, and only their sums are written in the school's way. */
export function paperOf({ rounding, sums, equalShortcut }: Conventions): Paper & { readonly isRounded: boolean } {
  const isRounded = rounding === "paper";
  const round = (value: number) => (isRounded ? Number(value.toPrecision(PAPER_DIGITS)) : value);
  return { round, school: sums, shortcut: equalShortcut === "on", isRounded };
}

export function workOut(network: Network, own: ReturnType<typeof paperOf>): Expected {
  const { round, isRounded: paper } = own;
  const solution = solveNetwork(network);
  const chart = expectChart(network);
  const ohms = ohmsOf(network, solution);
  const reduction = reduceNetwork(network, ohms, own, seenIn(network, null));
  const back = wayBack(network, reduction, round);
  // A circuit that series and parallel do not reduce is solved by node equations, whose results are rounded in the end.
  const rounded = paper && back && !reduction.bridge ? statesOfParts(network, back) : null;
  const states = network.branches.map((branch, k): BranchState => {
    const exact = exactState(solution, branch.from, branch.to, k);
    if (!paper) return exact;
    const carried = rounded?.get(k) ?? (k === reduction.source && back ? sourceState(back, branch.from, round) : null);
    return carried ?? { volts: round(exact.volts), amps: round(exact.amps) };
  });
  const half = (size: number) =>
    size === 0 ? 0 : 0.5 * 10 ** (Math.floor(Math.log10(Math.abs(size))) - PAPER_DIGITS + 1);
  const checks = checksOf(network, states, reduction, paper ? half : () => 0);
  return { network, solution, chart, reduction, back, states, checks, onPaper: paper };
}

function sourceState({ total }: WayBack, from: number, round: (v: number) => number): BranchState {
  const along = total.item.from === from ? 1 : -1;
  return { volts: round(total.volts * along), amps: -round(total.amps * along) };
}

function exactState(solution: Solution, from: number, to: number, k: number): BranchState {
  if (solution.kind !== "solved") return { volts: Number.NaN, amps: Number.NaN };
  return { volts: solution.point.volts[from] - solution.point.volts[to], amps: solution.amps[k] };
}

/** Ohms of each branch at the working point. */
export function ohmsOf(network: Network, solution: Solution): number[] {
  return network.branches.map((b, k) => {
    if (solution.kind === "solved") return solution.point.ohms[k];
    return b.law.kind === "resistance" || b.law.kind === "supply" ? b.law.ohms : Number.POSITIVE_INFINITY;
  });
}
