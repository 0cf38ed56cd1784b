import { DEFAULTS, type Law, type Network } from "../circuit/index.ts";
import { faultedLaw, type Site } from "../faults/index.ts";
import { lawIn, type NodePair, type ProbeSet } from "../measure/index.ts";
import type { MeterData } from "../record/index.ts";

/**
 * A change of one element against the solved network of a setting. Its source is σ = added + gain·q, with gain in
 * ohms for a branch and siemens for a pair of nodes; an infinite gain forces q to zero.
 */
export interface Change {
  readonly element: number;
  readonly gain: number;
  readonly added: number;
  /** The filament's law, where the ohms follow the voltage. */
  readonly filament?: Extract<Law, { kind: "filament" }>;
  /** Amperes at which the element is held, for an infinite gain: a supply at its limit. */
  readonly held?: number;
}

/** A fault with its value settled. */
export interface FaultAt {
  readonly site: Site;
  readonly value: number;
}

/** What a setting becomes under faults: changes of elements, or "afresh" where the islands change. */
export type SettingChange = readonly Change[] | "afresh";

/** What a fault makes of one setting: a change, nothing, or other islands. */
type Effect = Change | "nothing" | "afresh";

/** The changes that faults at given values make in every setting of a probe set. */
export class Changes {
  /** By fault, since pairs are made of the same faults over and over. */
  private readonly known = new WeakMap<FaultAt, readonly Effect[]>();

  constructor(
    private readonly set: ProbeSet,
    private readonly meter: MeterData,
  ) {}

  of(faults: readonly FaultAt[]): SettingChange[] {
    const effects = faults.map((fault) => this.effectsOf(fault));
    const found: SettingChange[] = [];
    for (let s = 0; s < this.set.settings.length; s += 1) {
      const changes: Change[] = [];
      let isAfresh = false;
      for (let f = 0; f < effects.length; f += 1) {
        const effect = effects[f][s];
        if (effect === "afresh") isAfresh = true;
        else if (effect !== "nothing") changes.push(effect);
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

  private effectIn(s: number, { site, value }: FaultAt): Effect {
    const { set, meter } = this;
    const { setting, ports } = set.settings[s];
    if (site.bridge >= 0) {
      if (ports.apart[site.bridge]) return "afresh";
      return { element: set.branchCount + site.bridge, gain: -1 / DEFAULTS.shortOhms, added: 0 };
    }
    const branch = set.network.branches[site.branch];
    const law = lawIn(branch, setting, meter, faultedLaw(branch, site.mode, value));
    const base = ports.laws[site.branch];
    if (base.kind === "open") return law.kind === "open" ? "nothing" : "afresh";
    return changeOf(site.branch, base, law, ports.point.ohms[site.branch]) ?? "nothing";
  }
}

function changeOf(element: number, base: Law, law: Law, ohms: number): Change | null {
  switch (law.kind) {
    case "open":
      return { element, gain: Number.POSITIVE_INFINITY, added: 0 };
    case "resistance":
      return law.ohms === ohms ? null : { element, gain: law.ohms - ohms, added: 0 };
    case "supply": {
      const added = law.volts - (base.kind === "supply" ? base.volts : 0);
      return added === 0 && law.ohms === ohms ? null : { element, gain: law.ohms - ohms, added };
    }
    case "filament":
      return { element, gain: law.hot - ohms, added: 0, filament: law };
    default:
      return law satisfies never;
  }
}

/** The laws of faulty branches, for a fresh solution. */
export function faultedLaws(network: Network, faults: readonly FaultAt[]): Map<number, Law> {
  return new Map(
    faults.flatMap(({ site, value }) =>
      site.branch < 0 ? [] : [[site.branch, faultedLaw(network.branches[site.branch], site.mode, value)] as const],
    ),
  );
}

/** The network with short circuits between pairs of nodes. */
export function withBridges(network: Network, pairs: readonly NodePair[]): Network {
  if (pairs.length === 0) return network;
  const law: Law = { kind: "resistance", ohms: DEFAULTS.shortOhms };
  const part = { ...network.branches[0].part, tolerance: 0 };
  const added = pairs.map(([from, to], i) => ({ name: `bridge ${i}`, part, kind: "wire" as const, from, to, law }));
  return { ...network, branches: [...network.branches, ...added] };
}

/** A law with its resistance or voltage times a factor. */
export function scaled(law: Law, factor: number): Law {
  switch (law.kind) {
    case "resistance":
      return { ...law, ohms: law.ohms * factor };
    case "supply":
      return { ...law, volts: law.volts * factor };
    case "filament":
      return { ...law, hot: law.hot * factor, cold: law.cold * factor };
    case "open":
      return law;
    default:
      return law satisfies never;
  }
}
