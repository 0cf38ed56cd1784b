import { type Branch, type BranchFault, bridgeName, DEFAULTS, type Network, type Part } from "../circuit/index.ts";
import type { NodePair } from "../measure/index.ts";
import type { Site } from "./site.ts";

/** A fault with its value settled. */
export interface FaultAt {
  readonly site: Site;
  readonly value: number;
}

/** A network with faults in it: bridges are branches of their own, at the end, and a misplaced part lies where its leads are. */
export interface FaultedNetwork {
  readonly network: Network;
  /** What is to be given to `lawOf`, by branch number. */
  readonly faults: ReadonlyMap<number, BranchFault>;
}

/** @param bridges the candidates that sites of bridges number */
export function faultedNetwork(
  network: Network,
  bridges: readonly NodePair[],
  faults: readonly FaultAt[],
): FaultedNetwork {
  const branches: Branch[] = [...network.branches];
  const byBranch = new Map<number, BranchFault>();
  for (const { site, value } of faults) {
    if (site.bridge >= 0) branches.push(bridgeBetween(network, bridges[site.bridge]));
    else if (site.moved) {
      const [from, to] = site.moved.pair;
      branches[site.branch] = { ...branches[site.branch], from, to };
      byBranch.set(site.branch, { mode: "high", value });
    } else byBranch.set(site.branch, { mode: site.mode, value });
  }
  return { network: { ...network, branches }, faults: byBranch };
}

/** A stray short circuit between two nodes. */
export function bridgeBetween({ nodes }: Network, [from, to]: NodePair): Branch {
  const name = bridgeName(nodes[from], nodes[to]);
  const ohms = DEFAULTS.shortOhms;
  const part: Part = { designator: name, kind: "wire", from: nodes[from], to: nodes[to], tolerance: 0, ohms };
  return { name, part, kind: "wire", from, to, law: { kind: "resistance", ohms } };
}
