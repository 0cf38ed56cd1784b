import { namesOf, type Outcome } from "@hound/core/practice";
import type { Situation } from "@hound/core/record";
import { seededRandom } from "@hound/core/simulate";
import { row } from "./timing.ts";
import { drawWorld, follow } from "./worlds.ts";

/**
 * Verdicts that the readings have earned: jobs on healthy circuits, on a complaint and of a new build, of which none may
 * be settled; and jobs with a fault or two, of which those that are settled have to be right (one of two: half).
 * Calibration besides: of all that is believed at the end, repair by repair. `HOUND_JOBS=2000`.
 */
const JOBS = Number(process.env.HOUND_JOBS ?? 2000);

function jobs(count: number, seed: number, situation: Situation, isHealthy: boolean, slips = 0): Outcome[] {
  const random = seededRandom(seed);
  return Array.from({ length: count }, (_, n) => {
    const world = drawWorld(random, seed + n, { situation, isHealthy, doubleShare: 0.08 });
    const found = follow(world, { slips });
    if ("kind" in found) throw new Error(found.message);
    if (isHealthy && found.verdict === "settled" && process.env.HOUND_WRONG)
      row(
        "settled for nothing",
        `${seed + n}`,
        JSON.stringify(found.believed.repairs.slice(0, 2)),
        JSON.stringify(found.readings),
      );
    if (!isHealthy) calibrate(found, world.owners);
    return found;
  });
}

const EDGES = [0, 0.02, 0.05, 0.1, 0.2, 0.35, 0.5, 0.65, 0.8, 0.9, 0.95, 0.99, 1 + 1e-9];
const bins = EDGES.slice(1).map(() => ({ claimed: 0, true: 0, count: 0 }));

/** What settled verdicts claim, and how many of them are right: of a half-right one, half. */
const verdicts = { claimed: 0, right: 0, count: 0 };

/** Every repair of one part, by whether it was to be changed; and the verdict. */
function calibrate({ believed, verdict, right }: Outcome, owners: readonly string[]) {
  if (verdict === "settled") {
    verdicts.claimed += believed.repairs[0].probability;
    verdicts.right += right;
    verdicts.count += 1;
  }
  for (const { repair, probability } of believed.repairs) {
    if (repair.length !== 1 || "nodes" in repair[0]) continue;
    const [name] = namesOf(repair);
    const at = EDGES.findIndex((edge) => probability < edge) - 1;
    bins[at].claimed += probability;
    bins[at].true += Number(owners.includes(name));
    bins[at].count += 1;
  }
}

const mean = (list: readonly number[]) => list.reduce((s, v) => s + v, 0) / list.length;
row("", "jobs", "settled", "right of settled", "healthy", "minutes");
const print = (name: string, own: readonly Outcome[]) => {
  const settled = own.filter((o) => o.verdict === "settled");
  row(
    name,
    `${own.length}`,
    `${settled.length}`,
    settled.length > 0 ? mean(settled.map((o) => o.right)) : "",
    `${own.filter((o) => o.verdict === "healthy").length}`,
    mean(own.map((o) => o.minutes)),
  );
};
print("healthy, on a complaint", jobs(JOBS / 2, 100_000, "complaint", true));
print("healthy, a new build", jobs(JOBS / 2, 200_000, "newBuild", true));
// … of whose readings one in a hundred is mis-taken.
print("a fault or two", jobs(JOBS, 300_000, "complaint", false, 0.01));
let error = 0;
let claimed = 0;
row("claimed", "true", "repairs", "in the bin");
bins.forEach((bin, i) => {
  if (bin.count === 0) return;
  error += Math.abs(bin.claimed - bin.true);
  claimed += bin.claimed;
  row(bin.claimed / bin.count, bin.true / bin.count, `${bin.count}`, `${EDGES[i]} to ${Math.min(1, EDGES[i + 1])}`);
});
row("expected calibration error, repairs by mass", error / claimed);
const { claimed: said, right, count } = verdicts;
row("verdicts: claimed", said / count, "right", right / count);
