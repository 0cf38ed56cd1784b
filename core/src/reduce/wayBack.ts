import type { Network } from "../circuit/index.ts";
import type { Item, Reduction, Step } from "./steps.ts";

/** Volts and amperes of an item, along its own direction. */
export interface ItemState {
  readonly item: Item;
  readonly volts: number;
  readonly amps: number;
}

/** One step of the way back: what is known of a composite gives what each of its parts has. */
export interface BackStep {
  readonly step: Step;
  readonly whole: ItemState;
  readonly parts: readonly ItemState[];
  readonly why: string;
}

export interface WayBack {
  /** What the supply sees: its current, and the voltage left over after its own resistance. */
  readonly total: ItemState;
  readonly internalVolts: number;
  readonly steps: readonly BackStep[];
}

/**
 * From the one resistance that is left back to every part: a current is carried into series, a voltage into parallel.
 * @param round applied to every figure worked out
 * @returns null where the reduction stops short of one resistance
 */
export function wayBack(
  network: Network,
  { source, steps, left, stops }: Reduction,
  round: (value: number) => number = (v) => v,
): WayBack | null {
  const law = network.branches[source]?.law;
  if (stops !== null || law?.kind !== "supply") return null;
  const [whole] = left;
  const sign = whole.from === network.branches[source].from ? 1 : -1;
  const amps = round(law.volts / (whole.ohms + law.ohms)) * sign;
  const internalVolts = round(Math.abs(amps) * law.ohms);
  const total = { item: whole, amps, volts: round(law.volts - internalVolts) * sign };
  const states = new Map<Item, ItemState>([[whole, total]]);
  const back = [...steps].reverse().map((step): BackStep => {
    const known = states.get(step.result) as ItemState;
    const parts = step.parts.map((item): ItemState => {
      const along = runsAlong(step, item) ? 1 : -1;
      if (step.kind === "series") {
        const own = known.amps * along;
        return { item, amps: own, volts: round(own * item.ohms) };
      }
      const own = known.volts * along;
      return { item, volts: own, amps: round(own / item.ohms) };
    });
    for (const part of parts) states.set(part.item, part);
    const why =
      step.kind === "series"
        ? `the current of ${step.result.name} runs through each of its parts`
        : `each branch has the voltage of ${step.result.name}`;
    return { step, whole: known, parts, why };
  });
  return { total, internalVolts, steps: back };
}

/** True where an item of a step points the way its composite does. */
function runsAlong({ kind, parts, result }: Step, item: Item): boolean {
  if (kind === "parallel") return item.from === result.from;
  let at = result.from;
  for (const part of parts) {
    const along = part.from === at;
    if (part === item) return along;
    at = along ? part.to : part.from;
  }
  return true;
}

/** Volts and amperes of every part that the way back reaches, by branch number. */
export function statesOfParts(network: Network, back: WayBack): Map<number, { volts: number; amps: number }> {
  const found = new Map<number, { volts: number; amps: number }>();
  const take = ({ item, volts, amps }: ItemState) => {
    const [branch] = item.branches;
    if (item.branches.length === 1 && item.name === network.branches[branch].name) found.set(branch, { volts, amps });
  };
  take(back.total);
  for (const step of back.steps) step.parts.forEach(take);
  return found;
}
