import { normalTail } from "../kernels/index.ts";
import { faultsAt } from "./cells.ts";
import type { FaultAt } from "./change.ts";
import type { Prior } from "./hypotheses.ts";
import type { Hypothesis } from "./integrator.ts";
import type { Prepared } from "./prepare.ts";
import { loadOf, Stress } from "./stress.ts";

/** A fuse blows at 1.35 times its rating, a part burns open at four times its power: half of them, log-normally. */
const BLOWS_AT = { current: 1.35, power: 4 } as const;
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
 * times the chance that it blows, besides being two independent faults.
 */
export function consequencesOf({ set, prior, meter }: Prepared): Consequence[] {
  const stress = new Stress(set, meter);
  const victims = set.network.branches.flatMap((branch, k) => {
    const site = prior.openSiteOf(k);
    return site >= 0 && loadOf(branch, branch.law, 0) ? [{ branch: k, site }] : [];
  });
  if (victims.length === 0) return [];
  return prior.singles.flatMap(({ sites, logPrior }, cause) => {
    const [site] = sites;
    const tried = site.value ? [0, 0.25, 0.5, 0.75, 1] : [0];
    const states = tried.map((t) => {
      const faults = faultsAt(sites, [t]);
      return { faults, amps: stress.amps(faults) };
    });
    return victims.flatMap((victim): Consequence[] => {
      if (prior.isSameOwner(cause, victim.site)) return [];
      const chance = (faults: readonly FaultAt[], amps: Float64Array | null) => {
        const load =
          amps && loadOf(set.network.branches[victim.branch], stress.lawOf(victim.branch, faults), amps[victim.branch]);
        return load && load.value > 0
          ? normalTail(Math.log(load.value / (load.rating * BLOWS_AT[load.of])) / BLOW_SPREAD)
          : 0;
      };
      if (!states.some(({ faults, amps }) => chance(faults, amps) > WORTH_A_THOUGHT)) return [];
      const chanceOf = (faults: readonly FaultAt[]) => chance(faults, stress.amps(faults));
      const independent = independentShare(prior, cause, victim.site);
      return [
        {
          cause,
          victim: victim.site,
          sites: [site, prior.singles[victim.site].sites[0]],
          logPrior,
          logPriorAt: (faults) => Math.log(chanceOf(faults.filter((f) => f.site === site)) + independent + 1e-300),
          chance: (fault) => chanceOf([fault]),
        },
      ];
    });
  });
}

/** Prior of both as independent faults, as a share of the cause's own prior. */
function independentShare(prior: Prior, cause: number, victim: number): number {
  const pair = prior.hasPairs ? prior.pair(cause, victim) : null;
  return pair ? Math.exp(pair.logPrior - prior.singles[cause].logPrior) : 0;
}
