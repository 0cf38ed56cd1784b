import type { Network } from "../../circuit/index.ts";
import { ownerOf, type PriorData, type Site, type SiteOptions, sitesOf } from "../../faults/index.ts";
import type { NodePair } from "../../measure/index.ts";
import type { Hypothesis } from "../evidence/integrator.ts";

/** What is believed before any reading: nothing wrong, one fault, or two of different parts. */
export class Prior {
  readonly healthy: Hypothesis;
  readonly singles: readonly Hypothesis[];
  private readonly owners: readonly string[];
  private readonly logPair: number;
  private readonly logWeights: Float64Array;

  /** @param favoured multiplies the weight of some sites: what a finger found loose */
  constructor(
    private readonly network: Network,
    bridges: readonly NodePair[],
    priors: PriorData,
    options: SiteOptions = {},
    favoured: (site: Site) => number = () => 1,
  ) {
    const sites = sitesOf(network, bridges, priors, options).map((s) => ({ ...s, weight: s.weight * favoured(s) }));
    const sum = sites.reduce((s, site) => s + site.weight, 0);
    const faulty = Math.log1p(-priors.healthy);
    const logSingle = faulty + Math.log1p(-priors.doubleShare) - Math.log(sum);
    this.owners = sites.map((s) => ownerOf(network, s));
    this.logWeights = Float64Array.from(sites, (s) => Math.log(s.weight));
    this.healthy = { sites: [], logPrior: Math.log(priors.healthy) };
    this.singles = sites.map((site, i) => ({ sites: [site], logPrior: logSingle + this.logWeights[i] }));
    // Pairs of different owners, each counted once: half of (Σw)² without what falls to one owner.
    const ofOwner = new Map<string, number>();
    sites.forEach((s, i) => {
      if (!s.moved) ofOwner.set(this.owners[i], (ofOwner.get(this.owners[i]) ?? 0) + s.weight);
    });
    const paired = [...ofOwner.values()].reduce((s, w) => s + w, 0);
    const same = [...ofOwner.values()].reduce((s, w) => s + w * w, 0);
    this.logPair = faulty + Math.log(priors.doubleShare) - Math.log((paired * paired - same) / 2);
  }

  /** True where two faults are possible at all. */
  get hasPairs(): boolean {
    return Number.isFinite(this.logPair) && new Set(this.owners).size > 1;
  }

  /** Two faults; null where both are of one part. */
  pair(i: number, k: number): Hypothesis | null {
    if (!this.canPair(i, k)) return null;
    return {
      sites: [this.singles[i].sites[0], this.singles[k].sites[0]],
      logPrior: this.logPairOf(i, k),
    };
  }

  /** Log prior of two faults at once. */
  logPairOf(i: number, k: number): number {
    return this.logPair + this.logWeights[i] + this.logWeights[k];
  }

  /** A lead on the wrong node is looked for by itself: with a second fault there would be thousands. */
  canPair(i: number, k: number): boolean {
    return !this.isSameOwner(i, k) && !this.singles[i].sites[0].moved && !this.singles[k].sites[0].moved;
  }

  /** Number of the site of a branch that leaves it open for good, or −1. */
  openSiteOf(branch: number): number {
    return this.singles.findIndex(({ sites: [s] }) => s.branch === branch && s.mode === "open");
  }

  /** True where two sites are of one part. */
  isSameOwner(i: number, k: number): boolean {
    return this.owners[i] === this.owners[k];
  }

  nameOf(site: Site): string {
    return ownerOf(this.network, site);
  }
}
