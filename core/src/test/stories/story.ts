import type { Meter, Situation } from "../../record/index.ts";

/**
 * Everyday jobs as a technician types them, and what a good one concludes. Names of suspects are `R3 open`, `B~D` (a
 * bridge), `F1 open & R3 short`; probabilities are bounds.
 */
export interface Story {
  readonly tells: string;
  readonly trail: string;
  readonly lines: readonly string[];
  readonly situation?: Situation;
  readonly meter?: Meter;
  /** Where the job then stands, and the part or parts to be replaced where it is settled. */
  readonly stands?: "settled" | "healthy" | "open" | "stuck";
  readonly repair?: string;
  /** The likeliest suspect, or those among which it is. */
  readonly first?: string | readonly string[];
  /** Suspects with at least, and at most, this probability; a part's name stands for all of its faults. */
  readonly least?: Readonly<Record<string, number>>;
  readonly most?: Readonly<Record<string, number>>;
  /** Readings mis-taken with more than half: number from 0, and how. */
  readonly slips?: Readonly<Record<number, string>>;
  /** The leads' ohms are in every ohms reading. */
  readonly forgotten?: boolean;
  /** The leading suspect's part is so many times its value. */
  readonly times?: number;
  /** Parts that the leading suspect runs beyond their rating. */
  readonly overloads?: readonly string[];
}

/** Circuits that several stories are about. */
export const VENT =
  "BT1 24V 2% ri=0.3: F1 1A + [A] R1 220 5% + [B] (R2 1k 5% | R3 470 2% + [C] R4 330 5%) + [D] R5 100 1%";
export const SWITCHED = "BT1 12V: S1 + [A] R1 100 5%";
export const LANTERN = "BT1 12V: F1 1A + [A] S1 + [B] LA1 12V 5W + [C] R1 1 5%";
export const ONE_LAMP = "BT1 18V: [P] LA1 18V 4W";
export const DIVIDER = "BT1 24V: [A] R1 220 5% + [B] R2 150 5%";
export const BENCH = "PS1 9V ri=0: [P] R1 56 + [Q] R2 39";
export const LAMPS = "BT1 12V: [P] (LA1 12V 5W | S1 + [A] LA2 12V 5W | LA3 12V 5W)";
