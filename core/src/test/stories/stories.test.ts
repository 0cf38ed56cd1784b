import { describe, expect, it } from "vitest";
import { verdictOf } from "../../judgement/index.ts";
import { planMeasurements } from "../../plan/index.ts";
import { rankingOf, weighToEnd } from "../../rank/index.ts";
import { follow, nameOf } from "./follow.ts";
import { STORIES } from "./stories.ts";
import type { Story } from "./story.ts";

function tell(story: Story) {
  const input = follow(story);
  const weighing = weighToEnd(input);
  if (weighing.kind === "problem") throw new Error(weighing.message);
  const plan = planMeasurements(input, weighing);
  if (!plan) throw new Error("no plan");
  return { ranking: rankingOf(weighing), verdict: verdictOf(weighing, plan, input.readings) };
}

describe("a good technician concludes the same", () => {
  it("of at least forty stories, each with its own name", () => {
    expect(new Set(STORIES.map((s) => s.tells)).size).toBe(STORIES.length);
    expect(STORIES.length).toBeGreaterThanOrEqual(40);
  });

  it.each(STORIES.map((story) => [story.tells, story] as const))("%s", (_, story) => {
    const { ranking, verdict } = tell(story);
    const named = ranking.suspects.map((s) => ({ name: nameOf(s.faults), p: s.probability, s }));
    const said = named
      .slice(0, 6)
      .map(({ name, p }) => `${name} ${(100 * p).toFixed(1)} %`)
      .join(", ");
    /** Of one suspect by its name, or of one part as what is to be replaced. */
    const chance = (what: string) =>
      what === "nothing" || /[ ~]/.test(what)
        ? (named.find(({ name }) => name === what)?.p ?? 0)
        : (ranking.repairs.find(
            ({ repair: [one, ...more] }) => one && "part" in one && one.part === what && more.length === 0,
          )?.probability ?? 0);
    if (story.first !== undefined) expect([story.first].flat(), said).toContain(named[0].name);
    for (const [what, least] of Object.entries(story.least ?? {}))
      expect(chance(what), `${what}: ${said}`).toBeGreaterThanOrEqual(least);
    for (const [what, most] of Object.entries(story.most ?? {}))
      expect(chance(what), `${what}: ${said}`).toBeLessThanOrEqual(most);
    for (const [index, slip] of Object.entries(story.slips ?? {})) {
      const found = ranking.readings.find((r) => r.index === Number(index));
      expect(found?.slip, said).toBe(slip);
      expect(found?.blunderProbability, said).toBeGreaterThan(0.5);
    }
    if (story.times !== undefined) expect(ranking.suspects[0].faults[0], said).toMatchObject({ decade: story.times });
    if (story.forgotten) expect(ranking.leadsForgotten, said).toBeGreaterThan(0.5);
    if (story.stands !== undefined) expect(verdict.kind, said).toBe(story.stands);
    if (story.repair !== undefined && verdict.kind === "settled")
      expect(verdict.repair.map((r) => ("part" in r ? r.part : r.nodes.join("~"))).join(" & ")).toBe(story.repair);
    if (story.overloads !== undefined)
      expect(
        named[0].s.overloads.map((o) => o.part),
        said,
      ).toEqual(story.overloads);
  });
});
