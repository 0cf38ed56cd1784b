import { type BranchFault, buildNetwork, type Circuit, lawsOf, type Network } from "../circuit/index.ts";
import { bridgeCandidates, type FaultAt, faultedNetwork } from "../faults/index.ts";
import type { Random } from "../simulate/index.ts";
import { type Solution, solveNetwork } from "../solve/index.ts";
import type { Unit } from "../units/index.ts";

/** How figures and faults are written: the pages have their own conventions. */
export interface Say {
  readonly print: (value: number, unit: Unit) => string;
  readonly fault: (fault: FaultAt, network: Network) => string;
}

export type Solved = Extract<Solution, { kind: "solved" }>;

/** @returns null where it cannot be solved */
export function solved(network: Network): Solved | null {
  const solution = solveNetwork(network);
  return solution.kind === "solved" ? solution : null;
}

/** The network as it is with faults in it, its laws among them. */
export function broken(network: Network, faults: readonly FaultAt[]): Network {
  const { network: own, faults: by } = faultedNetwork(network, bridgeCandidates(network), faults);
  return withLaws(own, by);
}

function withLaws(network: Network, faults: ReadonlyMap<number, BranchFault>): Network {
  const laws = lawsOf(network.branches, { power: "on", supplies: "internal", state: {} }, faults);
  return { ...network, branches: network.branches.map((b, k) => ({ ...b, law: laws[k] })) };
}

/** Branches that are no supplies, by number. */
export function loadsOf(circuit: Circuit): { network: Network; loads: number[] } {
  const network = buildNetwork(circuit);
  return { network, loads: network.branches.flatMap((b, k) => (b.kind === "supply" ? [] : [k])) };
}

export const pick = <T>(list: readonly T[], random: Random): T => list[Math.floor(random.next() * list.length)];

/** The same in another order (Fisher and Yates). */
export function shuffled<T>(list: readonly T[], random: Random): T[] {
  const own = [...list];
  for (let i = own.length - 1; i > 0; i -= 1) {
    const j = Math.floor(random.next() * (i + 1));
    [own[i], own[j]] = [own[j], own[i]];
  }
  return own;
}

/** A choice with its options in another order. */
export function choice(options: readonly string[], right: readonly number[], random: Random) {
  const order = shuffled([...options.keys()], random);
  return {
    kind: "choice" as const,
    options: order.map((i) => options[i]),
    right: right.map((i) => order.indexOf(i)),
  };
}
