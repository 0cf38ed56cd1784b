/** A straight piece of a law: v = volts + ohms·i. */
export interface Line {
  readonly ohms: number;
  readonly volts: number;
}

/**
 * How a law bends: a number, its state, says where on it one is. Solve with the line of each state, move each to its
 * next, and again, until none moves.
 */
export interface Bend<L> {
  /** The state in which solving begins. */
  readonly start: (law: L) => number;
  /** The line that touches it at a state: it goes through the very point that it has there, and as steeply. */
  readonly line: (law: L, state: number) => Line;
  /** The state to which a solution with its line leads: volts across it, amperes through it, or through what it follows. */
  readonly next: (law: L, state: number, volts: number, amps: number) => number;
  /** How far it may move at once where it does not come to rest by itself. */
  readonly step?: number;
  /** Whether it rests where `state` led to `next`. */
  readonly rests: (law: L, state: number, next: number, within: number) => boolean;
  /** Another branch whose amperes move it, in steps: it waits until all that bends smoothly rests. */
  readonly follows?: (law: L) => number;
  /** Volts by which its value moves it there, of one whose value is volts: a tolerance is a share of them. */
  readonly moves?: (law: L, state: number) => number;
}

/** What every law answers, so that nobody else need know which it is. */
export interface Element<L, Any> {
  /** Static ohms before anything flows: where solving begins. */
  readonly ohms: (law: L) => number;
  /** Volts that it gives by itself. */
  readonly volts?: (law: L) => number;
  readonly bends?: Bend<L>;
  /** Its ohms with the power off where they are others (infinite: open), and their spread as a fraction, one standard deviation. */
  readonly cold?: { readonly ohms: (law: L) => number; readonly spread: number };
  /** Watts that it takes in at a current (a supply: that its source gives). */
  readonly watts: (law: L, amps: number) => number;
  /** With its resistance or voltage times a factor. */
  readonly scaled: (law: L, factor: number) => Any;
  /** With another value in place of what it is drawn with: ohms, or volts. */
  readonly valued: (law: L, value: number) => Any;
  /** That value, as drawn; null of what has none. */
  readonly value: (law: L) => number | null;
  /** What the value is counted in. */
  readonly unit: "ohm" | "V";
}
