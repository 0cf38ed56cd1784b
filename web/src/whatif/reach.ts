import { CONTACT_KINDS, HAS_OHMS, type Network } from "@hound/core/circuit";
import { type Choice, driftMode, type Supposed } from "@hound/core/whatif";

/** The values over which a fault's slider goes, and those of a good part. */
export interface Span {
  readonly unit: "ohm" | "V";
  readonly least: number;
  readonly most: number;
  readonly nominal: number;
  readonly good: readonly [number, number];
  readonly isLogarithmic: boolean;
}

type PartFault = Extract<Supposed, { part: string }>;

/** Where a fault of a part can be dragged: up and down together, through what is still good; null where it has no value. */
export function spanOf(fault: PartFault, choices: readonly Choice[], network: Network): Span | null {
  const own = choices.find((c) => c.mode === fault.mode)?.reach;
  if (!own) return null;
  const drifts = HAS_OHMS.has(fault.mode)
    ? [own]
    : choices.flatMap((c) => (c.reach && !HAS_OHMS.has(c.mode) ? [c.reach] : []));
  const branch = network.branches.find((b) => b.name === fault.part);
  const isContact = branch !== undefined && CONTACT_KINDS.has(branch.kind);
  const { unit, nominal, good, isLogarithmic } = own;
  const least = Math.min(nominal, ...drifts.map((d) => d.least));
  return {
    unit,
    // A weak supply starts from what it has inside, an ideal one from a little.
    least: isLogarithmic ? Math.max(least, 1e-3) : least,
    most: Math.max(nominal, ...drifts.map((d) => d.most)),
    nominal,
    good: isContact ? [nominal * 0.5, nominal * 1.5] : good,
    isLogarithmic,
  };
}

/** Where a value lies on a slider, from 0 to 1, and back. */
export function placeOn({ least, most, isLogarithmic }: Span, value: number): number {
  const share = isLogarithmic ? Math.log(value / least) / Math.log(most / least) : (value - least) / (most - least);
  return Math.min(1, Math.max(0, share));
}

export function valueAt({ least, most, isLogarithmic }: Span, place: number): number {
  const value = isLogarithmic ? least * (most / least) ** place : least + (most - least) * place;
  return Number(value.toPrecision(3));
}

/** The fault with another value: above what is drawn it is high, below it is low. */
export function withValue(fault: PartFault, value: number, network: Network): PartFault {
  if (HAS_OHMS.has(fault.mode)) return { ...fault, value };
  const branch = network.branches.find((b) => b.name === fault.part);
  return { ...fault, value, mode: (branch && driftMode(branch, value)) ?? fault.mode };
}
