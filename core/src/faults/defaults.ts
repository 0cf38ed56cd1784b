import { KIND_NAMES, type Kind, type Mode, rowOf } from "../circuit/index.ts";
import type { Priors, Situation } from "../record/index.ts";

/** What is said of every kind, by one column of the table of kinds. */
function column<T>(of: (kind: Kind) => T): Readonly<Record<Kind, T>> {
  return Object.fromEntries(KIND_NAMES.map((kind) => [kind, of(kind)])) as Record<Kind, T>;
}

/** Relative rates of failure by kind; `bridge` for each pair of nodes that could be bridged. */
export const RATES: Readonly<Record<Kind | "bridge", number>> = { ...column((kind) => rowOf(kind).rate), bridge: 0.3 };

/** How a kind fails: share of each mode. */
export const MODE_SHARES: Readonly<Record<Kind, Readonly<Partial<Record<Mode, number>>>>> = column(
  (kind) => rowOf(kind).modes,
);

export interface PriorData {
  readonly healthy: number;
  /** How likely a fault was noticed that brought the job here; null where that is no evidence. */
  readonly noticed: Noticing | null;
  readonly doubleShare: number;
  readonly driftFactorMax: number;
  readonly blunder: number;
  readonly blunderKinds: Readonly<Record<"sign" | "unit" | "decimal" | "zero" | "other", number>>;
  /** Probability that two readings of one quantity taken one after the other are each other's. */
  readonly exchanged: number;
  readonly rates: Readonly<Record<Kind | "bridge", number>>;
  readonly modes: Readonly<Record<Kind, Readonly<Partial<Record<Mode, number>>>>>;
  /** How much likelier than its like a part is said to be, by designator. */
  readonly opinions: ReadonlyMap<string, number>;
  /** How often faults of this very circuit were found, by `R3 open`, `A~D bridged`. */
  readonly failed: ReadonlyMap<string, number>;
}

/** A part that is ruled out is a thousand times rarer: readings can still bring it back. One that is suspected is thirty times likelier. */
const OPINIONS = { excluded: 1e-3, pinned: 30 } as const;

/** Probability that a reading was mis-taken; and, of that, that two next to each other are each other's. */
const BLUNDER = 0.01;
const EXCHANGED = 0.1;

/** Chance that nothing is wrong: small where somebody complained, even where a new build or a repair is checked. */
const HEALTHY: Readonly<Record<Situation, number>> = { complaint: 0.02, unsaid: 0.2, newBuild: 0.5, repaired: 0.5 };
/** Where something brought a job here, it is hardly something that nobody could have noticed. */
const NOTICED: Readonly<Record<Situation, boolean>> = {
  complaint: true,
  unsaid: true,
  newBuild: false,
  repaired: false,
};

/** How likely a change was noticed: at least so likely, and half of the rest at a relative change `at`, log-normally. */
export interface Noticing {
  readonly least: number;
  readonly at: number;
  readonly spread: number;
}
const NOTICING: Noticing = { least: 0.03, at: 0.1, spread: 0.7 };

/** Habits with every gap filled from the tables above. A bare case file does not say what brought it here: nothing is made of that. */
export function priorData(priors: Priors = {}, situation?: Situation): PriorData {
  const isNoticed = priors.noticed !== undefined || (situation !== undefined && NOTICED[situation]);
  return {
    healthy: priors.healthy ?? HEALTHY[situation ?? "complaint"],
    noticed: isNoticed ? { ...NOTICING, ...priors.noticed } : null,
    doubleShare: priors.doubleShare ?? 0.08,
    driftFactorMax: priors.driftFactorMax ?? 100,
    blunder: priors.blunder ?? BLUNDER,
    blunderKinds: blunderShares(priors.blunderKinds),
    exchanged: (priors.blunder ?? BLUNDER) * (priors.blunderKinds ? (priors.blunderKinds.exchanged ?? 0) : EXCHANGED),
    rates: { ...RATES, ...priors.rates },
    modes: { ...MODE_SHARES, ...priors.modes },
    failed: new Map((priors.failed ?? []).map(({ part, mode, count }) => [`${part} ${mode}`, count])),
    opinions: new Map(
      (["excluded", "pinned"] as const).flatMap((how) => (priors[how] ?? []).map(({ part }) => [part, OPINIONS[how]])),
    ),
  };
}

function blunderShares(kinds: Priors["blunderKinds"]): PriorData["blunderKinds"] {
  if (!kinds) return { sign: 0.4, unit: 0.2, decimal: 0.1, zero: 0.2, other: 0.1 };
  const { sign = 0, unit = 0, decimal = 0, zero = 0, other = 0 } = kinds;
  const sum = sign + unit + decimal + zero + other || 1;
  return { sign: sign / sum, unit: unit / sum, decimal: decimal / sum, zero: zero / sum, other: other / sum };
}
