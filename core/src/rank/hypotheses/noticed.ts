import { type Network, voltsOf, wattsOf } from "../../circuit/index.ts";
import type { Configuration } from "../../configuration/index.ts";
import type { FaultAt, Noticing, Site } from "../../faults/index.ts";
import { normalTail } from "../../kernels/index.ts";
import { buildProbes, type ProbeSet } from "../../measure/index.ts";
import type { MeterData, NumericReading } from "../../record/index.ts";
import type { Pairs } from "../prediction/change.ts";
import { Stress } from "../prediction/stress.ts";

/** Voltages and currents below these shares of the largest nobody looks at. */
const SEEN_VOLTS = 0.02;
const SEEN_AMPS = 0.01;
/** Levers of which every combination is tried. */
const FEW_LEVERS = 4;
/** Stretches of a value's prior over which a weight is averaged; narrow near the least of it, where it rises most. */
const STRETCHES = 12;

/** A quantity that somebody would notice changing: a part's current or voltage when nothing is wrong. */
interface Watched {
  readonly branch: number;
  readonly amps: number;
  readonly volts: number;
}

/**
 * How likely somebody noticed a fault: a complaint is itself evidence, for what moves nothing is hardly what brought a
 * job here. With c the largest relative change of any part's voltage or current, in whichever position of the levers
 * shows it most: least + (1 − least)·Φ(ln(c/at)/spread).
 */
export class Noticed {
  private readonly set: ProbeSet;
  private readonly stress: Stress;
  private readonly positions: readonly { readonly setting: number; readonly watched: readonly Watched[] }[];
  private readonly branches: readonly number[];
  private readonly known = new WeakMap<FaultAt, number>();

  /** @returns null where the circuit cannot be solved: nobody knows what shows */
  static of(network: Network, pairs: Pairs, meter: MeterData, noticing: Noticing): Noticed | null {
    const through = network.branches[0]?.name;
    if (through === undefined) return null;
    const readings = leverStates(network).map(
      (switches): NumericReading => ({ quantity: "current", through, value: 0, state: { switches } }),
    );
    const set = buildProbes(network, readings, { meter, bridges: pairs.all, unloadedFrom: 0 });
    return set.kind === "probes" ? new Noticed(set, pairs, noticing) : null;
  }

  private constructor(
    set: ProbeSet,
    pairs: Pairs,
    private readonly noticing: Noticing,
  ) {
    this.set = set;
    this.stress = new Stress(set, pairs);
    this.branches = set.network.branches.map((_, k) => k);
    this.positions = this.stress.powered.map((setting) => ({ setting, watched: this.watchedIn(setting) }));
  }

  /** Weight of faults at settled values, exactly. */
  weightOf(faults: readonly FaultAt[]): number {
    return this.weightAt(this.changeUnder(faults));
  }

  /** The same, of two faults that of the one that shows more: both together hardly ever show less. */
  weightAbout(faults: readonly FaultAt[]): number {
    let most = 0;
    for (const fault of faults) {
      let change = this.known.get(fault);
      if (change === undefined) {
        change = this.changeUnder([fault]);
        this.known.set(fault, change);
      }
      most = Math.max(most, change);
    }
    return this.weightAt(most);
  }

  /** The average weight of a site over the values that it may have. */
  averageOf(site: Site): number {
    if (!site.value) return this.weightOf([{ site, value: 0 }]);
    let sum = 0;
    for (let k = 0; k < STRETCHES; k += 1) {
      const [from, to] = [(k / STRETCHES) ** 2, ((k + 1) / STRETCHES) ** 2];
      sum += (to - from) * this.weightOf([{ site, value: site.value((from + to) / 2) }]);
    }
    return sum;
  }

  private weightAt(change: number): number {
    const { least, at, spread } = this.noticing;
    return least + (1 - least) * (change > 0 ? normalTail(Math.log(change / at) / spread) : 0);
  }

  /** The largest relative change of a voltage or a current. */
  private changeUnder(faults: readonly FaultAt[]): number {
    let most = 0;
    for (const { setting, watched } of this.positions) {
      const amps = this.stress.amps(faults, setting, this.branches);
      // What cannot be solved is at any rate not as it was.
      if (!amps) return Number.POSITIVE_INFINITY;
      for (const { branch, amps: before, volts } of watched) {
        if (before !== 0) most = Math.max(most, Math.abs(amps[branch] - before) / Math.abs(before));
        if (volts !== 0) {
          const now = this.voltsOf(branch, faults, setting, amps[branch]);
          if (now !== null) most = Math.max(most, Math.abs(now - Math.abs(volts)) / Math.abs(volts));
        }
      }
    }
    return most;
  }

  /** Volts across a part, but for their sign; null of one that nothing flows through, where only its neighbours tell. */
  private voltsOf(branch: number, faults: readonly FaultAt[], setting: number, amps: number): number | null {
    const law = this.stress.lawOf(branch, faults, setting);
    if (law.kind === "open") return null;
    // At its limit a supply's voltage is what its neighbours make of it.
    if (law.kind === "supply") return law.limit === undefined ? Math.abs(law.volts + law.ohms * amps) : null;
    return amps === 0 ? 0 : wattsOf(law, amps) / Math.abs(amps);
  }

  private watchedIn(setting: number): Watched[] {
    const { ports } = this.set.settings[setting];
    const { branches } = this.set.network;
    const { amps, volts } = ports.point;
    const sources = branches.map((_, k) => Math.abs(voltsOf(ports.laws[k])));
    const leastVolts = SEEN_VOLTS * Math.max(0, ...sources);
    const leastAmps = SEEN_AMPS * amps.reduce((most, i) => Math.max(most, Math.abs(i)), 0);
    return branches.flatMap(({ from, to, isAdded }, branch): Watched[] => {
      if (isAdded) return [];
      const across = volts[from] - volts[to];
      const one = {
        branch,
        amps: Math.abs(amps[branch]) > leastAmps ? amps[branch] : 0,
        volts: Math.abs(across) > leastVolts ? across : 0,
      };
      return one.amps === 0 && one.volts === 0 ? [] : [one];
    });
  }
}

/** Positions of all levers that are tried: every combination of few, else as drawn, each one moved, all open, all closed. */
function leverStates({ branches }: Network): NonNullable<Configuration["switches"]>[] {
  const levers = branches.flatMap(({ part }) => (part.kind === "switch" ? [part] : []));
  const all = (position: "open" | "closed") => Object.fromEntries(levers.map((s) => [s.designator, position]));
  if (levers.length <= FEW_LEVERS)
    return Array.from({ length: 2 ** levers.length }, (_, n) =>
      Object.fromEntries(levers.map((s, k) => [s.designator, (n >> k) & 1 ? "open" : "closed"])),
    );
  const moved = levers.map((s) => ({
    [s.designator]: s.position === "open" ? ("closed" as const) : ("open" as const),
  }));
  return [{}, ...moved, all("open"), all("closed")];
}
