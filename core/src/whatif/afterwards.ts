import { type BranchFault, type Law, lawsOf, type Network } from "../circuit/index.ts";
import type { Configuration } from "../configuration/index.ts";
import { AS_DRAWN } from "../measure/index.ts";
import { chanceOfBlowing, loadOf } from "../rank/index.ts";
import { type Solution, solveNetwork } from "../solve/index.ts";
import { type Supposed, withSupposed } from "./supposed.ts";

/** The circuit with faults in it, as it stands, with what every branch carries. */
export interface Afterwards {
  readonly kind: "afterwards";
  /** Bridges are branches of their own, at the end; laws are those in force. */
  readonly network: Network;
  readonly solution: Extract<Solution, { kind: "solved" }>;
  /** What every part carries against its rating, where it has one, by branch; the numbers of `network`. */
  readonly loads: readonly (Load | null)[];
}

export interface Load {
  readonly of: "current" | "power";
  /** Amperes or watts, and the rating. */
  readonly value: number;
  readonly rating: number;
}

export type Unsolved = { readonly kind: "unsolved"; readonly at: string; readonly why: string };

/** Solves the circuit with supposed faults. @param standing how it stands otherwise */
export function afterwards(
  network: Network,
  supposed: readonly Supposed[],
  standing: Configuration = {},
): Afterwards | Unsolved {
  const { network: faulted, faults } = withSupposed(network, supposed);
  const laws = lawsOf(faulted.branches, { ...AS_DRAWN, state: standing }, faults);
  const solution = solveNetwork(faulted, laws);
  if (solution.kind === "unsolvable") return { kind: "unsolved", at: solution.at, why: solution.why };
  const settled = settledNetwork(faulted, laws, faults);
  const loads = settled.branches.map((branch, k) => loadOf(branch, laws[k], solution.amps[k]));
  return { kind: "afterwards", network: settled, solution, loads };
}

/** Laws as they are now; a part whose value is supposed has no tolerance left. */
function settledNetwork(network: Network, laws: readonly Law[], faults: ReadonlyMap<number, BranchFault>): Network {
  const branches = network.branches.map((branch, k) => {
    const { part } = branch;
    return { ...branch, law: laws[k], part: faults.has(k) ? { ...part, tolerance: 0 } : part };
  });
  return { ...network, branches };
}

/** One thing that gives way: a fuse blows, a part burns open. */
export interface Consequence extends Load {
  /** Name of the branch. */
  readonly part: string;
}

/** At the load at which half of them give way, one does. */
const GIVES_WAY = 0.5;

/**
 * Lets it happen: whatever is loaded beyond what half of its like survive gives way, the worst first, one at a time,
 * until the circuit holds.
 * @returns what gave way, in order, and the faults there are in the end
 */
export function whatFollows(
  network: Network,
  supposed: readonly Supposed[],
  standing: Configuration = {},
): { readonly gave: readonly Consequence[]; readonly supposed: readonly Supposed[] } {
  const gave: Consequence[] = [];
  let now = [...supposed];
  for (;;) {
    const after = afterwards(network, now, standing);
    if (after.kind === "unsolved") return { gave, supposed: now };
    const worst = after.loads
      .flatMap((load, k) =>
        load && chanceOfBlowing(load) > GIVES_WAY ? [{ load, k, chance: chanceOfBlowing(load) }] : [],
      )
      .filter(
        ({ k }) => !now.some((f) => "part" in f && f.part === after.network.branches[k].name && f.mode === "open"),
      )
      .sort((a, b) => b.chance - a.chance || b.load.value / b.load.rating - a.load.value / a.load.rating)[0];
    if (!worst) return { gave, supposed: now };
    const part = after.network.branches[worst.k].name;
    gave.push({ part, ...worst.load });
    now = [...now.filter((f) => !("part" in f && f.part === part)), { part, mode: "open" }];
  }
}
