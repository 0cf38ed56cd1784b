import { splitDesignator } from "./designators.ts";
import { type Kind, rowOf } from "./kinds.ts";

/** Ohms of a good contact, a supply's inside, a fault's short circuit, and a fuse's volts over its rated current. */
export const DEFAULTS = {
  contactOhms: 0.02,
  internalOhms: 0.05,
  shortOhms: 0.01,
  fuseVolts: 0.1,
  fuseAmps: 1,
  /** Standard deviation of a wiper's place, as a share of the track: ±1 % is two. */
  placeSpread: 0.005,
} as const;

/** Whether nobody wrote what a supply has inside: the usual is taken then, and nothing is known of it. */
export function isTakenForGranted(supply: { readonly internalOhms: number; readonly saysInternal?: true }): boolean {
  return supply.internalOhms === DEFAULTS.internalOhms && supply.saysInternal !== true;
}

/** Whether somebody wrote a part's tolerance, be it the usual one. */
export function isToleranceWritten(part: { kind: Kind; tolerance: number; saysTolerance?: true | undefined }): boolean {
  return part.saysTolerance === true || part.tolerance !== rowOf(part.kind).tolerance;
}

/** Ohms of a meter that is drawn as a part, by its letters: an ammeter's burden, a voltmeter's input. */
const METER_OHMS: Readonly<Record<string, number>> = { AM: 1, VM: 1e7 };

/** Ohms of a part that is written without any, of a kind that needs none. */
export function usualOhms(kind: Kind, { designator, currentRating }: { designator: string; currentRating?: number }) {
  switch (rowOf(kind).usual) {
    case "fuse":
      return DEFAULTS.fuseVolts / (currentRating ?? DEFAULTS.fuseAmps);
    case "meter":
      return METER_OHMS[splitDesignator(designator)?.letters ?? ""] ?? METER_OHMS.AM;
    default:
      return DEFAULTS.contactOhms;
  }
}

/** What a coil's letters say of its winding: a running motor's current is not its resistance's alone. */
const WINDINGS: Readonly<Record<string, "inductor" | "relay" | "motor">> = { L: "inductor", K: "relay", M: "motor" };

/** What a coil winds, by its designator; null of other kinds. */
export function windingOf(part: { readonly kind: Kind; readonly designator: string }) {
  if (part.kind !== "coil") return null;
  return WINDINGS[splitDesignator(part.designator)?.letters ?? ""] ?? "inductor";
}
