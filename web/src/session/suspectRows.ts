import type { Network } from "@hound/core/circuit";
import type { Ranking, RepairStep, Suspect, SuspectFault } from "@hound/core/rank";
import { estimateOf, falseMeterWords, kindsIn, nameOfSuspect } from "../words/faults.ts";

/** One line of the ranking as a person reads it. */
export interface SuspectRow {
  readonly key: string;
  readonly name: string;
  readonly estimate: string | null;
  readonly probability: number;
  readonly suspect: Suspect;
}

/** Suspects in words; “nothing wrong” splits into with and without a mis-taken reading. */
export function suspectRows(ranking: Ranking, network: Network): SuspectRow[] {
  const kindOf = kindsIn(network);
  const rows = ranking.suspects.flatMap((suspect): SuspectRow[] => {
    const { meter } = suspect;
    if (meter && suspect.faults.length === 0) {
      const name = `Nothing wrong, ${falseMeterWords(meter)}`;
      return [
        {
          key: `meter ${meter.quantity} ${meter.meter}`,
          name,
          estimate: null,
          probability: suspect.probability,
          suspect,
        },
      ];
    }
    if (suspect.faults.length > 0) {
      return [
        {
          key: `${keyOf(suspect.faults)}${meter ? ` meter ${meter.quantity} ${meter.meter}` : ""}`,
          name: `${nameOfSuspect(suspect, kindOf)}${meter ? `, and ${falseMeterWords(meter)}` : ""}`,
          estimate:
            suspect.faults
              .map((f) => estimateOf(f, kindOf))
              .filter(Boolean)
              .join("; ") || null,
          probability: suspect.probability,
          suspect,
        },
      ];
    }
    const mistaken = ranking.healthyButMistaken;
    const line = (key: string, name: string, share: number) => ({
      key,
      name,
      estimate: null,
      probability: suspect.probability * share,
      suspect,
    });
    return [
      line("healthy", "Nothing wrong", 1 - mistaken),
      line("mistaken", "Nothing wrong, a reading is mis-taken", mistaken),
    ];
  });
  return rows.sort((a, b) => b.probability - a.probability);
}

/** What would put it right, with the ways in which it may be wrong. */
export interface RepairRow {
  readonly key: string;
  /** `R4`, `F1 and R2`, `B to D`; “Nothing wrong”. */
  readonly name: string;
  /** That just this is wrong, with what nothing read speaks for beside it: all rows together make one. */
  readonly probability: number;
  /** Ways it may be wrong, the likeliest first. */
  readonly modes: readonly SuspectRow[];
  /** Those with a second fault beside it that nothing read speaks for, and what that second one may be. */
  readonly beside: readonly SuspectRow[];
  /** What those hold together, listed or not. */
  readonly besideShare: number;
  readonly seconds: readonly string[];
}

/** The likeliest way in which a repair's part is wrong, where there is little room: `R3 open`. */
export function nameInBrief({ modes: [mode] }: RepairRow, network: Network): string {
  const { faults, meter } = mode.suspect;
  return faults.length > 0 && !meter ? nameOfSuspect(mode.suspect, kindsIn(network), true) : mode.name;
}

const rowsOf = new WeakMap<Ranking, { readonly network: Network; readonly rows: readonly RepairRow[] }>();

/**
 * Suspects by what would put them right, the likeliest first; nothing wrong with and without a mis-taken reading. Worked
 * out once a ranking: several views ask, at every stroke.
 */
export function repairRows(ranking: Ranking, network: Network): readonly RepairRow[] {
  const known = rowsOf.get(ranking);
  if (known?.network === network) return known.rows;
  const rows = groupByRepair(ranking, network);
  rowsOf.set(ranking, { network, rows });
  return rows;
}

function groupByRepair(ranking: Ranking, network: Network): RepairRow[] {
  const kindOf = kindsIn(network);
  const byRepair = new Map<string, SuspectRow[]>();
  for (const row of suspectRows(ranking, network)) {
    const { faults, repair } = row.suspect;
    const key = faults.length === 0 ? row.key : String(repair);
    const members = byRepair.get(key);
    if (members) members.push(row);
    else byRepair.set(key, [row]);
  }
  const rows = [...byRepair].map(([key, members]): RepairRow => {
    const [first] = members;
    const needed = ranking.repairs[first.suspect.repair]?.repair ?? [];
    const isBeside = ({ suspect: { faults, consequence } }: SuspectRow) =>
      !consequence && faults.length > Math.max(1, needed.length);
    const alone = members.filter((m) => !isBeside(m));
    const modes = alone.length > 0 ? alone : members;
    const beside = alone.length > 0 ? members.filter(isBeside) : [];
    const own = new Set(modes.flatMap((m) => m.suspect.faults.map((f) => keyOf([f]))));
    const share = ranking.repairs[first.suspect.repair];
    // Nothing wrong is several rows; of a repair some suspects may not be listed.
    const probability = needed.length > 0 ? share.alone : sumOf(members);
    const seconds = beside.flatMap((b) => b.suspect.faults.filter((f) => !own.has(keyOf([f]))));
    return {
      key,
      name: first.suspect.faults.length === 0 ? first.name : needed.map(stepName).join(" and "),
      probability,
      modes,
      beside,
      // Of one thing to be done what is not listed are two faults at once: one beside it.
      besideShare: alone.length > 0 && needed.length === 1 ? Math.max(0, probability - sumOf(modes)) : 0,
      seconds: [...new Set(seconds.map((f) => nameOfSuspect({ faults: [f] }, kindOf)))],
    };
  });
  return rows.sort((a, b) => b.probability - a.probability);
}

const sumOf = (rows: readonly SuspectRow[]) => rows.reduce((sum, r) => sum + r.probability, 0);
const stepName = (step: RepairStep) => ("part" in step ? step.part : `${step.nodes[0]} to ${step.nodes[1]}`);

/** The same for the same faults, whatever their values. */
export function keyOf(faults: readonly SuspectFault[]): string {
  return JSON.stringify(faults.map((f) => ("nodes" in f ? [f.nodes, f.mode] : [f.part, f.mode, f.belongs, f.at])));
}

/**
 * Names of those that look the same from outside as a suspect: others, and faults that could stand beside it unseen
 * (the suspect and one more).
 */
export function alikeOf(row: SuspectRow, group: readonly SuspectRow[], all: readonly SuspectRow[]) {
  const others: string[] = [];
  const besides: string[] = [];
  for (const other of group) {
    if (other.key === row.key) continue;
    const { faults, consequence } = other.suspect;
    const more = faults.filter((f) => keyOf([f]) !== row.key);
    const beside = faults.length === 2 && more.length === 1 && !consequence ? keyOf(more) : null;
    const name = beside === null ? undefined : all.find((r) => r.key === beside)?.name;
    if (name === undefined) others.push(other.name);
    else besides.push(name);
  }
  return { others, besides };
}

/** A list of older readings: without its colours and set off, but as legible as before. */
export const OUT_OF_DATE = "grayscale border-l-4 border-dashed border-doubt pl-3";

/** Amber for a doubt, violet for a suspicion. */
export function suspicionClass(probability: number): { text: string; fill: string } {
  if (probability >= 0.5) return { text: "text-suspect", fill: "bg-suspect" };
  if (probability >= 0.02) return { text: "text-doubt", fill: "bg-doubt" };
  return { text: "text-faint", fill: "bg-faint" };
}
