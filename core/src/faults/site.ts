import { type Branch, CONTACT_KINDS, DEFAULTS, type Law, type Network } from "../circuit/index.ts";
import type { NodePair } from "../measure/index.ts";
import type { Mode } from "../record/index.ts";
import type { PriorData } from "./defaults.ts";

/** One way one thing can be wrong. Sites with a `value` range over it; the others are what they are. */
export interface Site {
  /** Branch number, or −1 for a bridge. */
  readonly branch: number;
  /** Number among the candidate bridges, or −1. */
  readonly bridge: number;
  readonly mode: Mode;
  /** Rate × share: how often it happens, relative to the others. */
  readonly weight: number;
  /** Value at the share t ∈ [0, 1] of the prior's mass: ohms, volts of a supply, ohms inside a weak one. */
  readonly value: ((t: number) => number) | null;
}

/** Every site of a network, with the pairs of nodes that might be bridged. */
export function sitesOf(network: Network, bridges: readonly NodePair[], priors: PriorData): Site[] {
  const sites = network.branches.flatMap((branch, k) => branchSites(branch, k, priors));
  const { bridge: rate } = priors.rates;
  if (rate === 0) return sites;
  return [
    ...sites,
    ...bridges.map((_, i): Site => ({ branch: -1, bridge: i, mode: "bridged", weight: rate, value: null })),
  ];
}

/** What a site is a fault of: two faults are of two different ones. */
export function ownerOf(network: Network, site: Site): string {
  return site.branch < 0 ? `bridge ${site.bridge}` : network.branches[site.branch].part.designator;
}

function branchSites(branch: Branch, k: number, priors: PriorData): Site[] {
  const rate = priors.rates[branch.kind];
  const shares = Object.entries(priors.modes[branch.kind]) as [Mode, number][];
  return shares.flatMap(([mode, share]) => {
    const weight = rate * share * portionOf(branch, mode);
    return weight > 0 ? [{ branch: k, bridge: -1, mode, weight, value: rangeOf(branch, mode, priors) }] : [];
  });
}

/** Share of a part's mode that falls to this branch: a potentiometer's sections halve it, a switch has what differs from its position. */
function portionOf(branch: Branch, mode: Mode): number {
  if (branch.kind === "potentiometer") {
    const isWiper = branch.name.endsWith(".wiper");
    return mode === "wiperOpen" ? Number(isWiper) : isWiper ? 0 : 0.5;
  }
  if (mode === "stuckOpen" || mode === "open") return branch.law.kind === "open" ? 0 : 1;
  if (mode === "stuckClosed") return branch.law.kind === "open" ? 1 : 0;
  if (mode === "high" && branch.law.kind === "open") return 0;
  return 1;
}

const between = (from: number, to: number) => (t: number) => from + (to - from) * t;
const logBetween = (from: number, to: number) => {
  const linear = between(Math.log(from), Math.log(to));
  return (t: number) => Math.exp(linear(t));
};

/** Reach of an added contact resistance, in ohms, and of a weak supply's internal resistance, as factors. */
const CONTACT_ADDS = [0.5, 1e4] as const;
const WEAK_FACTORS = [3, 300] as const;
const LOW_SUPPLY = 0.3;
const HIGH_SUPPLY = 1.5;

function rangeOf(branch: Branch, mode: Mode, priors: PriorData): Site["value"] {
  const { law, part } = branch;
  if (law.kind === "supply") {
    const { tolerance } = part;
    if (mode === "low") return between(law.volts * LOW_SUPPLY, law.volts * (1 - tolerance));
    if (mode === "high") return between(law.volts * (1 + tolerance), law.volts * HIGH_SUPPLY);
    if (mode !== "weak") return null;
    const inside = Math.max(law.ohms, DEFAULTS.internalOhms);
    return logBetween(inside * WEAK_FACTORS[0], inside * WEAK_FACTORS[1]);
  }
  if (mode !== "high" && mode !== "low") return null;
  const ohms = nominalOhms(law);
  if (CONTACT_KINDS.has(branch.kind)) {
    const added = logBetween(...CONTACT_ADDS);
    return mode === "high" ? (t) => ohms + added(t) : null;
  }
  const { driftFactorMax } = priors;
  return mode === "high"
    ? logBetween(ohms * (1 + part.tolerance), ohms * driftFactorMax)
    : logBetween(ohms * (1 - part.tolerance), ohms / driftFactorMax);
}

function nominalOhms(law: Law): number {
  if (law.kind === "resistance" || law.kind === "supply") return law.ohms;
  return law.kind === "filament" ? law.hot : DEFAULTS.contactOhms;
}

/** The law a branch follows with this site's fault at `value` (ignored where the mode has none). */
export function faultedLaw(branch: Branch, mode: Mode, value: number): Law {
  const { law } = branch;
  switch (mode) {
    case "open":
    case "dead":
    case "stuckOpen":
    case "wiperOpen":
      return { kind: "open" };
    case "short":
      return { kind: "resistance", ohms: DEFAULTS.shortOhms };
    case "stuckClosed":
      return { kind: "resistance", ohms: DEFAULTS.contactOhms };
    case "weak":
      return law.kind === "supply" ? { ...law, ohms: value } : law;
    case "high":
    case "low":
      if (law.kind === "supply") return { ...law, volts: value };
      if (law.kind === "filament") return { ...law, hot: value, cold: (law.cold * value) / law.hot };
      return { kind: "resistance", ohms: value };
    case "bridged":
      return law;
    default:
      return mode satisfies never;
  }
}

/** Pairs of nodes that a stray bridge may join: they share a neighbour, and no part lies between them. */
export function bridgeCandidates(network: Network): NodePair[] {
  const neighbours = network.nodes.map(() => new Set<number>());
  for (const { from, to } of network.branches) {
    if (from === to) continue;
    neighbours[from].add(to);
    neighbours[to].add(from);
  }
  const pairs: NodePair[] = [];
  for (let a = 0; a < neighbours.length; a += 1) {
    for (let b = a + 1; b < neighbours.length; b += 1) {
      if (neighbours[a].has(b) || isTap(network, a) || isTap(network, b)) continue;
      if ([...neighbours[a]].some((c) => neighbours[b].has(c))) pairs.push([a, b]);
    }
  }
  return pairs;
}

function isTap(network: Network, node: number): boolean {
  return network.nodes[node].includes(".");
}
