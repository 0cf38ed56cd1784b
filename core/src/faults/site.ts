import { type Branch, canBeTurned, DEFAULTS, drawnValue, type Mode, type Network, rowOf } from "../circuit/index.ts";
import type { Configuration } from "../configuration/index.ts";
import type { NodePair } from "../measure/index.ts";
import type { PriorData } from "./defaults.ts";
import { normalQuantile } from "./normalQuantile.ts";

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
  /** Of a lead on the wrong node: where it belongs, where it is, and the pair of nodes that the part lies between. */
  readonly moved?: { readonly belongs: number; readonly at: number; readonly pair: NodePair };
}

/** What decides which faults are possible, besides the circuit. */
export interface SiteOptions {
  /** How the circuit stood and stands: a switch's faults are those that differ from good in one of them. */
  readonly states?: readonly Configuration[];
  /** A new build is checked: a lead may be on the neighbouring node. */
  readonly isNew?: boolean;
  /** Something was fitted, then or in a repair: what matters which way round may be the wrong one. */
  readonly isFitted?: boolean;
  /** Parts whose value nobody wrote down: they cannot be off from it. */
  readonly unknown?: ReadonlySet<string>;
}

/** Every site of a network, with the pairs of nodes that might be bridged. */
export function sitesOf(
  network: Network,
  bridges: readonly NodePair[],
  priors: PriorData,
  { states = [], isNew = false, isFitted = isNew, unknown = new Set() }: SiteOptions = {},
): Site[] {
  const positions = (branch: Branch) => new Set([{}, ...states].map((state) => positionIn(branch, state)));
  const sites = network.branches.flatMap((branch, k) =>
    branch.isAdded
      ? []
      : branchSites(branch, k, priors, positions(branch)).filter(
          ({ mode }) => !unknown.has(branch.part.designator) || !(mode === "high" || mode === "low"),
        ),
  );
  const { bridge: rate } = priors.rates;
  if (rate === 0) return sites;
  const bridged = bridges.map((_, i): Site => ({ branch: -1, bridge: i, mode: "bridged", weight: rate, value: null }));
  return [
    ...sites,
    ...bridged,
    ...(isNew ? misplacedSites(network, rate) : []),
    ...(isFitted ? reversedSites(network) : []),
  ];
}

/** Where a switch's lever stands in a state; nothing of other parts. */
function positionIn({ part }: Branch, { switches }: Configuration): "open" | "closed" | null {
  return part.kind === "switch" ? (switches?.[part.designator] ?? part.position) : null;
}

/** A lead of a part on a node next to its own: each way is as likely as one bridge. */
function misplacedSites({ branches, nodes }: Network, weight: number): Site[] {
  const isTap = (node: number) => nodes[node].includes(".");
  const nextTo = (node: number) => [
    ...new Set(branches.flatMap((b) => (b.from === node ? [b.to] : b.to === node ? [b.from] : []))),
  ];
  return branches.flatMap(({ law, part, from, to, isAdded }, branch): Site[] => {
    if (law.kind !== "resistance" || isAdded || isTap(from) || isTap(to)) return [];
    const value = (t: number) =>
      law.ohms * (1 + (part.tolerance / 2) * normalQuantile(Math.min(0.999, Math.max(0.001, t))));
    return [
      { belongs: from, stays: to },
      { belongs: to, stays: from },
    ].flatMap(({ belongs, stays }) =>
      nextTo(belongs)
        .filter((at) => at !== stays && at !== belongs && !isTap(at))
        .map((at): Site => {
          const pair: NodePair = belongs === from ? [at, stays] : [stays, at];
          return { branch, bridge: -1, mode: "misplaced", weight, value, moved: { belongs, at, pair } };
        }),
    );
  });
}

/** How often one that matters is fitted the wrong way round, relative to the rates of failing. */
const REVERSED = 3;

function reversedSites({ branches }: Network): Site[] {
  return branches.flatMap(({ kind, isAdded }, branch): Site[] =>
    canBeTurned(kind) && !isAdded ? [{ branch, bridge: -1, mode: "reversed", weight: REVERSED, value: null }] : [],
  );
}

/** The same for the same site of a network, however often its sites are laid out. */
export function keyOfSite({ branch, bridge, mode, moved }: Site): string {
  return `${branch} ${bridge} ${mode} ${moved?.belongs} ${moved?.at}`;
}

/** What a site is a fault of: two faults are of two different ones. */
export function ownerOf(network: Network, site: Site): string {
  return site.branch < 0 ? `bridge ${site.bridge}` : network.branches[site.branch].part.designator;
}

function branchSites(branch: Branch, k: number, priors: PriorData, positions: ReadonlySet<string | null>): Site[] {
  const rate = priors.rates[branch.kind];
  const shares = Object.entries(priors.modes[branch.kind]) as [Mode, number][];
  return shares.flatMap(([mode, share]) => {
    const weight = rate * share * portionOf(branch, mode, positions);
    return weight > 0 ? [{ branch: k, bridge: -1, mode, weight, value: rangeOf(branch, mode, priors) }] : [];
  });
}

/** Share of a part's mode that falls to this branch: sections share it, a switch has what differs from good in some position it had. */
function portionOf(branch: Branch, mode: Mode, positions: ReadonlySet<string | null>): number {
  if (branch.kind === "potentiometer") {
    const isWiper = branch.name.endsWith(".wiper");
    return mode === "wiperOpen" ? Number(isWiper) : isWiper ? 0 : 0.5;
  }
  if (branch.kind !== "switch") return 1 / (rowOf(branch.kind).sections?.length ?? 1);
  return Number(positions.has(mode === "stuckClosed" ? "open" : "closed"));
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
/** Of a junction: shares of its volts that it may come to, and ohms that may lead beside it. */
const LOW_KNEE = 0.5;
const HIGH_FORWARD = 2.5;
const LEAKS = [3, 1e6] as const;

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
  if (mode === "leaky") return logBetween(...LEAKS);
  if (mode !== "high" && mode !== "low") return null;
  if (law.kind === "junction") {
    const volts = law.zener ?? law.forward;
    const end = mode === "low" ? LOW_KNEE : law.zener === undefined ? HIGH_FORWARD : HIGH_SUPPLY;
    return between(volts * (1 + (mode === "low" ? -part.tolerance : part.tolerance)), volts * end);
  }
  const ohms = part.kind === "switch" ? part.ohms : (drawnValue(law) ?? DEFAULTS.contactOhms);
  if (rowOf(branch.kind).isContact) {
    const added = logBetween(...CONTACT_ADDS);
    return mode === "high" ? (t) => ohms + added(t) : null;
  }
  const { driftFactorMax } = priors;
  return mode === "high"
    ? logBetween(ohms * (1 + part.tolerance), ohms * driftFactorMax)
    : logBetween(ohms * (1 - part.tolerance), ohms / driftFactorMax);
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
