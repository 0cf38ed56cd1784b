import type { HuntSummary } from "./hunt.ts";
import { FAULT_KINDS, type FaultKind, kindOfMode } from "./world.ts";

/** One hunt that is over: minutes beside the best way's, in the order they were made. */
export interface RunPoint {
  readonly id: string;
  readonly title: string;
  readonly at: string;
  readonly minutes: number;
  /** Times the best way's minutes; null where those are not known. */
  readonly ratio: number | null;
  readonly isFound: boolean;
  /** Named rightly at once. */
  readonly isFirstRight: boolean;
}

/** How hunts of one sort went. */
export interface SortProgress {
  readonly name: string;
  readonly hunts: number;
  readonly firstRight: number;
  /** Of those with one, the middle ratio; null where there is none. */
  readonly ratio: number | null;
}

export interface KindProgress extends SortProgress {
  readonly kind: FaultKind | "nothing" | "several";
}

export interface Progress {
  readonly runs: readonly RunPoint[];
  readonly kinds: readonly KindProgress[];
  /** By how many parts the circuit has, the smallest first. */
  readonly sizes: readonly SortProgress[];
  /** How often what was named with so much certainty was right, the least sure first. */
  readonly sureness: readonly { readonly sure: number; readonly times: number; readonly of: number }[];
  readonly unsafe: number;
  /** What to practise next, and why; null before there is anything to tell it by. */
  readonly next: { readonly kind: FaultKind; readonly why: "new" | "wrong" | "slow" } | null;
}

/** What hunts that are over tell of whoever made them. */
export function progressOf(hunts: readonly HuntSummary[]): Progress {
  const over = hunts.filter((h) => h.state !== "open").sort((a, b) => a.createdAt.localeCompare(b.createdAt));
  const runs = over.map(runOf);
  const byKind = new Map<KindProgress["kind"], RunPoint[]>();
  over.forEach((hunt, i) => {
    const kind = kindOf(hunt);
    byKind.set(kind, [...(byKind.get(kind) ?? []), runs[i]]);
  });
  const kinds = [...byKind].map(([kind, own]) => ({ kind, ...progressIn(kindName(kind), own) }));
  const sizes = SIZES.flatMap(({ name, most }, n) => {
    const own = runs.filter((_, i) => over[i].partCount <= most && over[i].partCount > (SIZES[n - 1]?.most ?? 0));
    return own.length > 0 ? [progressIn(name, own)] : [];
  });
  return {
    runs,
    kinds,
    sizes,
    sureness: surenessOf(over),
    unsafe: over.reduce((n, h) => n + h.unsafe, 0),
    next: nextOf(kinds, over.length),
  };
}

function runOf({ id, title, createdAt, minutes, best, state, namings }: HuntSummary): RunPoint {
  const ratio = best && best.minutes > 0 ? minutes / best.minutes : null;
  const isFound = state === "found";
  return { id, title, at: createdAt, minutes, ratio, isFound, isFirstRight: isFound && namings.length === 1 };
}

function kindOf({ truth }: HuntSummary): KindProgress["kind"] {
  const faults = truth?.faults ?? [];
  if (faults.length === 0) return "nothing";
  const kinds = new Set(faults.map((f) => kindOfMode(f.mode)));
  return kinds.size === 1 ? ([...kinds][0] as FaultKind) : "several";
}

const kindName = (kind: KindProgress["kind"]) =>
  kind === "nothing" ? "Nothing wrong" : kind === "several" ? "Several at once" : FAULT_KINDS[kind].name;

/** Classes of circuits by their parts. */
const SIZES = [
  { name: "Up to 5 parts", most: 5 },
  { name: "6 to 10 parts", most: 10 },
  { name: "11 to 20 parts", most: 20 },
  { name: "More than 20 parts", most: Number.POSITIVE_INFINITY },
] as const;

function progressIn(name: string, own: readonly RunPoint[]): SortProgress {
  const ratios = own.flatMap((r) => (r.ratio === null || !r.isFound ? [] : [r.ratio])).sort((a, b) => a - b);
  const middle = ratios.length === 0 ? null : median(ratios);
  return { name, hunts: own.length, firstRight: own.filter((r) => r.isFirstRight).length, ratio: middle };
}

const median = (sorted: readonly number[]) =>
  (sorted[Math.floor((sorted.length - 1) / 2)] + sorted[Math.floor(sorted.length / 2)]) / 2;

function surenessOf(hunts: readonly HuntSummary[]): Progress["sureness"] {
  const classes = new Map<number, { times: number; of: number }>();
  for (const { namings } of hunts)
    for (const { sure, right } of namings) {
      const before = classes.get(sure) ?? { times: 0, of: 0 };
      classes.set(sure, { times: before.times + Number(right === 1), of: before.of + 1 });
    }
  return [...classes].map(([sure, c]) => ({ sure, ...c })).sort((a, b) => a.sure - b.sure);
}

/** Slower than so many times the best way is worth practising. */
const SLOW = 2;
/** Named rightly at once in fewer than this share. */
const OFTEN = 0.7;

/** A kind of fault that was never hunted; else the one that was oftenest named wrongly; else the slowest. */
function nextOf(kinds: readonly KindProgress[], hunts: number): Progress["next"] {
  if (hunts === 0) return null;
  const known = new Map(kinds.map((k) => [k.kind, k]));
  const all = Object.keys(FAULT_KINDS) as FaultKind[];
  const shareOf = (kind: FaultKind) => {
    const own = known.get(kind);
    return own ? own.firstRight / own.hunts : 1;
  };
  const worst = [...all].sort((a, b) => shareOf(a) - shareOf(b))[0];
  if (shareOf(worst) < OFTEN) return { kind: worst, why: "wrong" };
  const fresh = all.find((kind) => !known.has(kind));
  if (fresh) return { kind: fresh, why: "new" };
  const slowest = [...all].sort((a, b) => (known.get(b)?.ratio ?? 0) - (known.get(a)?.ratio ?? 0))[0];
  return (known.get(slowest)?.ratio ?? 0) > SLOW ? { kind: slowest, why: "slow" } : null;
}
