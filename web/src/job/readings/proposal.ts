import { type Circuit, nodesOf } from "@hound/core/circuit";
import type { Proposal } from "@hound/core/notation";
import type { Suggestion } from "@hound/core/plan";
import type { Reading } from "@hound/core/record";
import type { NextReadings } from "../ranking/messages.ts";

/** Below this many bits a suggestion is no better than any other. */
const TELLING = 0.02;
/** A point that is being probed stays the proposal while it tells at least this share of what the best one would. */
const STAYS = 0.5;

export interface NextStep {
  readonly proposal: Proposal;
  /** What the leading suspects foretell there; null where it is only the next point along the trail. */
  readonly why: Suggestion | null;
}

/**
 * Where to probe next: the voltage that should tell most per minute (voltages need no dismantling). Where nothing tells
 * any more, the first node from the supply outward that nobody has read.
 */
export function nextStep(circuit: Circuit, readings: readonly Reading[], next: NextReadings): NextStep | null {
  const nodes = nodesOf(circuit);
  for (const why of telling(next)) {
    const proposal = proposalOf(why);
    if (proposal && nodes.includes(proposal.from)) return { proposal, why };
  }
  const done = new Set(readings.flatMap((r) => (r.quantity === "voltage" && r.to === undefined ? [r.from] : [])));
  const first = nodes.find((n) => n !== circuit.reference && !done.has(n));
  return first === undefined ? null : { proposal: { quantity: "voltage", from: first }, why: null };
}

/** The newer plan, but with the proposal of the older one in front while it is still about as good. */
export function settled(before: NextReadings | null, now: NextReadings): NextReadings {
  const old = before && telling(before)[0];
  const same = old && telling(now).find((s) => JSON.stringify(s.measurement) === JSON.stringify(old.measurement));
  const best = telling(now)[0];
  if (!same || !best || same.informationBits < STAYS * best.informationBits) return now;
  return { ...now, suggestions: [same, ...now.suggestions.filter((s) => s !== same)] };
}

function telling({ suggestions }: NextReadings): Suggestion[] {
  return suggestions.filter((s) => s.measurement.kind === "voltage" && s.informationBits > TELLING);
}

function proposalOf({ measurement }: Suggestion): Proposal | null {
  if (!("reading" in measurement) || measurement.reading.quantity !== "voltage") return null;
  const { from, to } = measurement.reading;
  return { quantity: "voltage", from, ...(to === undefined ? {} : { to }) };
}
