import type { Bend, Line } from "./element.ts";
import { bendOf, type Law, movedVolts } from "./elements.ts";

/** Rounds after which what still jumps to and fro goes in small steps: all laws rise, so that these lead to the one rest. */
const JUMPING = 40;
/** How often a contact may change until it is one that buzzes: it counts as let go then. */
const BUZZES = 8;

/**
 * What bends in a network, and where on its law each is. Solve with the lines, `follow`, and again until nothing moves:
 * a filament takes the ohms of its voltage, a junction one step of Newton's, a contact what its coil makes of it.
 */
export class Bending {
  readonly states: Float64Array;
  private readonly changed: Uint8Array;
  private rounds = 0;
  private readonly bends: readonly Bend<Law>[];

  /** @param branches numbers of those that bend, `laws` their laws */
  constructor(
    readonly branches: readonly number[],
    private readonly laws: readonly Law[],
    from?: Float64Array,
  ) {
    this.bends = laws.map(bendOf);
    this.states = from ?? Float64Array.from(laws, (law, i) => this.bends[i].start(law));
    this.changed = new Uint8Array(branches.length);
  }

  line(i: number): Line {
    return this.bends[i].line(this.laws[i], this.states[i]);
  }

  /** The line that counts for small changes. */
  small(i: number): Line {
    return (this.bends[i].small ?? this.bends[i].line)(this.laws[i], this.states[i]);
  }

  movedVolts(i: number): number {
    return movedVolts(this.laws[i], this.states[i]);
  }

  /**
   * Moves all that bends smoothly towards a solution, all by one and the same. @returns a branch that moved; −1 if none
   */
  follow(volts: (branch: number) => number, amps: (branch: number) => number, within: number): number {
    let moved = -1;
    this.rounds += 1;
    const next = this.branches.map((k, i) => this.nextOf(i, volts(k), amps(k)));
    for (let i = 0; i < next.length; i += 1) {
      if (!this.bends[i].rests(this.laws[i], this.states[i], next[i], within)) moved = this.branches[i];
      this.states[i] = next[i];
    }
    return moved;
  }

  private nextOf(i: number, volts: number, amps: number): number {
    const { follows, next, step } = this.bends[i];
    const state = this.states[i];
    if (follows) return state;
    const to = next(this.laws[i], state, volts, amps);
    return step === undefined || this.rounds <= JUMPING ? to : state + Math.max(-step, Math.min(step, to - state));
  }

  /** Moves what changes in steps, once all else rests. @returns a branch that moved; −1 if none */
  step(amps: (branch: number) => number): number {
    let moved = -1;
    for (let i = 0; i < this.branches.length; i += 1) {
      const { follows, next } = this.bends[i];
      if (!follows || this.changed[i] > BUZZES) continue;
      const to = next(this.laws[i], this.states[i], 0, amps(follows(this.laws[i])));
      if (to === this.states[i]) continue;
      this.changed[i] += 1;
      this.states[i] = this.changed[i] > BUZZES ? 0 : to;
      this.rounds = 0;
      moved = this.branches[i];
    }
    return moved;
  }

  /** A branch that changes for ever: its coil is switched off by its own contact. −1 where none does. */
  get buzzing(): number {
    return this.branches[this.changed.findIndex((n) => n > BUZZES)] ?? -1;
  }
}
