import { Bending, bends, type Law } from "../../circuit/index.ts";
import type { BareCircuit, ProbeSet } from "../../measure/index.ts";
import type { Change } from "./change.ts";
import { type Answer, quantityOf, Response } from "./response.ts";

const MOST_ROUNDS = 1000;
/** Share by which what bends may still move at rest: the next of Newton's steps would be below a nanovolt. */
const REST = 1e-7;
/** Volts by which what bends may be off its law where a meter moved it: no meter shows them. */
const UNSEEN = 3e-7;
/** Share by which it may be from where it is without a fault to keep its line: that is a tenth of a microvolt off its law. */
const IDLE = 1e-5;
/** Base lines with so many ohms are less steep than their law. */
const STEEPEST = 0.99e5;

/** Changes with all that bends where it comes to rest under them. */
export interface AtRest {
  /** With the lines that touch each law at the working point; of what bends those only that left the line they had. */
  readonly changes: readonly Change[];
  /** Where each of what bends is. */
  readonly bent: Bending;
  /** All that bends, in the order of `bent`, with the changes of those that are among `changes`. */
  readonly moving: readonly Change[];
  /** Numbers of those in that order. */
  readonly active: readonly number[];
}

/** What a change is while its line is sought. */
type Moving = { -readonly [K in keyof Change]: Change[K] };

/** Finds where all that bends comes to rest under changes, on the changed elements alone. */
export class Settler {
  private readonly response = new Response();
  private volts = new Float64Array(8);
  private amps = new Float64Array(8);

  /** @param bending numbers of the branches that bend in some setting */
  constructor(
    private readonly set: ProbeSet,
    private readonly bending: readonly number[],
  ) {}

  /** @param near where all came to rest under the same changes in a circuit that is nearly this one */
  settle(circuit: BareCircuit, changes: readonly Change[], near: AtRest | null = null): AtRest {
    const { set } = this;
    const { ports, bare } = set.settings[circuit.setting];
    const { laws, point } = ports;
    const { lines, states } = point;
    // Of a part alone only what the meter's own current runs through can move.
    const isAlone = circuit.x !== bare.x;
    const moving: Moving[] = [];
    const fixed: Change[] = [];
    for (const c of changes) {
      if (c.isNothing) continue;
      if (c.bends) moving.push({ ...c });
      else fixed.push(c);
    }
    for (const element of this.bending) {
      if (!bends(laws[element]) || (isAlone && circuit.q[element] === 0)) continue;
      if (changes.some((c) => c.element === element && !c.isNothing)) continue;
      moving.push({ element, gain: 0, added: 0, bends: laws[element] });
    }
    const own = moving.map((c) => c.bends as Law);
    const base = own.map((law, i) => (law === laws[moving[i].element] ? states.get(moving[i].element) : undefined));
    // What is not faulty begins where it is without a fault, and as long as it stays about there keeps its line.
    const bent = new Bending(
      moving.map((c) => c.element),
      own,
      (i) => (near?.bent.branches[i] === moving[i].element ? near.bent.states[i] : base[i]),
    );
    const isIdle = (i: number) => {
      const state = base[i];
      return state !== undefined && bent.isAbout(i, state, IDLE) && lines.ohms[moving[i].element] < STEEPEST;
    };
    const idle: number[] = [];
    const active: number[] = [];
    for (let i = 0; i < own.length; i += 1) (isIdle(i) ? idle : active).push(i);
    this.makeRoom(moving.length);
    const { response, volts, amps } = this;
    const through = (branch: number) => response.quantityOf(branch, set, circuit);
    const now = [...fixed, ...active.map((i) => moving[i])];
    const along = () => {
      for (const i of active) {
        const { element } = moving[i];
        const line = bent.line(i);
        moving[i].gain = line.ohms - lines.ohms[element];
        moving[i].added = line.volts - lines.volts[element];
      }
    };
    along();
    for (let round = 0; round < MOST_ROUNDS && moving.length > 0; round += 1) {
      response.solveBare(set, circuit, now);
      this.across(moving, active, response, circuit);
      let moved = bent.bend(volts, amps, REST, active);
      if (moved < 0 && idle.length > 0) {
        this.across(moving, idle, response, circuit);
        bent.bend(volts, amps, REST, idle);
        for (let w = idle.length - 1; w >= 0; w -= 1) {
          const i = idle[w];
          if (isIdle(i)) continue;
          idle.splice(w, 1);
          active.push(i);
          now.push(moving[i]);
          moved = moving[i].element;
        }
      }
      if (moved < 0) moved = bent.step(through);
      along();
      if (moved < 0) break;
    }
    return { changes: now, bent, moving, active };
  }

  /** Whether what came to rest with no meter there is at rest in a circuit with one as well. @param answer to its changes */
  holds({ bent, moving }: AtRest, answer: Answer, circuit: BareCircuit): boolean {
    this.makeRoom(moving.length);
    this.across(moving, bent.all, answer, circuit);
    return bent.holds(this.volts, this.amps, (branch) => quantityOf(answer, branch, this.set, circuit), UNSEEN);
  }

  private makeRoom(count: number) {
    if (this.volts.length >= count) return;
    this.volts = new Float64Array(count);
    this.amps = new Float64Array(count);
  }

  /** Volts and amperes of those that are meant of what bends. */
  private across(moving: readonly Change[], which: readonly number[], answer: Answer, circuit: BareCircuit) {
    const { lines } = this.set.settings[circuit.setting].ports.point;
    for (let w = 0; w < which.length; w += 1) {
      const i = which[w];
      const { element, gain, added } = moving[i];
      this.amps[i] = quantityOf(answer, element, this.set, circuit);
      this.volts[i] = lines.volts[element] + added + (lines.ohms[element] + gain) * this.amps[i];
    }
  }
}
