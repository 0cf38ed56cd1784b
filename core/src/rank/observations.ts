import { type Branch, FILAMENT_EXPONENT, type Law } from "../circuit/index.ts";
import { faultedLaw, type PriorData } from "../faults/index.ts";
import { normalTail } from "../kernels/index.ts";
import type { ProbeSet } from "../measure/index.ts";
import type { NumericReading, Reading, Seen } from "../record/index.ts";
import { operatingPoint } from "../solve/index.ts";
import type { FaultAt } from "./change.ts";

type Observation = Extract<Reading, { quantity: "observation" }>;

/** A lamp's look by its power over its rating: where one look turns into the next, and how softly (of the logarithm). */
const LOOKS = { dark: 0.02, dim: 0.4, lit: 1.3 } as const;
const LOOK_SPREAD = 0.35;
/** Hot over half the rating, burnt over twice of it. */
const HOT = 0.5;
const BURNT = 2;
const HEAT_SPREAD = 0.5;
/** Probability that a part which failed open looks burnt, when what overloaded it is gone. */
const BURNT_WHEN_OPEN = 0.3;

/** The current that decides what is seen: read by no meter, so without burden. */
export function pointOf(observation: Observation, branchName: string): NumericReading {
  return {
    quantity: "current",
    through: branchName,
    value: 0,
    ...(observation.state ? { state: observation.state } : {}),
  };
}

/** What the eye and the finger found, as likelihoods of a faulted network. Amperes come from the probes after `first`. */
export class Observations {
  private readonly seen: readonly {
    readonly what: Observation;
    readonly branch: number;
    readonly healthyWatts: number;
  }[];

  constructor(
    private readonly set: ProbeSet,
    private readonly first: number,
    observations: readonly Observation[],
    private readonly priors: PriorData,
  ) {
    this.seen = observations.map((what, i) => {
      const branch = set.network.branches.findIndex((b) => b.name === what.part || b.part.designator === what.part);
      const law = set.network.branches[branch].law;
      return { what, branch, healthyWatts: wattsOf(law, set.probes[first + i].y) };
    });
  }

  get count(): number {
    return this.seen.length;
  }

  /** Σ log likelihood of all observations, given the amperes `y` predicted under `faults`. */
  logLikelihood(y: Float64Array, faults: readonly FaultAt[]): number {
    let sum = 0;
    for (let i = 0; i < this.seen.length; i += 1) {
      const { what, branch, healthyWatts } = this.seen[i];
      const part = this.set.network.branches[branch];
      const fault = faults.find((f) => f.site.branch === branch);
      const law = fault ? faultedLaw(part, fault.site.mode, fault.value) : part.law;
      const amps = what.alone ? this.aloneAmps(law, faults) : y[this.first + i];
      const p = likelihood(what.seen, part, law, wattsOf(law, amps), healthyWatts);
      // An eye is mistaken as often as a hand.
      sum += Math.log((1 - this.priors.blunder) * p + this.priors.blunder / 2);
    }
    return sum;
  }

  /** The part and the supply, nothing else. */
  private aloneAmps(law: Law, faults: readonly FaultAt[]): number {
    const { branches } = this.set.network;
    const k = branches.findIndex((b) => b.kind === "supply");
    if (k < 0) return 0;
    const fault = faults.find((f) => f.site.branch === k);
    const supply = fault ? faultedLaw(branches[k], fault.site.mode, fault.value) : branches[k].law;
    const topology = { nodeCount: 2, reference: 0, from: Int32Array.of(1, 1), to: Int32Array.of(0, 0) };
    const point = operatingPoint(topology, [supply, law]);
    return point.kind === "solved" ? point.amps[1] : 0;
  }
}

/** Watts that a branch takes in at a current; an open takes none. */
function wattsOf(law: Law, amps: number): number {
  switch (law.kind) {
    case "open":
      return 0;
    case "resistance":
      return amps * amps * law.ohms;
    case "supply":
      return Math.abs(amps * law.volts);
    case "filament": {
      // V = hot·(V/V₀)^x·i, solved for V; below the cold resistance Ohm's law holds.
      const lit = ((law.hot * Math.abs(amps)) / law.volts ** FILAMENT_EXPONENT) ** (1 / (1 - FILAMENT_EXPONENT));
      return Math.max(lit * Math.abs(amps), amps * amps * law.cold);
    }
    default:
      return law satisfies never;
  }
}

function likelihood(seen: Seen, { part, kind }: Branch, law: Law, watts: number, healthyWatts: number): number {
  const below = (share: number, of: number, spread: number) =>
    watts <= 0 ? 1 : normalTail(Math.log((share * of) / watts) / spread);
  const isOpen = law.kind === "open";
  const lampRating = part.powerRating ?? healthyWatts;
  const look = (share: number) => below(share, lampRating, LOOK_SPREAD);
  switch (seen) {
    case "dark":
      return look(LOOKS.dark);
    case "dim":
      return look(LOOKS.dim) - look(LOOKS.dark);
    case "lit":
      return look(LOOKS.lit) - look(LOOKS.dim);
    case "bright":
      return 1 - look(LOOKS.lit);
    case "blown":
      return isOpen ? 1 : 0;
    case "intact":
      return isOpen ? 0 : 1;
    case "hot":
      return part.powerRating === undefined ? 1 : 1 - below(HOT, part.powerRating, HEAT_SPREAD);
    case "burnt": {
      if (kind === "supply") return 1;
      const now = part.powerRating === undefined ? 0.02 : 1 - below(BURNT, part.powerRating, HEAT_SPREAD);
      return isOpen ? BURNT_WHEN_OPEN : now;
    }
    case "loose":
      return 1;
    default:
      return seen satisfies never;
  }
}
