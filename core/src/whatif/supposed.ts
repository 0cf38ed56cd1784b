import {
  type Branch,
  CONTACT_KINDS,
  canBeTurned,
  DEFAULTS,
  drawnValue,
  HAS_OHMS,
  LEAST_LEAK,
  type Mode,
  type Network,
  type NodeName,
  unitOfValue,
} from "../circuit/index.ts";
import { type FaultAt, type FaultedNetwork, faultedNetwork, MODE_SHARES, priorData, sitesOf } from "../faults/index.ts";
import type { NodePair } from "../measure/index.ts";

/** Modes of a part that can be supposed; the table of shares says which of them its kind has. */
export type PartMode = Exclude<Mode, "bridged" | "misplaced">;

/** A fault that is supposed. `part` names a branch; `value` is what it has become: ohms, volts of a supply, ohms inside a weak one. */
export type Supposed =
  | { readonly part: string; readonly mode: PartMode; readonly value?: number }
  | { readonly nodes: readonly [NodeName, NodeName]; readonly mode: "bridged" };

/** Values that a fault of a part may take; SI units. */
export interface Reach {
  readonly unit: "ohm" | "V";
  readonly least: number;
  readonly most: number;
  /** Its value as drawn, and how far that may be off in a good part. */
  readonly nominal: number;
  readonly good: readonly [number, number];
  /** Where the table of faults puts the middle of what happens. */
  readonly usual: number;
  readonly isLogarithmic: boolean;
}

/** One way a part can be wrong; `reach` where it has a value. */
export interface Choice {
  readonly mode: PartMode;
  readonly reach: Reach | null;
}

/** Both positions of every switch: a stuck one can be supposed wherever the lever is. */
const ANYHOW = (network: Network) =>
  (["open", "closed"] as const).map((position) => ({
    switches: Object.fromEntries(
      network.branches.flatMap((b) => (b.kind === "switch" ? [[b.part.designator, position]] : [])),
    ),
  }));

/** The ways in which every branch can be wrong, by the one table of kinds; bridges are any two nodes. */
export function choicesOf(network: Network): ReadonlyMap<string, readonly Choice[]> {
  const priors = priorData();
  const found = new Map<string, Choice[]>();
  for (const { branch, mode, value } of sitesOf(network, [], priors, { states: ANYHOW(network) })) {
    if (branch < 0) continue;
    const own = network.branches[branch];
    const choice: Choice = { mode: mode as PartMode, reach: value ? reachOf(own, mode as PartMode, value) : null };
    found.set(own.name, [...(found.get(own.name) ?? []), choice]);
  }
  // What can be the wrong way round can be imagined so, be it no new build.
  for (const { name, kind } of network.branches)
    if (canBeTurned(kind)) found.set(name, [...(found.get(name) ?? []), { mode: "reversed", reach: null }]);
  return found;
}

function reachOf(branch: Branch, mode: PartMode, value: (share: number) => number): Reach {
  const ends = [value(0), value(1)];
  const [least, most] = [Math.min(...ends), Math.max(...ends)];
  const { part } = branch;
  const unit = unitOfValue(branch.kind, mode);
  const nominal = nominalOf(branch, mode);
  const slack = CONTACT_KINDS.has(branch.kind) || HAS_OHMS.has(mode) ? 0 : nominal * part.tolerance;
  return {
    unit,
    least,
    most,
    nominal,
    good: [nominal - slack, nominal + slack],
    usual: value(0.5),
    isLogarithmic: unit === "ohm",
  };
}

/** What a mode changes, as drawn: volts of a supply or a junction, ohms inside or beside it, ohms of anything else. */
export function nominalOf({ law, part }: Branch, mode: PartMode): number {
  if (law.kind === "supply" && mode === "weak") return law.ohms;
  if (mode === "leaky") return 1 / LEAST_LEAK;
  return drawnValue(law) ?? (part.kind === "switch" ? part.ohms : DEFAULTS.contactOhms);
}

/** The mode under which a part has a value: above or below what is drawn; null where its kind does not drift that way. */
export function driftMode(branch: Branch, value: number): PartMode | null {
  const mode = value > nominalOf(branch, "high") ? "high" : "low";
  return MODE_SHARES[branch.kind][mode] === undefined ? null : mode;
}

/** The same fault, whatever its value. */
export function isSameFault(a: Supposed, b: Supposed): boolean {
  if ("nodes" in a) return "nodes" in b && a.nodes.every((n) => b.nodes.includes(n));
  return "part" in b && a.part === b.part && a.mode === b.mode;
}

/** Names of what a circuit does not have, or what two faults of one part cannot both be; null where all can be. */
export function troubleWithSupposed(network: Network, supposed: readonly Supposed[]): string | null {
  const seen = new Set<string>();
  for (const fault of supposed) {
    if ("nodes" in fault) {
      const lost = fault.nodes.find((n) => !network.nodes.includes(n));
      if (lost) return `there is no node ${lost} in this circuit`;
      continue;
    }
    if (!network.branches.some((b) => b.name === fault.part)) return `there is no part ${fault.part} in this circuit`;
    if (seen.has(fault.part)) return `${fault.part} cannot be wrong in two ways at once`;
    seen.add(fault.part);
  }
  return null;
}

/** Supposed faults as the solver takes them, bridges numbered after those already there. */
export function faultsAtSupposed(
  network: Network,
  supposed: readonly Supposed[],
  bridges: readonly NodePair[] = [],
): { readonly faults: readonly FaultAt[]; readonly bridges: readonly NodePair[] } {
  const pairs = [...bridges];
  const faults = supposed.map((fault): FaultAt => {
    if ("nodes" in fault) {
      const [a, b] = fault.nodes.map((n) => network.nodes.indexOf(n));
      const bridge = pairs.push([a, b]) - 1;
      return { site: { branch: -1, bridge, mode: "bridged", weight: 0, value: null }, value: 0 };
    }
    const branch = network.branches.findIndex((b) => b.name === fault.part);
    const value = fault.value ?? 0;
    const hasValue = fault.value !== undefined;
    return { site: { branch, bridge: -1, mode: fault.mode, weight: 0, value: hasValue ? () => value : null }, value };
  });
  return { faults, bridges: pairs };
}

/** The network with supposed faults in it, as it is to be solved. */
export function withSupposed(network: Network, supposed: readonly Supposed[]): FaultedNetwork {
  const { faults, bridges } = faultsAtSupposed(network, supposed);
  return faultedNetwork(network, bridges, faults);
}
