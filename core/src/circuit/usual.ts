import { lettersOf } from "./designators.ts";
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

/** Ohms of an ideal contact or ammeter, and of an ideal voltmeter: as good as none, or as nothing, and yet to be solved with. */
export const IDEAL_OHMS = 1e-9;
export const IDEAL_INPUT_OHMS = 1e12;

/** Ohms of a meter that is drawn as a part, by its letters: an ammeter's burden, a voltmeter's input. */
const METER_OHMS: Readonly<Record<string, number>> = { AM: 1, VM: 1e7, PV: 1e7 };

/** Ohms of a part that is written without any, of a kind that needs none. */
export function usualOhms(kind: Kind, { designator, currentRating }: { designator: string; currentRating?: number }) {
  switch (rowOf(kind).usual) {
    case "fuse":
      return DEFAULTS.fuseVolts / (currentRating ?? DEFAULTS.fuseAmps);
    case "meter":
      return METER_OHMS[lettersOf(designator)] ?? METER_OHMS.AM;
    default:
      return DEFAULTS.contactOhms;
  }
}

/** True of a meter drawn as a part that shows volts, by its letters. */
export function isVoltmeter({ designator }: { readonly designator: string }): boolean {
  return (METER_OHMS[lettersOf(designator)] ?? METER_OHMS.AM) > METER_OHMS.AM;
}

/** Ohms of a part that is called ideal, of a kind that drops next to nothing, or of a voltmeter, which takes next to nothing. */
export function idealOhms(kind: Kind, part: { readonly designator: string }): number {
  return rowOf(kind).usual === "meter" && isVoltmeter(part) ? IDEAL_INPUT_OHMS : IDEAL_OHMS;
}

/** Whether nobody wrote the ohms of a meter that is drawn: those of the meter in hand are taken then. */
export function isInstrumentOpen(part: {
  readonly kind: Kind;
  readonly designator: string;
  readonly ohms?: number;
  readonly saysOhms?: true | undefined;
}): boolean {
  return rowOf(part.kind).usual === "meter" && part.saysOhms !== true && part.ohms === usualOhms(part.kind, part);
}

/** What a coil's letters say of its winding: a running motor's current is not its resistance's alone. */
const WINDINGS: Readonly<Record<string, "inductor" | "relay" | "motor">> = { L: "inductor", K: "relay", M: "motor" };

const windingWord = (designator: string) =>
  /relay|solenoid/i.test(designator) ? "relay" : /motor/i.test(designator) ? "motor" : "inductor";

/** What a coil winds, by its designator; null of other kinds. */
export function windingOf(part: { readonly kind: Kind; readonly designator: string }) {
  if (part.kind !== "coil") return null;
  return WINDINGS[lettersOf(part.designator)] ?? windingWord(part.designator);
}
