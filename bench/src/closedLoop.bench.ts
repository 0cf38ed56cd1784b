import { MINUTES } from "@hound/core/plan";
import { seededRandom } from "@hound/core/simulate";
import { halvingMinutes } from "./halving.ts";
import { median, row } from "./timing.ts";
import { drawWorld, follow, keyOf, type Outcome } from "./worlds.ts";

/**
 * Jobs from the complaint to the verdict, the first proposal followed each time: hidden faults in drawn circuits of 8 to
 * 14 parts, readings with tolerances and meter limits. How many minutes it takes beside half-splitting along the trail, as
 * a school of the planner (which has the ranking and its verdict) and as done without a computer; whether the verdict is
 * right; and whether the number of readings told at the start was enough. A wrong verdict costs a swap for nothing.
 * `HOUND_WORLDS=200`.
 */
const WORLDS = Number(process.env.HOUND_WORLDS ?? 200);

const random = seededRandom(2026);
const outcomes: {
  readonly planned: Outcome;
  readonly split: Outcome;
  readonly byHand: number;
  readonly owners: readonly string[];
}[] = [];
for (let n = 0; n < WORLDS; n += 1) {
  const world = drawWorld(random, 5000 + n);
  const planned = follow(world, "information");
  const split = follow(world, "halfSplit");
  if ("kind" in planned || "kind" in split) continue;
  const byHand = halvingMinutes({
    ...world,
    voltageAt: (from) => world.shown.get(keyOf({ quantity: "voltage", from, value: 0 })) ?? null,
  });
  outcomes.push({ planned, split, byHand, owners: world.owners });
}
const mean = (list: readonly number[]) => list.reduce((s, v) => s + v, 0) / list.length;
const share = (list: readonly boolean[]) => list.filter(Boolean).length / list.length;
row("", "worlds", "minutes", "median", "readings", "settled", "right", "right of settled");
for (const school of ["planned", "split"] as const) {
  const own = outcomes.map((o) => o[school]);
  const settled = own.filter((o) => o.isSettled);
  row(
    school,
    `${own.length}`,
    mean(own.map((o) => o.minutes)),
    median(own.map((o) => o.minutes)),
    mean(own.map((o) => o.count)),
    share(own.map((o) => o.isSettled)),
    share(own.map((o) => o.isRight)),
    share(settled.map((o) => o.isRight)),
  );
}
const repaired = (o: Outcome) => o.minutes + (o.isRight ? 0 : MINUTES.swap);
const planned = mean(outcomes.map((o) => repaired(o.planned)));
row("minutes beside the school of half-splitting", planned / mean(outcomes.map((o) => repaired(o.split))));
row("minutes by hand", mean(outcomes.map((o) => o.byHand)), "beside it", planned / mean(outcomes.map((o) => o.byHand)));
const told = outcomes.filter((o) => o.planned.told !== null);
row(
  "number told was enough",
  share(told.map(({ planned }) => planned.count <= (planned.told as number))),
  `${told.length}`,
);
if (process.env.HOUND_WRONG)
  for (const { planned, owners } of outcomes)
    if (!planned.isRight) row("wrong", owners.join(" & "), JSON.stringify(planned));
