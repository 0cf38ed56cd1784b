import { buildNetwork, type Circuit, KIND_NAMES, type Kind, type Mode } from "../circuit/index.ts";
import type { FaultCount, Habits, Priors, Repaired } from "../record/index.ts";
import { type PriorData, priorData } from "./defaults.ts";
import { bridgeCandidates } from "./site.ts";

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

/** What one closed job teaches: what failed, and how often each kind was to be expected to, by the tables. */
export interface Lesson {
  readonly repairs: readonly Repair[];
  readonly expected: Expected;
}
export type Expected = Readonly<Partial<Record<Kind | "bridge", number>>>;

/** How many repairs the tables count for: the rate of one kind, and the modes of one kind. */
const TABLE_COUNTS = { rate: 20, modes: 40 } as const;
/**
 * How many the shares of one circuit's faults may count for beside what happened to it, and how much each is believed
 * before that: how far circuits differ from the tables is itself learnt. Most are taken to differ little.
 */
const CIRCUIT_COUNTS = [
  { counts: 8, belief: 0.05 },
  { counts: 25, belief: 0.1 },
  { counts: 80, belief: 0.15 },
  { counts: 250, belief: 0.2 },
  { counts: 800, belief: 0.25 },
  { counts: 2500, belief: 0.25 },
] as const;

/** Parts of each kind in a circuit, and pairs of nodes that a bridge might join. */
export type Exposure = Readonly<Partial<Record<Kind | "bridge", number>>>;

export function exposureOf(circuit: Circuit): Exposure {
  const counts: Partial<Record<Kind | "bridge", number>> = {};
  for (const { kind } of circuit.parts) counts[kind] = (counts[kind] ?? 0) + 1;
  return { ...counts, bridge: pairsIn(circuit) };
}

/** None where a value is open: the network cannot be laid out then. */
function pairsIn(circuit: Circuit): number {
  try {
    return bridgeCandidates(buildNetwork(circuit)).length;
  } catch {
    return 0;
  }
}

/** So many faults shared out among the kinds of a circuit, by the tables: kinds of which there are many fail more often. */
export function expectedOf(exposure: Exposure, faults: number, start?: Priors): Expected {
  const { rates } = priorData(start);
  const weights = Object.entries(exposure).map(([kind, n]) => [kind, n * rates[kind as Kind]] as const);
  const all = weights.reduce((sum, [, w]) => sum + w, 0);
  return Object.fromEntries(weights.map(([kind, w]) => [kind, all > 0 ? (faults * w) / all : 0]));
}

/** Habits learnt from closed jobs. */
export function habitsFrom(lessons: readonly Lesson[], start?: Priors): Priors {
  const expected: Record<string, number> = {};
  for (const lesson of lessons)
    for (const [kind, n] of Object.entries(lesson.expected)) expected[kind] = (expected[kind] ?? 0) + n;
  const counts = lessons.flatMap((l) => l.repairs.map((r): FaultCount => ({ ...r, count: 1 })));
  return habitsFromCounts(counts, expected, start);
}

/**
 * What closed jobs taught about one circuit: what happened to it counts for its own parts, what happened to others for
 * their kinds; nothing counts twice. What was added by hand counts among the kinds.
 */
export function habitsOf({ settings, kinds, expected, circuits }: Habits, circuit: string): Priors {
  if (!settings.isOn) return {};
  const own = circuits.find((c) => c.circuit === circuit);
  const counts = new Map<string, FaultCount>();
  const add = (list: readonly FaultCount[], sign: 1 | -1) => {
    for (const one of list) {
      const key = `${one.kind} ${one.mode}`;
      counts.set(key, { ...one, count: (counts.get(key)?.count ?? 0) + sign * one.count });
    }
  };
  add(kinds, 1);
  add(own?.kinds ?? [], -1);
  add(settings.adjust, 1);
  const others = [...counts.values()].filter((c) => c.count > 0);
  const before = Object.entries(expected).map(([kind, n]) => [kind, n - (own?.expected[kind] ?? 0)] as const);
  return {
    ...(others.length > 0 ? habitsFromCounts(others, Object.fromEntries(before)) : {}),
    ...(own && own.parts.length > 0 ? { failed: [...own.parts] } : {}),
  };
}

/**
 * Rates and shares from counts. A kind's rate is a gamma with the table's as its mean: it grows with what was found and
 * falls with what was to be expected, so that a kind of which a circuit has many is not taken for one that fails often.
 * Shares are Dirichlet counts with the tables as pseudo-counts. Gelman et al., Bayesian Data Analysis, 3rd ed., §2.6, §3.4.
 */
export function habitsFromCounts(counts: readonly FaultCount[], expected: Expected, start?: Priors): Priors {
  const before = priorData(start);
  return { ...start, rates: ratesFrom(counts, expected, before), modes: modesFrom(counts, before) };
}

/**
 * How much likelier each fault of a circuit is for what happened to that very circuit: Dirichlet counts with the tables'
 * shares as pseudo-counts, averaged over how many those may count for, each by how well it foretells what happened
 * (Dirichlet-multinomial evidence; Gelman et al., Bayesian Data Analysis, 3rd ed., §3.4, §5).
 * @param shares of all faults of the circuit, by the tables; they add up to one
 * @param times how often each was found
 */
export function likelierBy(shares: readonly number[], times: readonly number[]): number[] {
  const all = times.reduce((sum, n) => sum + n, 0);
  const logs = CIRCUIT_COUNTS.map(({ counts, belief }) => {
    const each = times.reduce((sum, n, i) => sum + logRising(counts * shares[i], n), 0);
    return Math.log(belief) + each - logRising(counts, all);
  });
  const most = Math.max(...logs);
  const weights = logs.map((l) => Math.exp(l - most));
  const sum = weights.reduce((s, w) => s + w, 0);
  return shares.map((share, i) =>
    CIRCUIT_COUNTS.reduce(
      (mean, { counts }, k) => mean + ((weights[k] / sum) * (counts + times[i] / share)) / (counts + all),
      0,
    ),
  );
}

/** log of x·(x+1)·…·(x+n−1). */
function logRising(x: number, n: number): number {
  let sum = 0;
  for (let i = 0; i < n; i += 1) sum += Math.log(x + i);
  return sum;
}

const sumOf = (counts: readonly FaultCount[]) => counts.reduce((sum, c) => sum + c.count, 0);

function ratesFrom(counts: readonly FaultCount[], expected: Expected, { rates }: PriorData): PriorData["rates"] {
  const names = Object.keys(rates) as (Kind | "bridge")[];
  return Object.fromEntries(
    names.map((name) => {
      const seen = sumOf(counts.filter((r) => r.kind === name));
      const due = Math.max(0, expected[name] ?? 0);
      return [name, (rates[name] * (TABLE_COUNTS.rate + seen)) / (TABLE_COUNTS.rate + due)];
    }),
  ) as PriorData["rates"];
}

function modesFrom(counts: readonly FaultCount[], { modes }: PriorData): PriorData["modes"] {
  return Object.fromEntries(
    KIND_NAMES.map((kind) => {
      const own = counts.filter((r) => r.kind === kind);
      const shares = Object.entries(modes[kind]) as [Mode, number][];
      const sum = shares.reduce((s, [, share]) => s + share, 0);
      const learnt = shares.map(([mode, share]) => {
        const seen = sumOf(own.filter((r) => r.mode === mode));
        return [mode, ((share / sum) * TABLE_COUNTS.modes + seen) / (TABLE_COUNTS.modes + sumOf(own))];
      });
      return [kind, Object.fromEntries(learnt)];
    }),
  ) as PriorData["modes"];
}
