import type { Network } from "../circuit/index.ts";
import type { Combined, Item, Reduction, Step, Transformed } from "./steps.ts";

/** Volts and amperes of an item, along its own direction. */
export interface ItemState {
  readonly item: Item;
  readonly volts: number;
  readonly amps: number;
}

/** One step of the way back: what is known of a composite gives what each of its parts has. */
export interface BackStep {
  readonly step: Step;
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
  // What came together and led nowhere carries nothing.
  const stateOf = (item: Item): ItemState => states.get(item) ?? { item, volts: 0, amps: 0 };
  const back = [...steps].reverse().map((step): BackStep => {
    if (!("result" in step)) {
      const known = step.made.map(stateOf);
      const parts = step.kind === "star" ? sidesFrom(step, known) : armsFrom(step, known);
      const rounded = parts.map((p) => ({ ...p, volts: round(p.volts), amps: round(p.amps) }));
      for (const part of rounded) states.set(part.item, part);
      return { step, parts: rounded, why: BACK[step.kind] };
    }
    const known = stateOf(step.result);
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
    return { step, parts, why };
  });
  return { total, internalVolts, steps: back };
}

const BACK = {
  star: "each side of the triangle lies between two ends of the star: what is from end to end",
  delta: "through each arm runs what the two sides at its end carry together",
} as const;

/** A triangle from its star: a side's voltage is that between two of the star's ends. */
function sidesFrom({ parts, corners }: Transformed, arms: readonly ItemState[]): ItemState[] {
  // Potential of each corner against the middle; an arm was made from its corner.
  const volts = new Map(corners.map((corner, n) => [corner, arms[n].volts]));
  return parts.map((item) => {
    const own = (volts.get(item.from) as number) - (volts.get(item.to) as number);
    return { item, volts: own, amps: own / item.ohms };
  });
}

/** A star from its triangle: what flows into a corner flows on through its arm. */
function armsFrom({ parts, corners, middle }: Transformed, sides: readonly ItemState[]): ItemState[] {
  return parts.map((item, n) => {
    const into = sides.reduce((sum, { item: side, amps }) => {
      if (side.from === corners[n]) return sum + amps;
      return side.to === corners[n] ? sum - amps : sum;
    }, 0);
    const own = item.to === middle ? into : -into;
    return { item, amps: own, volts: own * item.ohms };
  });
}

/** True where an item of a step points the way its composite does. */
function runsAlong({ kind, parts, result }: Combined, item: Item): boolean {
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
