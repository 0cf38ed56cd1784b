import { type Circuit, KIND_NAMES, type Kind, type Mode } from "../circuit/index.ts";
import type { Priors, Repaired } from "../record/index.ts";
import { type PriorData, priorData } from "./defaults.ts";

/** A verified repair: what failed, and how. */
export interface Repair {
  readonly kind: Kind | "bridge";
  readonly mode: Mode;
}

/**
 * What verified faults say about kinds: one repair each.
 * @returns the name of the first part that the circuit does not have, where there is one
 */
export function repairsOf(circuit: Circuit, found: readonly Repaired[]): Repair[] | string {
  const repairs: Repair[] = [];
  for (const fault of found) {
    if ("nodes" in fault) {
      repairs.push({ kind: "bridge", mode: "bridged" });
      continue;
    }
    const [designator, section] = String(fault.part).split(".");
    const part = circuit.parts.find((p) => p.designator === designator);
    if (!part) return designator;
    const mode = section === "wiper" && fault.mode === "open" ? "wiperOpen" : fault.mode;
    repairs.push({ kind: part.kind, mode: mode as Mode });
  }
  return repairs;
}

/** How many repairs the tables count for: all kinds together, and the modes of one kind. */
const TABLE_COUNTS = { rates: 60, modes: 12 } as const;

/**
 * Habits learnt from closed jobs: rates and shares are Dirichlet counts with the tables as pseudo-counts, and each
 * verified repair adds one. Rates keep their scale: their sum stays what it was.
 */
export function habitsFrom(repairs: readonly Repair[], start?: Priors): Priors {
  const before = priorData(start);
  return { ...start, rates: ratesFrom(repairs, before), modes: modesFrom(repairs, before) };
}

function ratesFrom(repairs: readonly Repair[], { rates }: PriorData): PriorData["rates"] {
  const sum = Object.values(rates).reduce((s, r) => s + r, 0);
  const perCount = sum / (TABLE_COUNTS.rates + repairs.length);
  const names = Object.keys(rates) as (Kind | "bridge")[];
  return Object.fromEntries(
    names.map((name) => {
      const seen = repairs.filter((r) => r.kind === name).length;
      return [name, ((rates[name] / sum) * TABLE_COUNTS.rates + seen) * perCount];
    }),
  ) as PriorData["rates"];
}

function modesFrom(repairs: readonly Repair[], { modes }: PriorData): PriorData["modes"] {
  return Object.fromEntries(
    KIND_NAMES.map((kind) => {
      const own = repairs.filter((r) => r.kind === kind);
      const shares = Object.entries(modes[kind]) as [Mode, number][];
      const sum = shares.reduce((s, [, share]) => s + share, 0);
      const counts = shares.map(([mode, share]) => {
        const seen = own.filter((r) => r.mode === mode).length;
        return [mode, ((share / sum) * TABLE_COUNTS.modes + seen) / (TABLE_COUNTS.modes + own.length)];
      });
      return [kind, Object.fromEntries(counts)];
    }),
  ) as PriorData["modes"];
}
