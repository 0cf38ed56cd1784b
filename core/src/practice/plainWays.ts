import type { Network } from "../circuit/index.ts";
import type { Offer, Plan } from "../plan/index.ts";
import { expectReadings } from "../rank/index.ts";
import { isSamePlace, type NumericReading, type Reading } from "../record/index.ts";
import { type Random, seededRandom } from "../simulate/index.ts";
import type { Choose, Way } from "./follow.ts";

/** Which node is next; null where nodes tell no more, and parts have their turn. */
type Order = (nodes: readonly string[], isGood: ReadonlyMap<string, boolean>) => string | null;

/** The middle one of those between the last good one and the first bad one. */
export const halving: Order = (nodes, isGood) => {
  let [good, bad] = [-1, nodes.length];
  nodes.forEach((node, at) => {
    if (isGood.get(node) === true) good = Math.max(good, at);
    if (isGood.get(node) === false) bad = Math.min(bad, at);
  });
  const open = nodes.filter((node, at) => at > good && at < bad && !isGood.has(node));
  return open[Math.floor(open.length / 2)] ?? null;
};

/** One after the other from the supply, up to the first bad one. */
export const outward: Order = (nodes, isGood) =>
  nodes.some((node) => isGood.get(node) === false) ? null : (nodes.find((node) => !isGood.has(node)) ?? null);

/** Any node not read yet. */
export const anyNode =
  (random: { next(): number }): Order =>
  (nodes, isGood) => {
    const open = nodes.filter((n) => !isGood.has(n));
    return open[Math.floor(random.next() * open.length)] ?? null;
  };

/**
 * A way of going about it that knows the circuit and its healthy windows, and nothing of what a reading tells: volts at
 * the nodes first, then part by part, a lead lifted where there is a value to read, else a known-good one in its place
 * and a point read again. The ranking only says when it is enough.
 */
export function plainWay(order: Order): Choose {
  return (plan, _, random, { network }, taken) => {
    const nodes = network.nodes.filter((n, at) => at !== network.reference && !n.includes("."));
    const isGood = judged(network, nodes, taken);
    const voltsAt = (from: string) => offered(plan, { quantity: "voltage", from, value: 0 });
    const next = order(nodes, isGood);
    if (next !== null) return voltsAt(next);
    const bad = nodes.find((n) => isGood.get(n) === false) ?? nodes[nodes.length - 1];
    // A swap by itself tells nothing.
    return isUnread(plan, taken) ? voltsAt(bad) : partNear(plan, network, nodes, bad, taken, random);
  };
}

/** Whether each node that was read shows what a healthy circuit does. */
function judged(network: Network, nodes: readonly string[], taken: readonly Reading[]): Map<string, boolean> {
  const points = nodes.map((from): NumericReading => ({ quantity: "voltage", from, value: 0 }));
  const healthy = expectReadings(network, points) ?? [];
  const isGood = new Map<string, boolean>();
  for (const reading of taken) {
    if (reading.quantity !== "voltage" || reading.to !== undefined || reading.state?.swapped) continue;
    const { value, plusMinus } = healthy[nodes.indexOf(reading.from)];
    isGood.set(reading.from, Math.abs(reading.value - value) <= plusMinus + (reading.plusMinus ?? 0));
  }
  return isGood;
}

function offered({ offers }: Plan, point: NumericReading): Offer | null {
  return offers.find(({ measurement: m }) => "reading" in m && isSamePlace(m.reading, point)) ?? null;
}

/** Whether a part stands swapped with which nothing was read. */
function isUnread({ offers }: Plan, taken: readonly Reading[]): boolean {
  const [first] = offers.flatMap(({ measurement: m }) => ("reading" in m ? [m.reading] : []));
  return (first?.state?.swapped?.length ?? 0) > (taken.at(-1)?.state?.swapped?.length ?? 0);
}

/** The next part from where it turns bad, lifted or swapped. */
function partNear(
  plan: Plan,
  network: Network,
  nodes: readonly string[],
  bad: string,
  taken: readonly Reading[],
  random: Random,
): Offer | null {
  const place = (node: number) => {
    const found = nodes.indexOf(network.nodes[node]);
    return Math.abs((found < 0 ? nodes.length : found) - nodes.indexOf(bad));
  };
  const inTurn = network.branches
    // Of those that are as near, any.
    .map(({ part, name, from, to }) => ({ part, name, far: Math.min(place(from), place(to)) + 0.01 * random.next() }))
    .sort((a, b) => a.far - b.far);
  for (const { part, name } of inTurn) {
    const hasValue = part.kind === "resistor" || part.kind === "potentiometer" || part.kind === "sensor";
    const lifted: NumericReading = { quantity: "resistance", lifted: name, value: 0 };
    if (hasValue && taken.some((r) => r.quantity !== "observation" && isSamePlace(r, lifted))) continue;
    const found = hasValue
      ? offered(plan, lifted)
      : plan.offers.find(({ measurement: m }) => m.kind === "swap" && m.part === part.designator);
    if (found) return found;
  }
  return null;
}

/** Anything that is on offer, whatever it tells and costs. */
const anything =
  (random: Random): Choose =>
  ({ offers }) =>
    offers[Math.floor(random.next() * offers.length)] ?? null;

/** Ways of going about a hunt, the plainest first, each with the same ranking and the same stop. */
export const WAYS = {
  random: { name: "at random", way: (seed: number): Way => ({ choose: anything(seededRandom(seed)) }) },
  outward: { name: "from the supply outward", way: (): Way => ({ choose: plainWay(outward) }) },
  halving: { name: "half-splitting along the trail", way: (): Way => ({ choose: plainWay(halving) }) },
  planner: { name: "what is proposed", way: (): Way => ({}) },
} as const satisfies Readonly<Record<string, { readonly name: string; readonly way: (seed: number) => Way }>>;
export type WayName = keyof typeof WAYS;
