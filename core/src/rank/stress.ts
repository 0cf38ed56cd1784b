import type { Branch, Law } from "../circuit/index.ts";
import { faultedLaw } from "../faults/index.ts";
import type { ProbeSet } from "../measure/index.ts";
import type { MeterData } from "../record/index.ts";
import { operatingPoint, topologyOf } from "../solve/index.ts";
import { type Change, Changes, type FaultAt, faultedLaws, withBridges } from "./change.ts";
import { CurrentLimits } from "./limits.ts";
import { Response, settleFilaments } from "./response.ts";

/** A part run beyond what it is rated for. */
export interface Overload {
  readonly branch: number;
  readonly of: "current" | "power";
  /** Amperes or watts, and the rating. */
  readonly value: number;
  readonly rating: number;
}

/** Currents everywhere under faults, no meter connected: what a fault does to its neighbours. */
export class Stress {
  private readonly filaments: readonly number[];
  private readonly limits: CurrentLimits;
  private readonly changes: Changes;
  private readonly response = new Response();

  /** @param set whose last probe is the unloaded circuit */
  constructor(
    private readonly set: ProbeSet,
    meter: MeterData,
  ) {
    const laws = set.settings[0].ports.laws;
    this.filaments = laws.flatMap((law, k) => (law.kind === "filament" ? [k] : []));
    this.limits = new CurrentLimits(set);
    this.changes = new Changes(set, meter);
  }

  /** Amperes of every branch; null where the faulted network cannot be solved. */
  amps(faults: readonly FaultAt[]): Float64Array | null {
    const { set } = this;
    const [changes] = this.limits.hold(this.changes.of(faults));
    const B = set.branchCount;
    const probe = set.probes[set.probes.length - 1];
    if (changes === "afresh") return this.afresh(faults);
    const settled: readonly Change[] =
      this.filaments.length > 0 ? settleFilaments(set, probe, changes, this.filaments).statics : changes;
    const response = this.response.solve(set, probe, settled);
    if (response.cut !== null) return this.afresh(faults);
    const amps = Float64Array.from({ length: B }, (_, k) => response.quantityOf(k, set, probe));
    for (const { site } of faults) if (site.branch >= 0 && isOpened(set, site.branch, faults)) amps[site.branch] = 0;
    return amps;
  }

  private afresh(faults: readonly FaultAt[]): Float64Array | null {
    const { network, bridges } = this.set;
    const joined = faults.filter((f) => f.site.bridge >= 0).map((f) => bridges[f.site.bridge]);
    const bridged = withBridges(network, joined);
    const faulted = faultedLaws(network, faults);
    const laws = bridged.branches.map((b, k) => faulted.get(k) ?? b.law);
    const point = operatingPoint(topologyOf(bridged), laws);
    return point.kind === "solved" ? point.amps.slice(0, network.branches.length) : null;
  }

  /** Every rated part that faults run beyond its rating, worst first. */
  overloads(faults: readonly FaultAt[]): Overload[] {
    const amps = this.amps(faults);
    if (!amps) return [];
    return this.set.network.branches
      .flatMap((branch, k) => {
        const found = loadOf(branch, this.lawOf(k, faults), amps[k]);
        return found && found.value > found.rating * 1.001 ? [{ branch: k, ...found }] : [];
      })
      .sort((a, b) => b.value / b.rating - a.value / a.rating);
  }

  lawOf(branch: number, faults: readonly FaultAt[]): Law {
    const fault = faults.find((f) => f.site.branch === branch);
    const part = this.set.network.branches[branch];
    return fault ? faultedLaw(part, fault.site.mode, fault.value) : part.law;
  }
}

function isOpened(set: ProbeSet, branch: number, faults: readonly FaultAt[]): boolean {
  return faults.some(
    ({ site, value }) =>
      site.branch === branch && faultedLaw(set.network.branches[branch], site.mode, value).kind === "open",
  );
}

/** What a part carries against its rating; null where it has none. */
export function loadOf({ part, kind }: Branch, law: Law, amps: number): Omit<Overload, "branch"> | null {
  if (kind === "fuse" && part.currentRating !== undefined)
    return { of: "current", value: Math.abs(amps), rating: part.currentRating };
  if (part.powerRating === undefined || law.kind !== "resistance") return null;
  return { of: "power", value: amps * amps * law.ohms, rating: part.powerRating };
}
