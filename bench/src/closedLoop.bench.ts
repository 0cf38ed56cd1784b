import { MINUTES } from "@hound/core/plan";
import { anyNode, halving, type Outcome, outward, plainWay, type Way } from "@hound/core/practice";
import { seededRandom } from "@hound/core/simulate";
import { halvingMinutes } from "./halving.ts";
import { median, row } from "./timing.ts";
import { Bench, drawWorld, follow } from "./worlds.ts";

/**
 * Jobs from the complaint to the verdict, what is offered first taken each time, looks, lifts and swaps included: hidden
 * faults in drawn circuits of 8 to 14 parts, readings with tolerances and meter limits. Minutes for each right repair
 * beside the plain ways of going about it, with the same ranking and the same stop: half-splitting along the trail, from
 * the supply outward, at random; beside the planner's own schools; and half-splitting without a computer. A wrong verdict
 * costs a swap for nothing.
 * `HOUND_WORLDS=200 HOUND_WAY=planned`.
 */
const WORLDS = Number(process.env.HOUND_WORLDS ?? 200);
const ONLY = process.env.HOUND_WAY;

const WAYS: Readonly<Record<string, Way>> = {
  planned: {},
  halfSplit: { choose: plainWay(halving) },
  fromSupply: { choose: plainWay(outward) },
  atRandom: { choose: plainWay(anyNode(seededRandom(6))) },
  // The planner's own schools leave out what tells nothing.
  "halfSplit school": { school: "halfSplit" },
  "fromSupply school": { school: "fromSupply" },
};
const PLAIN = ["halfSplit", "fromSupply", "atRandom"];

const random = seededRandom(2026);
const outcomes: { readonly of: Readonly<Record<string, Outcome>>; readonly byHand: number; readonly seed: number }[] =
  [];
for (let n = 0; n < WORLDS; n += 1) {
  const world = drawWorld(random, 5000 + n, { situation: "complaint" });
  const of: Record<string, Outcome> = {};
  for (const [name, way] of Object.entries(WAYS)) {
    if (ONLY && name !== ONLY) continue;
    const found = follow(world, way);
    if (!("kind" in found)) of[name] = found;
  }
  if (Object.keys(of).length < (ONLY ? 1 : Object.keys(WAYS).length)) continue;
  const bench = new Bench(world);
  const voltageAt = (from: string) => bench.read({ quantity: "voltage", from, value: 0 }, {});
  outcomes.push({ of, byHand: halvingMinutes({ ...world, voltageAt }), seed: 5000 + n });
}
const mean = (list: readonly number[]) => list.reduce((s, v) => s + v, 0) / list.length;
/** Minutes spent, and a swap for nothing where the verdict is wrong, for each repair that was right. */
const perRight = (own: readonly Outcome[]) =>
  own.reduce((s, o) => s + o.minutes + (1 - o.right) * MINUTES.swap, 0) / own.reduce((s, o) => s + o.right, 0);
row("", "worlds", "a right one", "median", "worst", "steps", "settled", "right", "right of settled");
const costs: Record<string, number> = {};
for (const name of ONLY ? [ONLY] : Object.keys(WAYS)) {
  const own = outcomes.map((o) => o.of[name]);
  const settled = own.filter((o) => o.verdict === "settled");
  costs[name] = perRight(own);
  row(
    name,
    `${own.length}`,
    costs[name],
    median(own.map((o) => o.minutes)),
    Math.max(...own.map((o) => o.minutes)),
    mean(own.map((o) => o.count)),
    settled.length / own.length,
    mean(own.map((o) => o.right)),
    mean(settled.map((o) => o.right)),
  );
}
const { planned, ...others } = costs;
const least = (names: readonly string[]) => Math.min(...names.map((name) => others[name] ?? Number.NaN));
row("minutes beside the best plain way", planned / least(PLAIN));
row("minutes beside the better school", planned / least(Object.keys(others).filter((name) => !PLAIN.includes(name))));
const byHand = mean(outcomes.map((o) => o.byHand));
row("minutes by hand", byHand, "beside it", planned / byHand);
const own = outcomes.map((o) => o.of.planned);
const most = 3 * median(own.map((o) => o.minutes));
row("worlds above three times the median", `${own.filter((o) => o.minutes > most).length}`);
const told = own.filter((o) => o.told !== null);
row("number told was enough", mean(told.map((o) => Number(o.count <= (o.told as number)))), `${told.length}`);
if (process.env.HOUND_WRONG)
  for (const { of, seed } of outcomes)
    if (of.planned.right < 1 || of.planned.minutes > most)
      row("world", `${seed}`, of.planned.verdict, `${of.planned.minutes} min`, `${of.planned.right}`);
