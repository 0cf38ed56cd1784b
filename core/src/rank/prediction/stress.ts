import { type Branch, bends, type Law, lawOf, lawsOf, rowOf, wattsOf } from "../../circuit/index.ts";
import { type FaultAt, faultedNetwork } from "../../faults/index.ts";
import type { ProbeSet } from "../../measure/index.ts";
import { operatingPoint, topologyOf } from "../../solve/index.ts";
import { Settler } from "./atRest.ts";
import { type Change, Changes, faultOf, type Pairs } from "./change.ts";
import { CurrentLimits } from "./limits.ts";
import { Response } from "./response.ts";

/** A part run beyond what it is rated for. */
export interface Overload {
  readonly branch: number;
  readonly of: "current" | "power";
  /** Amperes or watts, and the rating. */
  readonly value: number;
  readonly rating: number;
}

/** Currents everywhere under faults, no meter reading: what a fault does to its neighbours, however the circuit stands. */
export class Stress {
  /** Numbers of the settings under power, the circuit as drawn first. */
  readonly powered: readonly number[];
  /** Branches with a rating. */
  private readonly rated: readonly number[];
  private readonly bending: readonly number[];
  private readonly limits: CurrentLimits;
  private readonly settler: Settler;
  private readonly changes: Changes;
  private readonly response = new Response();

  constructor(
    private readonly set: ProbeSet,
    pairs: Pairs,
  ) {
    this.powered = set.settings.flatMap(({ setting }, s) => (setting.power === "on" ? [s] : []));
    this.rated = set.network.branches.flatMap((branch, k) => (loadOf(branch, branch.law, 0) ? [k] : []));
    this.bending = set.network.branches.flatMap(({ law }, k) => (bends(law) ? [k] : []));
    this.settler = new Settler(set, this.bending);
    this.limits = new CurrentLimits(set, this.bending);
    this.changes = new Changes(set, pairs);
  }

  /** Amperes of the branches asked for, in a setting; null where the faulted network cannot be solved. */
  amps(faults: readonly FaultAt[], setting: number, branches: readonly number[]): Float64Array | null {
    const { set } = this;
    const changes = this.limits.hold(this.changes.of(faults))[setting];
    const { bare } = set.settings[setting];
    if (changes === "afresh" || bare.x.length === 0) {
      const all = this.afresh(faults, setting);
      return all && Float64Array.from(branches, (k) => all[k]);
    }
    const atRest: readonly Change[] = this.bending.length > 0 ? this.settler.settle(bare, changes).changes : changes;
    const response = this.response.solveBare(set, bare, atRest);
    return Float64Array.from(branches, (k) =>
      this.lawOf(k, faults, setting).kind === "open" ? 0 : response.quantityOf(k, set, bare),
    );
  }

  private afresh(faults: readonly FaultAt[], setting: number): Float64Array | null {
    const { network, bridges, settings } = this.set;
    const faulted = faultedNetwork(network, bridges, faults);
    const laws = lawsOf(faulted.network.branches, settings[setting].setting, faulted.faults);
    const point = operatingPoint(topologyOf(faulted.network), laws);
    return point.kind === "solved" ? point.amps.slice(0, network.branches.length) : null;
  }

  /** Every rated part that faults run beyond its rating in some setting under power, worst first. */
  overloads(faults: readonly FaultAt[]): Overload[] {
    const worst = new Map<number, Overload>();
    for (const setting of this.powered) {
      const amps = this.amps(faults, setting, this.rated);
      if (!amps) continue;
      this.rated.forEach((k, r) => {
        const found = loadOf(this.set.network.branches[k], this.lawOf(k, faults, setting), amps[r]);
        if (found && found.value > found.rating * 1.001 && !((worst.get(k)?.value ?? 0) >= found.value))
          worst.set(k, { branch: k, ...found });
      });
    }
    return [...worst.values()].sort((a, b) => b.value / b.rating - a.value / a.rating);
  }

  lawOf(branch: number, faults: readonly FaultAt[], setting: number): Law {
    const fault = faults.find((f) => f.site.branch === branch);
    const { ports, setting: standing } = this.set.settings[setting];
    return fault ? lawOf(this.set.network.branches[branch], standing, faultOf(fault)) : ports.laws[branch];
  }
}

/** What a part carries against its rating; null where it has none. */
export function loadOf({ part, kind }: Branch, law: Law, amps: number): Omit<Overload, "branch"> | null {
  if (rowOf(kind).blows && part.currentRating !== undefined)
    return { of: "current", value: Math.abs(amps), rating: part.currentRating };
  if (part.powerRating === undefined || kind === "supply") return null;
  return { of: "power", value: wattsOf(law, amps), rating: part.powerRating };
}
