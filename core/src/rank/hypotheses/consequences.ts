import type { FaultAt } from "../../faults/index.ts";
import { normalTail } from "../../kernels/index.ts";
import type { Hypothesis } from "../evidence/integrator.ts";
import { loadOf, Stress } from "../prediction/stress.ts";
import type { Prepared } from "../prepare.ts";
import { faultsAt } from "./cells.ts";
import type { Prior } from "./prior.ts";

/** A fuse blows at 1.35 times its rating, a part burns open at four times its power: half of them, log-normally. */
export const BLOWS_AT = { current: 1.35, power: 4 } as const;
const BLOW_SPREAD = 0.2;
/** Consequences less likely than this are no hypotheses of their own. */
const WORTH_A_THOUGHT = 1e-4;

export interface Consequence extends Hypothesis {
  /** Numbers of the two sites among the single hypotheses: cause, then what it opened. */
  readonly cause: number;
  readonly victim: number;
  /** How likely the cause, at its value, opens the victim. */
  readonly chance: (cause: FaultAt) => number;
}

/**
 * “A fault, and what it blew”: where a fault overloads a rated fuse or part, both together are as likely as the fault
 * times the rise of the chance that it blows over that in the healthy circuit, besides being two independent faults.
 */
export function consequencesOf({ set, prior, pairs }: Prepared): Consequence[] {
  const stress = new Stress(set, pairs);
  const victims = set.network.branches.flatMap((branch, k) => {
    const site = prior.openSiteOf(k);
    return site >= 0 && loadOf(branch, branch.law, 0) ? [{ branch: k, site }] : [];
  });
  if (victims.length === 0) return [];
  const branches = victims.map((v) => v.branch);
  /** Chance that each victim blows in the setting that is hardest on it. */
  const chances = (faults: readonly FaultAt[]): number[] => {
    const most = victims.map(() => 0);
    for (const setting of stress.powered) {
      const amps = stress.amps(faults, setting, branches);
      victims.forEach(({ branch }, v) => {
        const law = stress.lawOf(branch, faults, setting);
        const load = amps && loadOf(set.network.branches[branch], law, amps[v]);
        if (load) most[v] = Math.max(most[v], chanceOfBlowing(load));
      });
    }
    return most;
  };
  const healthy = chances([]);
  return prior.singles.flatMap(({ sites, logPrior, average }, cause) => {
    const [site] = sites;
    if (site.moved) return [];
    const tried = (site.value ? [0, 0.25, 0.5, 0.75, 1] : [0]).map((t) => chances(faultsAt(sites, [t])));
    return victims.flatMap((victim, v): Consequence[] => {
      if (prior.isSameOwner(cause, victim.site)) return [];
      if (!tried.some((chance) => chance[v] - healthy[v] > WORTH_A_THOUGHT)) return [];
      const rise = (faults: readonly FaultAt[]) => Math.max(0, chances(faults)[v] - healthy[v]);
      const independent = independentShare(prior, cause, victim.site);
      return [
        {
          cause,
          victim: victim.site,
          sites: [site, prior.singles[victim.site].sites[0]],
          logPrior,
          ...(average === undefined ? {} : { average }),
          logPriorAt: (faults) => Math.log(rise(faults.filter((f) => f.site === site)) + independent + 1e-300),
          chance: (fault) => rise([fault]),
        },
      ];
    });
  });
}

/** Chance that an overloaded part opens: log-normal about the load that opens half of them. */
export function chanceOfBlowing({ of, value, rating }: NonNullable<ReturnType<typeof loadOf>>): number {
  return value > 0 ? normalTail(Math.log(value / (rating * BLOWS_AT[of])) / BLOW_SPREAD) : 0;
}

/** Prior of both as independent faults, as a share of the cause's own prior. */
function independentShare(prior: Prior, cause: number, victim: number): number {
  const pair = prior.hasPairs ? prior.pair(cause, victim) : null;
  return pair ? Math.exp(pair.logPrior - prior.singles[cause].logPrior) : 0;
}
