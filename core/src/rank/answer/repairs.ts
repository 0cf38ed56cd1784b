import type { Site } from "../../faults/index.ts";
import { keyOfStep, type MendStep } from "../../record/index.ts";
import { logSumExp } from "../evidence/gaussian.ts";
import { isHealthy } from "../evidence/integrator.ts";
import { centreOf, faultsAt } from "../hypotheses/cells.ts";
import type { Prepared } from "../prepare.ts";
import type { Weighed } from "../ranking.ts";

/** One thing to be done: a part to be replaced (or its joint remade), a bridge to be cleared. */
export type RepairStep = MendStep;

/** Whether a repair has a step in it. */
export function hasStep(repair: readonly RepairStep[], step: RepairStep): boolean {
  return repair.some((s) => JSON.stringify(s) === JSON.stringify(step));
}

/**
 * What would put it right. Modes of one part count together, and so does a second fault beside it that nothing read speaks
 * for.
 */
export interface RepairShare {
  /** Nothing to be done where it is empty. */
  readonly repair: readonly RepairStep[];
  /** Probability that this is to be changed, whatever else is. */
  readonly probability: number;
  /** Probability that just this is, and nothing more that anything speaks for. */
  readonly alone: number;
  /** Where it is to be changed, the chance that something else is wrong too, be it that nothing read speaks for it yet. */
  readonly besides: number;
  /** log of how many times better the readings go with it than with nothing wrong, slips included, whatever the priors. */
  readonly evidence: number;
}

/** Repairs and, for each hypothesis, the number of the one it asks for; most probable first. */
export interface Repairs {
  readonly shares: readonly RepairShare[];
  readonly ofHypothesis: Int32Array;
}

/** A hypothesis that explains the readings less than so many times better than a simpler one is not spoken for. */
export const SPOKEN_FOR = 3;

export function repairsOf({ prior, set }: Prepared, hypotheses: readonly Weighed[]): Repairs {
  const alone = new Map<Site, number>();
  for (const h of hypotheses)
    if (h.hypothesis.sites.length === 1 && !h.hypothesis.meter) alone.set(h.hypothesis.sites[0], evidenceOf(h));
  const found = new Map<string, { repair: RepairStep[]; probability: number; only: number; members: number[] }>();
  hypotheses.forEach((weighed, h) => {
    const sites = neededSites(weighed, alone);
    const owners = sites.map((site) => prior.nameOf(site)).sort();
    const key = owners.join(" & ");
    const only = weighed.hypothesis.sites.length === sites.length ? weighed.probability : 0;
    const known = found.get(key);
    if (known) {
      known.probability += weighed.probability;
      known.only += only;
      known.members.push(h);
      return;
    }
    const steps = sites.map((site): RepairStep => {
      if (site.branch >= 0) return { part: set.network.branches[site.branch].part.designator };
      const [a, b] = set.bridges[site.bridge];
      return { nodes: [set.network.nodes[a], set.network.nodes[b]] };
    });
    found.set(key, { repair: steps, probability: weighed.probability, only, members: [h] });
  });
  const groups = [...found.values()].map((group) => ({ ...group, owners: namesOf(group.repair) }));
  const healthy = hypotheses.find((h) => isHealthy(h.hypothesis));
  const none = healthy ? evidenceOf(healthy) : Number.NEGATIVE_INFINITY;
  const logEvidence = groups.map(({ members, repair }) => {
    const mass = logSumExp(members.map((h) => hypotheses[h].logMass));
    return (
      mass -
      prior.logOf(
        members.map((h) => hypotheses[h].hypothesis),
        repair.length,
      ) -
      none
    );
  });
  const withOwner = new Map<string, number[]>();
  groups.forEach(({ owners }, k) => {
    for (const owner of owners) {
      const known = withOwner.get(owner) ?? [];
      withOwner.set(owner, known);
      known.push(k);
    }
  });
  const sorted = groups
    .map((group) => {
      const [first, ...others] = group.owners;
      const more = (withOwner.get(first) ?? []).filter((k) => others.every((o) => groups[k].owners.includes(o)));
      const isNothing = group.repair.length === 0;
      const total = more.reduce((sum, k) => sum + groups[k].probability, 0);
      const holds = isNothing ? group.probability : total;
      return {
        repair: group.repair,
        members: group.members,
        alone: group.probability,
        besides: holds > 0 ? Math.max(0, 1 - group.only / holds) : 0,
        probability: isNothing ? group.probability : Math.min(1, total),
        evidence: isNothing ? 0 : Math.max(...more.map((k) => logEvidence[k])),
      };
    })
    .sort((a, b) => b.probability - a.probability || a.repair.length - b.repair.length);
  const ofHypothesis = new Int32Array(hypotheses.length);
  sorted.forEach(({ members }, number) => {
    for (const h of members) ofHypothesis[h] = number;
  });
  return { shares: sorted.map(({ members: _, ...share }) => share), ofHypothesis };
}

function namesOf(repair: readonly RepairStep[]): string[] {
  return repair.map(keyOfStep);
}

/** log of how well a hypothesis explains what was read and seen, whatever its prior. */
export function evidenceOf({ logMass, hypothesis }: Weighed): number {
  return logMass - hypothesis.logPrior;
}

/** The same of what was read and seen alone: whatever a complaint makes of the values is taken out again. */
export function evidenceOfReadings({ prior }: Prepared, weighed: Weighed): number {
  const { hypothesis, cells } = weighed;
  const { sites, average } = hypothesis;
  const { noticed } = prior;
  if (!noticed || average === undefined || sites.length === 0) return evidenceOf(weighed);
  const total = logSumExp(cells.map((c) => c.logMass));
  const plain = cells.reduce((sum, cell) => {
    const share = Math.exp(cell.logMass - total);
    return share > 1e-4 ? sum + (share * average) / noticed.weightOf(faultsAt(sites, centreOf(cell))) : sum;
  }, 0);
  return evidenceOf(weighed) + Math.log(plain);
}

/** Of two independent faults only the one that is spoken for, where the other adds nothing to what it explains. */
function neededSites(weighed: Weighed, alone: ReadonlyMap<Site, number>): readonly Site[] {
  const { sites } = weighed.hypothesis;
  if (sites.length < 2 || weighed.isConsequence) return sites;
  const evidence = (site: Site) => alone.get(site) ?? Number.NEGATIVE_INFINITY;
  const [one, two] = sites;
  const better = evidence(one) >= evidence(two) ? one : two;
  return evidenceOf(weighed) <= evidence(better) + Math.log(SPOKEN_FOR) ? [better] : sites;
}
