import { type Kind, type Network, rowOf } from "../circuit/index.ts";
import { leadingRepair, type ProcedureStep, stepOf } from "../judgement/index.ts";
import type { Offer, Plan } from "../plan/index.ts";
import type { Reading, Seen } from "../record/index.ts";

/** What tells less than this is not worth a step. */
const TELLING = 0.01;
/** A step takes no less than this, however quick. */
const LEAST_MINUTES = 0.1;

/** Parts for which there is a sequence. */
export function deadLoadsOf(network: Network): string[] {
  return network.branches.flatMap((b) => (rowOf(b.kind).role === "consumer" ? [b.name] : []));
}

/**
 * The sequence without a meter for something that stays dark, silent or cold: looks first, then one thing changed at a
 * time: the part alone on a good supply, another of it, of what leads to it, lead by lead, of the supply. Each step with
 * what its outcomes mean by the ranking as it stands, what tells most in a minute first; what tells nothing any more is left
 * out, what was done stands before the rest.
 */
export function deadLoad(network: Network, plan: Plan, readings: readonly Reading[], part: string): ProcedureStep[] {
  const isChanged = (kind: Kind) => kind === "supply" || rowOf(kind).role === "way";
  const ways = network.branches.filter((b) => isChanged(b.kind)).map((b) => b.part.designator);
  const parts = new Set([part, ...ways]);
  const isOf = ({ measurement: m }: Offer) =>
    "part" in m &&
    (m.kind === "look" || (m.kind === "alone" && m.part === part) || (m.kind === "swap" && parts.has(m.part)));
  const rank = ({ measurement: { kind, minutes }, informationBits, isDone }: ProcedureStep) =>
    (isDone ? 1e6 : 0) + (kind === "look" ? 1e3 : 0) + informationBits / Math.max(minutes, LEAST_MINUTES);
  return plan.offers
    .filter(isOf)
    .map((offer) => stepOf(plan, offer, readings, leadingRepair(plan)))
    .filter((s) => s.informationBits > TELLING || s.isDone)
    .sort((a, b) => rank(b) - rank(a));
}

/** What a look finds of something that does not do what it is there for: dark, silent, cold; null of what shows nothing. */
export function deadSignOf(kind: Kind): Seen | null {
  return rowOf(kind).looks?.[0] ?? null;
}
