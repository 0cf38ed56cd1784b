import { type RankInput, type RepairStep, rankFaults } from "../rank/index.ts";

/** How probability moved: after each reading, by repair. */
export interface History {
  readonly kind: "history";
  /** From none to all readings; `null` where they could not be ranked, or there are too many for each to be. */
  readonly steps: readonly (readonly number[] | null)[];
  /** The repairs followed, as the numbers of `steps` have them: nothing to repair is an empty list. */
  readonly repairs: readonly (readonly RepairStep[])[];
}

/** With more readings than twice this, what is between the first and the last so many is passed over. */
const RANKED_AT_EACH_END = 30;

/** Repairs followed: those that led at some time. */
const FOLLOWED = 5;

/** What was believed of the job's circumstances at a moment, where that was something else than now. */
export type Then = Partial<Pick<RankInput, "meter" | "priors" | "habits" | "situation">>;

/**
 * Ranks the job anew after each reading, in the order taken, single faults only: which repairs led, and when.
 * @param then what went with none, one, two … readings when they were all there were; left out, what goes with all of them
 */
export function historyOf(input: RankInput, then: readonly Then[] = []): History {
  const { length } = input.readings;
  const rankings = Array.from({ length: length + 1 }, (_, n) => {
    if (n > RANKED_AT_EACH_END && n <= length - RANKED_AT_EACH_END) return null;
    const ranking = rankFaults({ ...input, ...then[n], readings: input.readings.slice(0, n) }, { pairs: false });
    return ranking.kind === "ranking" ? ranking.repairs : null;
  });
  const most = new Map<string, { repair: readonly RepairStep[]; peak: number }>();
  rankings.forEach((repairs, n) => {
    for (const { repair, probability } of repairs ?? []) {
      const key = JSON.stringify(repair);
      // What leads before anything was read is only how often it fails.
      const peak = Math.max(most.get(key)?.peak ?? 0, n === 0 ? probability / 10 : probability);
      most.set(key, { repair, peak });
    }
  });
  const followed = [...most].sort(([, a], [, b]) => b.peak - a.peak).slice(0, FOLLOWED);
  return {
    kind: "history",
    repairs: followed.map(([, { repair }]) => repair),
    steps: rankings.map(
      (repairs) =>
        repairs && followed.map(([key]) => repairs.find((r) => JSON.stringify(r.repair) === key)?.probability ?? 0),
    ),
  };
}
