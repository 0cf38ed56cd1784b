import { worthOf, worthOfAnswers } from "./information.ts";
import type { Outlook } from "./outlook.ts";
import type { Steps } from "./steps.ts";

/** Two suspects of which the best measurement tells less than this, in bits, look the same. */
const ALIKE = 0.05;
/** Hypotheses beyond so many are groups of their own. */
const MOST = 40;

/** What can be measured without dismantling: numbers of candidate readings, and answers of each look. */
export interface Undismantled {
  readonly readings: readonly number[];
  readonly looks: readonly (readonly number[])[];
}

/**
 * Hypotheses that no measurement without dismantling could tell apart, judged on the whole of their values: whatever is
 * on offer, it tells next to nothing which of the two it is.
 * @param count hypotheses
 * @returns the group number of each hypothesis; those without an outlook are groups of their own
 */
export function* groupSteps(outlooks: readonly Outlook[], count: number, offered: Undismantled): Steps<Int32Array> {
  const group = Int32Array.from({ length: count }, (_, i) => i);
  const own = new Map<number, Outlook[]>();
  for (const outlook of outlooks) own.set(outlook.hypothesis, [...(own.get(outlook.hypothesis) ?? []), outlook]);
  const list = [...own.keys()].slice(0, MOST);
  for (const [i, a] of list.entries()) {
    for (const b of list.slice(0, i)) {
      if (group[b] !== b) continue;
      yield;
      if (!areAlike(own.get(a) as Outlook[], own.get(b) as Outlook[], offered)) continue;
      group[a] = b;
      break;
    }
  }
  return group;
}

function areAlike(one: readonly Outlook[], other: readonly Outlook[], { readings, looks }: Undismantled): boolean {
  const share = (list: readonly Outlook[]) => list.reduce((s, o) => s + o.probability, 0);
  const [p, q] = [share(one), share(other)];
  const both = [...one, ...other];
  const classes = both.map((_, k) => Number(k >= one.length));
  const weights = both.map((o, k) => o.probability / (2 * (k < one.length ? p : q)));
  const isTold = (k: number) => {
    const ways = { classes, weights, mean: both.map((o) => o.mean[k]), deviation: both.map((o) => o.deviation[k]) };
    return worthOf(ways).bits >= ALIKE;
  };
  if (readings.some(isTold)) return false;
  return !looks.some((answers) => {
    const chances = answers.map((a) => both.map((o) => o.looks[a]));
    return worthOfAnswers(classes, weights, chances).bits >= ALIKE;
  });
}
