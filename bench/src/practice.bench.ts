import { CarefulHands, COSTS, drawWorld, follow, type Outcome, WAYS, type WayName } from "@hound/core/practice";
import { meterData, SHIPPED_METERS } from "@hound/core/record";
import { drawCircuit, seededRandom } from "@hound/core/simulate";
import { median, row } from "./timing.ts";

/**
 * Simulated learners at the stand-in bench: hidden faults in drawn circuits of 6 to 12 parts, every act done by hand on
 * the handheld meter and paid for. A wrong name costs a swap. `HOUND_WORLDS=200`.
 */
const WORLDS = Number(process.env.HOUND_WORLDS ?? 200);
const { meter } = SHIPPED_METERS[0];
const random = seededRandom(2027);
const outcomes = new Map<WayName, Outcome[]>();
let worlds = 0;
for (let n = 0; worlds < WORLDS; n += 1) {
  const circuit = drawCircuit(5 + Math.floor(random.next() * 6), random);
  const world = drawWorld(circuit, 7000 + n, { count: "one" });
  if (typeof world === "string") continue;
  const found = (Object.keys(WAYS) as WayName[]).map((name) => {
    const outcome = follow(world, new CarefulHands(world, meterData(meter)), { ...WAYS[name].way(n), meter });
    return { name, outcome };
  });
  if (found.some(({ outcome }) => "kind" in outcome)) continue;
  worlds += 1;
  for (const { name, outcome } of found) outcomes.set(name, [...(outcomes.get(name) ?? []), outcome as Outcome]);
}
row("", "worlds", "a right one", "median", "worst", "acts", "right");
const perRight: number[] = [];
for (const [name, own] of outcomes) {
  const right = own.reduce((s, o) => s + o.right, 0);
  const spent = own.reduce((s, o) => s + o.minutes + (1 - o.right) * COSTS.swap, 0);
  perRight.push(spent / right);
  const minutes = own.map((o) => o.minutes);
  const count = own.reduce((s, o) => s + o.count, 0) / own.length;
  row(
    WAYS[name].name,
    `${own.length}`,
    spent / right,
    median(minutes),
    Math.max(...minutes),
    count,
    right / own.length,
  );
}
row("ranked in this order", `${perRight.every((m, i) => i === 0 || m < perRight[i - 1])}`);
