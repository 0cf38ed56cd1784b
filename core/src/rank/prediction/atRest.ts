import { Bending, bends, type Law } from "../../circuit/index.ts";
import type { BareCircuit, ProbeSet } from "../../measure/index.ts";
import type { Change } from "./change.ts";
import { type Answer, ampsBySource, quantityOf, Response } from "./response.ts";
import type { SettingResponse } from "./settingResponse.ts";

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
  /** Numbers of those in that order, and of the others, which keep the line they had. */
  readonly active: readonly number[];
  readonly idle: readonly number[];
}

/** What a change is while its line is sought. */
type Moving = { -readonly [K in keyof Change]: Change[K] };

/** Finds where all that bends comes to rest under changes, on the changed elements alone. */
export class Settler {
  private readonly response = new Response();
  private volts = new Float64Array(8);
  private amps = new Float64Array(8);
  /** Where each is without a fault, and where it begins; NaN for nowhere. */
  private base = new Float64Array(8);
  private begin = new Float64Array(8);
  /** Of each setting the states without a fault, by branch; NaN of what does not bend. */
  private readonly states: readonly Float64Array[];

  /** @param bending numbers of the branches that bend in some setting */
  constructor(
    private readonly set: ProbeSet,
    private readonly bending: readonly number[],
  ) {
    this.states = set.settings.map(({ ports }) =>
      Float64Array.from(ports.laws, (_, k) => ports.point.states.get(k) ?? Number.NaN),
    );
  }

  /** @param near where all came to rest under the same changes in a circuit that is nearly this one */
  settle(circuit: BareCircuit, changes: readonly Change[], near: AtRest | null = null): AtRest {
    const { set, response } = this;
    const { laws, point } = set.settings[circuit.setting].ports;
    const { lines } = point;
    const { now, moving } = this.sorted(circuit, changes);
    const fixed = now.length;
    this.makeRoom(moving.length);
    const { volts, amps, base, begin } = this;
    const usual = this.states[circuit.setting];
    const branches: number[] = [];
    const own: Law[] = [];
    for (let i = 0; i < moving.length; i += 1) {
      const { element } = moving[i];
      const law = moving[i].bends as Law;
      branches.push(element);
      own.push(law);
      // What is not faulty begins where it is without a fault, and as long as it stays about there keeps its line.
      base[i] = law === laws[element] ? usual[element] : Number.NaN;
      begin[i] = near?.bent.branches[i] === element ? near.bent.states[i] : base[i];
    }
    const bent = new Bending(branches, own, begin);
    const isIdle = (i: number) =>
      !Number.isNaN(base[i]) && lines.ohms[branches[i]] < STEEPEST && bent.isAbout(i, base[i], IDLE);
    const idle: number[] = [];
    const active: number[] = [];
    const activate = (i: number) => {
      active.push(i);
      now.push(moving[i]);
    };
    for (let i = 0; i < own.length; i += 1)
      if (isIdle(i)) idle.push(i);
      else activate(i);
    const through = (branch: number) => response.quantityOf(branch, set, circuit);
    const along = () => {
      for (let w = 0; w < active.length; w += 1) {
        const change = moving[active[w]];
        const line = bent.line(active[w]);
        change.gain = line.ohms - lines.ohms[change.element];
        change.added = line.volts - lines.volts[change.element];
      }
    };
    along();
    for (let round = 0; round < MOST_ROUNDS && moving.length > 0; round += 1) {
      response.solveBare(set, circuit, now);
      for (let w = 0; w < active.length; w += 1)
        this.across(moving, active[w], response.sources[fixed + w], response, circuit);
      let moved = bent.bend(volts, amps, REST, active);
      if (moved < 0 && idle.length > 0) {
        for (let w = 0; w < idle.length; w += 1) this.across(moving, idle[w], Number.NaN, response, circuit);
        bent.bend(volts, amps, REST, idle);
        for (let w = idle.length - 1; w >= 0; w -= 1) {
          const i = idle[w];
          if (isIdle(i)) continue;
          idle.splice(w, 1);
          activate(i);
          moved = branches[i];
        }
      }
      if (moved < 0) moved = bent.step(through);
      along();
      if (moved < 0) break;
    }
    return { changes: now, bent, moving, active, idle };
  }

  /** What changes once for all, and all that bends, faulty or not. */
  private sorted(circuit: BareCircuit, changes: readonly Change[]) {
    const { ports, bare } = this.set.settings[circuit.setting];
    const { laws } = ports;
    // Of a part alone only what the meter's own current runs through can move.
    const isAlone = circuit.x !== bare.x;
    const now: Change[] = [];
    const moving: Moving[] = [];
    for (let k = 0; k < changes.length; k += 1) {
      const change = changes[k];
      if (change.isNothing) continue;
      if (change.bends) moving.push({ ...change });
      else now.push(change);
    }
    for (const element of this.bending) {
      if (!bends(laws[element]) || (isAlone && circuit.q[element] === 0)) continue;
      if (!isChanged(changes, element)) moving.push({ element, gain: 0, added: 0, bends: laws[element] });
    }
    return { now, moving };
  }

  /** Whether what came to rest with no meter there is at rest in a circuit with one as well. @param answer to its changes */
  holds({ bent, moving, active, idle, changes }: AtRest, answer: SettingResponse, circuit: BareCircuit): boolean {
    this.makeRoom(moving.length);
    const first = changes.length - active.length;
    for (let w = 0; w < active.length; w += 1)
      this.across(moving, active[w], answer.sourceOf(first + w), answer, circuit);
    for (let w = 0; w < idle.length; w += 1) this.across(moving, idle[w], Number.NaN, answer, circuit);
    const through = (branch: number) => quantityOf(answer, branch, this.set, circuit);
    return bent.holds(this.volts, this.amps, through, REST, UNSEEN);
  }

  private makeRoom(count: number) {
    if (this.volts.length >= count) return;
    this.volts = new Float64Array(count);
    this.amps = new Float64Array(count);
    this.base = new Float64Array(count);
    this.begin = new Float64Array(count);
  }

  /** Volts and amperes of one that bends. @param source that stands for its change; NaN where it kept its line */
  private across(moving: readonly Change[], i: number, source: number, answer: Answer, circuit: BareCircuit) {
    const { lines } = this.set.settings[circuit.setting].ports.point;
    const { element, gain, added } = moving[i];
    const ohms = lines.ohms[element] + gain;
    let amps = ampsBySource(source, moving[i], ohms);
    if (Number.isNaN(amps)) amps = quantityOf(answer, element, this.set, circuit);
    this.amps[i] = amps;
    this.volts[i] = lines.volts[element] + added + ohms * amps;
  }
}

/** Whether an element is changed by what is more than nothing. */
function isChanged(changes: readonly Change[], element: number): boolean {
  for (let k = 0; k < changes.length; k += 1) if (changes[k].element === element && !changes[k].isNothing) return true;
  return false;
}
