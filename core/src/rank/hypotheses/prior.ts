import type { Network } from "../../circuit/index.ts";
import { ownerOf, type PriorData, type Site, type SiteOptions, sitesOf } from "../../faults/index.ts";
import type { NodePair } from "../../measure/index.ts";
import { logSumExp } from "../evidence/gaussian.ts";
import type { Hypothesis } from "../evidence/integrator.ts";
import { FALSE_METER, type FalseMeter } from "./falseMeter.ts";
import type { Noticed } from "./noticed.ts";

/** What is believed before any reading: nothing wrong, one fault, or two of different parts. */
export class Prior {
  readonly healthy: Hypothesis;
  readonly singles: readonly Hypothesis[];
  private readonly owners: readonly string[];
  private readonly logPair: number;
  private readonly logWeights: Float64Array;
  /** Average chance that each site was noticed; null where that does not matter. */
  private readonly averages: Float64Array | null;

  /** @param favoured multiplies the weight of some sites: what a finger found loose */
  constructor(
    private readonly network: Network,
    bridges: readonly NodePair[],
    priors: PriorData,
    options: SiteOptions = {},
    favoured: (site: Site) => number = () => 1,
    /** Weighs sites by whether they could have been noticed; nothing wrong keeps its chance. */
    readonly noticed: Noticed | null = null,
    /** Meters that may be false. */
    private readonly meters: readonly FalseMeter[] = [],
  ) {
    const logTrue = meters.length * Math.log1p(-FALSE_METER);
    const sites = sitesOf(network, bridges, priors, options).map((s) => ({ ...s, weight: s.weight * favoured(s) }));
    const sum = sites.reduce((s, site) => s + site.weight, 0);
    const faulty = Math.log1p(-priors.healthy) + logTrue;
    const logSingle = faulty + Math.log1p(-priors.doubleShare) - Math.log(sum);
    this.owners = sites.map((s) => ownerOf(network, s));
    this.logWeights = Float64Array.from(sites, (s) => Math.log(s.weight));
    this.healthy = { sites: [], logPrior: Math.log(priors.healthy) + logTrue };
    this.averages = noticed ? Float64Array.from(sites, (site) => noticed.averageOf(site)) : null;
    // Pairs of different owners, each counted once: half of (Σw)² without what falls to one owner.
    const ofOwner = new Map<string, number>();
    sites.forEach((s, i) => {
      if (!s.moved) ofOwner.set(this.owners[i], (ofOwner.get(this.owners[i]) ?? 0) + s.weight);
    });
    const paired = [...ofOwner.values()].reduce((s, w) => s + w, 0);
    const same = [...ofOwner.values()].reduce((s, w) => s + w * w, 0);
    const pairs = (paired * paired - same) / 2;
    const logShown = this.logShown(sites, sum, pairs, priors.doubleShare);
    this.logPair = faulty + Math.log(priors.doubleShare) - Math.log(pairs) - logShown;
    this.singles = sites.map((site, i) => {
      const logPrior = logSingle + this.logWeights[i] - logShown;
      const average = this.averages?.[i];
      return average === undefined
        ? { sites: [site], logPrior }
        : { sites: [site], logPrior: logPrior + Math.log(average), average };
    });
  }

  /** Each meter that may be false, by itself: a suspect like a part. */
  get falseMeters(): readonly Hypothesis[] {
    return this.meters.map((meter) => ({ sites: [], logPrior: Math.log(FALSE_METER), meter }));
  }

  /** … and beside each single fault. */
  get withMeters(): readonly Hypothesis[] {
    const faults = this.singles.filter((s) => !s.sites[0].moved);
    return this.meters.flatMap((meter) =>
      faults.map((s): Hypothesis => ({ ...s, logPrior: s.logPrior + Math.log(FALSE_METER), meter })),
    );
  }

  /** Log of the chance that a fault, or two, is noticed: what the others' priors are raised by. */
  private logShown(sites: readonly Site[], sum: number, pairs: number, doubleShare: number): number {
    const { averages } = this;
    if (!averages) return 0;
    const single = sites.reduce((s, site, i) => s + site.weight * averages[i], 0) / sum;
    // Two go unnoticed where both do: half of (Σw·u)² without what falls to one owner.
    const hidden = new Map<string, number>();
    sites.forEach((site, i) => {
      const { moved, weight } = site;
      if (!moved) hidden.set(this.owners[i], (hidden.get(this.owners[i]) ?? 0) + weight * (1 - averages[i]));
    });
    const all = [...hidden.values()].reduce((s, w) => s + w, 0);
    const own = [...hidden.values()].reduce((s, w) => s + w * w, 0);
    const double = pairs > 0 ? 1 - (all * all - own) / 2 / pairs : 1;
    return Math.log((1 - doubleShare) * single + doubleShare * double);
  }

  /** True where two faults are possible at all. */
  get hasPairs(): boolean {
    return Number.isFinite(this.logPair) && new Set(this.owners).size > 1;
  }

  /** Two faults; null where both are of one part. */
  pair(i: number, k: number): Hypothesis | null {
    if (!this.canPair(i, k)) return null;
    const sites = [this.singles[i].sites[0], this.singles[k].sites[0]];
    const logPrior = this.logPairOf(i, k);
    return this.averages ? { sites, logPrior, average: this.averageOf(i, k) } : { sites, logPrior };
  }

  /** Log prior of two faults at once. */
  logPairOf(i: number, k: number): number {
    return this.logPair + this.logWeights[i] + this.logWeights[k] + Math.log(this.averageOf(i, k));
  }

  private averageOf(i: number, k: number): number {
    return this.averages ? 1 - (1 - this.averages[i]) * (1 - this.averages[k]) : 1;
  }

  /**
   * Log of the prior that goes with a repair of so many owners, of the hypotheses that ask for it: of one owner that of
   * all its single faults, of two that of every pair of theirs; those that were not worth keeping count as well.
   */
  logOf(hypotheses: readonly Hypothesis[], owners: number): number {
    if (owners === 0) return this.healthy.logPrior;
    if (owners === 1) {
      const alone = hypotheses.filter((h) => h.sites.length === 1 && !h.meter);
      return logSumExp((alone.length > 0 ? alone : hypotheses).map((h) => h.logPrior));
    }
    const [{ sites }] = hypotheses;
    const [one, two] = sites.map((site) => {
      const owner = this.nameOf(site);
      return this.owners.flatMap((o, i) => (o === owner ? [i] : []));
    });
    const pairs = one.flatMap((i) => two.map((k) => this.logPairOf(i, k)));
    // A fault and what it blew is likelier than two that came together by chance.
    return logSumExp([...pairs, ...hypotheses.filter((h) => h.logPriorAt).map((h) => h.logPrior)]);
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
