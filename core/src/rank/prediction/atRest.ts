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
  /** With the lines that touch each law at the working point. */
  readonly changes: readonly Change[];
  /** Where each of what bends is, in the order of its changes, the last ones of all. */
  readonly bent: Bending;
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
    const { laws, point } = set.settings[circuit.setting].ports;
    const { lines, states } = point;
    const moving: Moving[] = [];
    const all: Change[] = [];
    for (const c of changes) {
      if (c.isNothing) continue;
      if (c.bends) moving.push({ ...c });
      else all.push(c);
    }
    for (const element of this.bending) {
      if (!bends(laws[element]) || changes.some((c) => c.element === element && !c.isNothing)) continue;
      moving.push({ element, gain: 0, added: 0, bends: laws[element] });
    }
    all.push(...moving);
    const own = moving.map((c) => c.bends as Law);
    const bent = new Bending(
      moving.map((c) => c.element),
      own,
    );
    // What is not faulty begins where it is without a fault.
    own.forEach((law, i) => {
      const { element } = moving[i];
      const state = near?.bent.states[i] ?? (law === laws[element] ? states.get(element) : undefined);
      if (state !== undefined) bent.beginAt(i, state);
    });
    this.makeRoom(moving.length);
    const { response, volts, amps } = this;
    const through = (branch: number) => response.quantityOf(branch, set, circuit);
    const along = () => {
      for (let i = 0; i < moving.length; i += 1) {
        const { element } = moving[i];
        const base = own[i] === laws[element] && lines.ohms[element] < STEEPEST ? states.get(element) : undefined;
        const isIdle = base !== undefined && bent.isAbout(i, base, IDLE);
        const line = isIdle ? null : bent.line(i);
        moving[i].gain = line ? line.ohms - lines.ohms[element] : 0;
        moving[i].added = line ? line.volts - lines.volts[element] : 0;
      }
    };
    along();
    for (let round = 0; round < MOST_ROUNDS && moving.length > 0; round += 1) {
      this.across(moving, response.solveBare(set, circuit, all), circuit);
      const moved = bent.follow(volts, amps, through, REST);
      along();
      if (moved < 0) break;
    }
    return { changes: all, bent };
  }

  /** Whether what came to rest with no meter there is at rest in a circuit with one as well. @param answer to its changes */
  holds({ changes, bent }: AtRest, answer: Answer, circuit: BareCircuit): boolean {
    const count = bent.branches.length;
    this.makeRoom(count);
    this.across(count === changes.length ? changes : changes.slice(-count), answer, circuit);
    return bent.holds(this.volts, this.amps, (branch) => quantityOf(answer, branch, this.set, circuit), UNSEEN);
  }

  private makeRoom(count: number) {
    if (this.volts.length >= count) return;
    this.volts = new Float64Array(count);
    this.amps = new Float64Array(count);
  }

  /** Volts and amperes of what bends. */
  private across(bending: readonly Change[], answer: Answer, circuit: BareCircuit) {
    const { lines } = this.set.settings[circuit.setting].ports.point;
    for (let i = 0; i < bending.length; i += 1) {
      const { element, gain, added } = bending[i];
      this.amps[i] = quantityOf(answer, element, this.set, circuit);
      this.volts[i] = lines.volts[element] + added + (lines.ohms[element] + gain) * this.amps[i];
    }
  }
}
