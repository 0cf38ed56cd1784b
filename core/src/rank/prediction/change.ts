import {
  type BranchFault,
  bends,
  DEFAULTS,
  isCleared,
  type Law,
  lawOf,
  type Mode,
  ohmsOf,
  voltsOf,
} from "../../circuit/index.ts";
import { type FaultAt, keyOfSite } from "../../faults/index.ts";
import type { NodePair, ProbeSet } from "../../measure/index.ts";
import type { Lines } from "../../solve/index.ts";

/**
 * A change of one element against the solved network of a setting. Its source is σ = added + gain·q, with gain in
 * ohms for a branch and siemens for a pair of nodes; an infinite gain forces q to zero.
 */
export interface Change {
  readonly element: number;
  readonly gain: number;
  readonly added: number;
  /** The law of what bends: its ohms follow the voltage, and the gain with them. */
  readonly bends?: Law;
  /** Amperes at which the element is held, for an infinite gain: a supply at its limit. */
  readonly held?: number;
  /** The element's own tolerance still counts: nothing is changed here. */
  readonly isNothing?: true;
  /** So it does where its volts are as drawn, and something else of it is wrong. */
  readonly keepsVolts?: true;
}

/** What a setting becomes under faults: changes of elements, or "afresh" where the islands change. */
export type SettingChange = readonly Change[] | "afresh";

/** What a fault makes of one setting: changes, or other islands. */
type Effect = readonly Change[] | "afresh";

/** Elements beside the branches: candidate bridges, then pairs of nodes that a fault may join. */
export interface Pairs {
  readonly all: readonly NodePair[];
  /** Pair of a switch's ends, by branch: what closes it where the lever says open. */
  readonly closers: ReadonlyMap<number, number>;
  /** Pair between which a part with a lead on the wrong node lies, by the site's key. */
  readonly moved: ReadonlyMap<string, number>;
}

/** The changes that faults at given values make in every setting of a probe set. */
export class Changes {
  /** By fault, since pairs are made of the same faults over and over. */
  private readonly known = new WeakMap<FaultAt, readonly Effect[]>();
  /** Names of branches through which, or of which alone, something is read. */
  private readonly readAlone: ReadonlySet<string>;

  constructor(
    private readonly set: ProbeSet,
    private readonly pairs: Pairs,
  ) {
    this.readAlone = new Set(
      set.probes.flatMap(({ reading }) =>
        reading.quantity === "current" ? [reading.through] : (reading.lifted ?? []),
      ),
    );
  }

  of(faults: readonly FaultAt[]): SettingChange[] {
    const effects = faults.map((fault) => this.effectsOf(fault));
    const found: SettingChange[] = [];
    for (let s = 0; s < this.set.settings.length; s += 1) {
      if (effects.length === 1) {
        found.push(effects[0][s]);
        continue;
      }
      const changes: Change[] = [];
      let isAfresh = false;
      for (let f = 0; f < effects.length; f += 1) {
        const effect = effects[f][s];
        if (effect === "afresh") isAfresh = true;
        else for (let c = 0; c < effect.length; c += 1) changes.push(effect[c]);
      }
      found.push(isAfresh ? "afresh" : changes);
    }
    return found;
  }

  private effectsOf(fault: FaultAt): readonly Effect[] {
    let effects = this.known.get(fault);
    if (effects === undefined) {
      effects = this.set.settings.map((_, s) => this.effectIn(s, fault));
      this.known.set(fault, effects);
    }
    return effects;
  }

  private effectIn(s: number, fault: FaultAt): Effect {
    const { set, pairs } = this;
    const { setting, ports } = set.settings[s];
    const { site } = fault;
    if (site.bridge >= 0) {
      const [a, b] = pairs.all[site.bridge];
      const { nodes } = set.network;
      if (isCleared(setting.state, [nodes[a], nodes[b]]))
        return [{ element: set.branchCount + site.bridge, gain: 0, added: 0, isNothing: true }];
      return this.joined(s, site.bridge, DEFAULTS.shortOhms);
    }
    const branch = set.network.branches[site.branch];
    const law = lawOf(branch, setting, faultOf(fault));
    const base = ports.laws[site.branch];
    if (base.kind === "open") {
      // The same element in every setting: predictions then go the quick way.
      if (law.kind === "open") return [{ element: site.branch, gain: 0, added: 0, isNothing: true }];
      const closer = pairs.closers.get(site.branch);
      // A pair of nodes stands for the part, but nobody reads what flows through the pair.
      return closer === undefined || this.readAlone.has(branch.name) || law.kind !== "resistance"
        ? "afresh"
        : this.joined(s, closer, law.ohms);
    }
    const change = changeOf(site.branch, base, law, ports.point.lines, site.mode);
    const pair = site.moved ? pairs.moved.get(keyOfSite(site)) : undefined;
    if (pair === undefined || law.kind !== "open") return [change];
    if (this.readAlone.has(branch.name)) return "afresh";
    const elsewhere = this.joined(s, pair, fault.value);
    return elsewhere === "afresh" ? "afresh" : [change, ...elsewhere];
  }

  /** So many ohms between the nodes of a pair. */
  private joined(s: number, pair: number, ohms: number): Effect {
    const { set } = this;
    if (set.settings[s].ports.apart[pair]) return "afresh";
    return [{ element: set.branchCount + pair, gain: -1 / ohms, added: 0 }];
  }
}

export function faultOf({ site, value }: FaultAt): BranchFault {
  return { mode: site.mode, value };
}

/** Faults of what has volts of its own that leave them, and so their tolerance, as they are. */
export const KEEPS_VOLTS: ReadonlySet<Mode> = new Set(["weak", "leaky", "reversed"]);

function changeOf(element: number, base: Law, law: Law, lines: Lines, mode: Mode): Change {
  if (law.kind === "open") return { element, gain: Number.POSITIVE_INFINITY, added: 0 };
  const gain = ohmsOf(law) - lines.ohms[element];
  const added = voltsOf(law) - lines.volts[element];
  const isSame = bends(law) ? isSameLaw(law, base) : !bends(base) && gain === 0 && added === 0;
  if (isSame) return { element, gain: 0, added: 0, isNothing: true };
  return {
    element,
    gain,
    added,
    ...(bends(law) ? { bends: law } : {}),
    ...(KEEPS_VOLTS.has(mode) ? { keepsVolts: true } : {}),
  };
}

/** Laws are flat: equal in all that they say. */
function isSameLaw(a: Law, b: Law): boolean {
  const keys = Object.keys(a) as (keyof Law)[];
  return keys.length === Object.keys(b).length && keys.every((k) => a[k] === b[k]);
}
