import type { Bend, Line } from "./element.ts";
import { bendOf, type Law, movedVolts } from "./elements.ts";

/** Rounds after which what still jumps to and fro goes in small steps: all laws rise, so that these lead to the one rest. */
const JUMPING = 40;
/** How often a contact may change until it is one that buzzes: it counts as let go then. */
const BUZZES = 8;

/**
 * What bends in a network, and where on its law each is. Solve with the lines, `follow`, and again until nothing moves:
 * what bends smoothly takes a step of Newton's, a contact what its coil makes of it.
 */
export class Bending {
  readonly states: Float64Array;
  private readonly changed: Uint8Array;
  private readonly bends: readonly Bend<Law>[];
  private readonly hasSteps: boolean;
  /** Numbers of all of them, in their order. */
  private readonly all: readonly number[];
  private rounds = 0;

  /**
   * @param branches numbers of those that bend, `laws` their laws
   * @param near states to begin at, of what bends smoothly (as the power comes on no contact is pulled in yet); NaN for none
   */
  constructor(
    readonly branches: readonly number[],
    private readonly laws: readonly Law[],
    near?: ArrayLike<number>,
  ) {
    const bends: Bend<Law>[] = [];
    const all: number[] = [];
    this.states = new Float64Array(laws.length);
    let hasSteps = false;
    for (let i = 0; i < laws.length; i += 1) {
      const bend = bendOf(laws[i]);
      if (bend.follows) hasSteps = true;
      const begin = near && !bend.follows ? near[i] : Number.NaN;
      this.states[i] = Number.isNaN(begin) ? bend.start(laws[i]) : begin;
      bends.push(bend);
      all.push(i);
    }
    this.bends = bends;
    this.all = all;
    this.hasSteps = hasSteps;
    this.changed = new Uint8Array(branches.length);
  }

  /** Whether it is smooth and as good as at a state: the line there stands for it as well. */
  isAbout(i: number, state: number, within: number): boolean {
    return !this.bends[i].follows && this.bends[i].rests(this.laws[i], state, this.states[i], within);
  }

  line(i: number): Line {
    return this.bends[i].line(this.laws[i], this.states[i]);
  }

  movedVolts(i: number): number {
    return movedVolts(this.laws[i], this.states[i]);
  }

  /**
   * Moves all towards a solution: what bends smoothly, and once that rests what changes in steps.
   * @param volts across each of them, `amps` through each, in their order
   * @param through amperes of any branch, for what follows another
   * @returns a branch that moved; −1 if none
   */
  follow(volts: Float64Array, amps: Float64Array, through: (branch: number) => number, within: number): number {
    const moved = this.bend(volts, amps, within, this.all);
    return moved < 0 ? this.step(through) : moved;
  }

  /** Moves what bends smoothly, of those that are meant. @returns a branch that moved; −1 if none */
  bend(volts: Float64Array, amps: Float64Array, within: number, which: readonly number[]): number {
    let moved = -1;
    this.rounds += 1;
    for (let w = 0; w < which.length; w += 1) {
      const i = which[w];
      const { follows, next, rests, step } = this.bends[i];
      if (follows) continue;
      const law = this.laws[i];
      const state = this.states[i];
      const to = next(law, state, volts[i], amps[i]);
      if (!rests(law, state, to, within)) moved = this.branches[i];
      const isCareful = step !== undefined && this.rounds > JUMPING;
      this.states[i] = isCareful ? state + Math.max(-step, Math.min(step, to - state)) : to;
    }
    return moved;
  }

  /**
   * Whether all is where a solution with the present lines puts it: none is off its law by more than `most` volts there, and
   * no contact would move. It moves nothing.
   * @param volts across each of them, `amps` through each, in their order
   * @param within share by which one may move and is at rest all the same
   */
  holds(
    volts: Float64Array,
    amps: Float64Array,
    through: (branch: number) => number,
    within: number,
    most: number,
  ): boolean {
    for (let i = 0; i < this.bends.length; i += 1) {
      const { follows, next, line, rests } = this.bends[i];
      const law = this.laws[i];
      const state = this.states[i];
      if (follows) {
        // As the power comes on nothing is pulled in yet; and what buzzes here may not do so there.
        if (this.changed[i] > BUZZES || next(law, 0, 0, through(follows(law))) !== state) return false;
        continue;
      }
      const to = next(law, state, volts[i], amps[i]);
      if (rests(law, state, to, within)) continue;
      const there = line(law, to);
      const off = Math.abs(there.volts + there.ohms * amps[i] - volts[i]);
      // A limited step has not come to where the solution is.
      if (!(off <= most && rests(law, to, next(law, to, volts[i], amps[i]), within))) return false;
    }
    return true;
  }

  /** Moves what changes in steps, once all else rests. @returns a branch that moved; −1 if none */
  step(through: (branch: number) => number): number {
    let moved = -1;
    if (!this.hasSteps) return moved;
    for (let i = 0; i < this.bends.length; i += 1) {
      const { follows, next } = this.bends[i];
      if (!follows || this.changed[i] > BUZZES) continue;
      const to = next(this.laws[i], this.states[i], 0, through(follows(this.laws[i])));
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
