import type { Measurement } from "@hound/core/plan";
import { expectReadings } from "@hound/core/rank";
import type { NumericReading } from "@hound/core/record";
import type { Choose } from "./worlds.ts";

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

/**
 * A way of going about it that knows the circuit and its healthy windows, and nothing of what a reading tells: volts at
 * the nodes first, then part by part, a lead lifted where there is a value to read, else a known-good one in its place
 * and a point read again. The ranking only says when it is enough.
 */
export function plainWay(order: Order): Choose {
  return (plan, _, random, { network }, taken) => {
    const nodes = network.nodes.filter((n, at) => at !== network.reference && !n.includes("."));
    const points = nodes.map((from): NumericReading => ({ quantity: "voltage", from, value: 0 }));
    const healthy = expectReadings(network, points) ?? [];
    const isGood = new Map<string, boolean>();
    for (const reading of taken) {
      if (reading.quantity !== "voltage" || reading.to !== undefined || reading.state?.swapped) continue;
      const { value, plusMinus } = healthy[nodes.indexOf(reading.from)];
      isGood.set(reading.from, Math.abs(reading.value - value) <= plusMinus + (reading.plusMinus ?? 0));
    }
    const offered = (test: (m: Measurement) => boolean) => plan.offers.find((o) => test(o.measurement)) ?? null;
    const voltsAt = (node: string) =>
      offered(
        (m) =>
          m.kind === "voltage" &&
          m.reading.quantity === "voltage" &&
          m.reading.from === node &&
          m.reading.to === undefined,
      );
    const next = order(nodes, isGood);
    if (next !== null) return voltsAt(next);
    // What was swapped is read with: where it was bad, or anywhere.
    const swapped = plan.offers[0]?.measurement;
    const state = swapped && "reading" in swapped ? swapped.reading.state?.swapped : undefined;
    const last = taken.at(-1);
    const isUnread = state !== undefined && (last?.state?.swapped?.length ?? 0) < state.length;
    const bad = nodes.find((n) => isGood.get(n) === false) ?? nodes[nodes.length - 1];
    if (isUnread) return voltsAt(bad);
    // Parts, those nearest to where it turns bad first.
    const at = nodes.indexOf(bad);
    const place = (node: number) => {
      const found = nodes.indexOf(network.nodes[node]);
      return found < 0 ? nodes.length : found;
    };
    const far = new Map(
      network.branches.map((b) => [
        b.part.designator,
        Math.min(Math.abs(place(b.from) - at), Math.abs(place(b.to) - at)) + 0.01 * random.next(),
      ]),
    );
    const wasLifted = new Set(
      taken.flatMap((r) => (r.quantity === "resistance" && r.lifted ? [r.lifted.split(".")[0]] : [])),
    );
    const inTurn = [...far].sort((a, b) => a[1] - b[1]).map(([name]) => name);
    for (const name of inTurn) {
      const kind = network.branches.find((b) => b.part.designator === name)?.part.kind;
      const isLifted = kind === "resistor" || kind === "potentiometer" || kind === "sensor";
      if (isLifted && wasLifted.has(name)) continue;
      const found = offered((m) =>
        isLifted
          ? m.kind === "lift" && m.reading.quantity === "resistance" && m.reading.lifted?.split(".")[0] === name
          : m.kind === "swap" && m.part === name,
      );
      if (found) return found;
    }
    return null;
  };
}

/** Any node not read yet. */
export const anyNode =
  (random: { next(): number }): Order =>
  (nodes, isGood) => {
    const open = nodes.filter((n) => !isGood.has(n));
    return open[Math.floor(random.next() * open.length)] ?? null;
  };
