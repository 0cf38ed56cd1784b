import { type Branch, type Law, lawOf, rowOf, type Setting, wattsOf } from "../../circuit/index.ts";
import type { FaultAt, PriorData } from "../../faults/index.ts";
import { normalTail } from "../../kernels/index.ts";
import { AS_DRAWN, ownStateOf, type ProbeSet } from "../../measure/index.ts";
import type { NumericReading, Reading, Seen } from "../../record/index.ts";
import { operatingPoint } from "../../solve/index.ts";
import { chanceOfBlowing } from "../hypotheses/consequences.ts";
import { faultOf } from "../prediction/change.ts";
import { loadOf } from "../prediction/stress.ts";
import { LOOKS } from "./looks.ts";

export type Observation = Extract<Reading, { quantity: "observation" }>;

/** How softly one look of a lamp turns into the next, of the logarithm of its power. */
const LOOK_SPREAD = 0.35;
/** A winding pulls in, or a motor turns, from this share of its power on. */
const PULLS = 0.4;
/** Cold below this share of the rating, hot over half of it, burnt over twice of it. */
const COLD = 0.1;
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

interface Watched {
  readonly what: Observation;
  readonly branch: number;
  readonly setting: Setting;
  /** Watts of a good part in the healthy circuit, in the setting in which it has most. */
  readonly healthyWatts: number;
}

/** What the eye and the finger found, as likelihoods of a faulted network. Amperes come from the probes after `first`. */
export class Observations {
  private readonly seen: readonly Watched[];
  private readonly supply: number;
  /** Amperes of each part by itself where it and the supply are good; NaN until asked for. */
  private readonly goodAlone: Float64Array;

  /** @param told how many of them were made; what comes after them might be */
  constructor(
    private readonly set: ProbeSet,
    private readonly first: number,
    observations: readonly Observation[],
    private readonly priors: PriorData,
    private readonly told = observations.length,
  ) {
    const { branches } = set.network;
    this.supply = branches.findIndex((b) => b.kind === "supply");
    this.goodAlone = new Float64Array(observations.length).fill(Number.NaN);
    this.seen = observations.map((what, i): Watched => {
      const branch = branches.findIndex((b) => b.name === what.part || b.part.designator === what.part);
      const watts = set.settings.map(({ ports, setting }) =>
        setting.power === "on" ? wattsOf(ports.laws[branch], ports.q[branch]) : 0,
      );
      const { setting } = set.settings[set.probes[first + i].setting];
      return { what, branch, setting, healthyWatts: Math.max(...watts) };
    });
  }

  get count(): number {
    return this.seen.length;
  }

  /** How many were made. */
  get toldCount(): number {
    return this.told;
  }

  /** Σ log likelihood of all observations, given the amperes `y` predicted under `faults`. */
  logLikelihood(y: Float64Array, faults: readonly FaultAt[]): number {
    let sum = 0;
    for (let i = 0; i < this.told; i += 1) sum += Math.log(this.chanceOf(i, y, faults));
    return sum;
  }

  /** Probability of one of them. */
  chanceOf(i: number, y: Float64Array, faults: readonly FaultAt[]): number {
    const watched = this.seen[i];
    const law = watched.what.alone ? this.lawAlone(watched.branch, watched.what, faults) : this.lawIn(watched, faults);
    const amps = watched.what.alone ? this.ampsAlone(i, law, faults) : y[this.first + i];
    // An eye is mistaken as often as a hand.
    const { blunder } = this.priors;
    return (1 - blunder) * this.likelihood(watched, law, amps, faults) + blunder / 2;
  }

  /** Adds to each of those made the probability that the eye was mistaken, times a share. */
  addMistaken(share: number, y: Float64Array, faults: readonly FaultAt[], sums: Float64Array) {
    for (let i = 0; i < this.told; i += 1) sums[i] += (share * this.priors.blunder) / 2 / this.chanceOf(i, y, faults);
  }

  private lawIn({ branch, setting }: Watched, faults: readonly FaultAt[]): Law {
    const fault = faults.find((f) => f.site.branch === branch);
    return lawOf(this.set.network.branches[branch], setting, fault ? faultOf(fault) : null);
  }

  /** What a part is by itself: as it stands then, wherever its leads are. */
  private lawAlone(branch: number, { state }: Observation, faults: readonly FaultAt[]): Law {
    const part = this.set.network.branches[branch];
    const fault = faults.find((f) => f.site.branch === branch && !f.site.moved);
    const own = ownStateOf(state ?? {}, part.part.designator);
    return lawOf(part, { ...AS_DRAWN, state: own }, fault ? faultOf(fault) : null);
  }

  /** Amperes through a part with the supply across it, and nothing else: the same wherever both are good. */
  private ampsAlone(i: number, law: Law, faults: readonly FaultAt[]): number {
    const { branch, what } = this.seen[i];
    if (this.supply < 0) return 0;
    if (faults.some(({ site }) => site.branch === branch || site.branch === this.supply))
      return this.solvedAlone(law, what, faults);
    if (Number.isNaN(this.goodAlone[i])) this.goodAlone[i] = this.solvedAlone(law, what, faults);
    return this.goodAlone[i];
  }

  private solvedAlone(law: Law, what: Observation, faults: readonly FaultAt[]): number {
    const topology = { nodeCount: 2, reference: 0, from: Int32Array.of(1, 1), to: Int32Array.of(0, 0) };
    const point = operatingPoint(topology, [this.lawAlone(this.supply, what, faults), law]);
    return point.kind === "solved" ? point.amps[1] : 0;
  }

  private likelihood(watched: Watched, law: Law, amps: number, faults: readonly FaultAt[]): number {
    const { branch, what, healthyWatts, setting } = watched;
    const own = this.set.network.branches[branch];
    const { part, kind } = own;
    const watts = wattsOf(law, amps);
    const isOpen = law.kind === "open";
    const rating = part.powerRating ?? healthyWatts;
    const below = (share: number, spread: number) => {
      if (watts <= 0) return 1;
      return rating > 0 ? normalTail(Math.log((share * rating) / watts) / spread) : 0;
    };
    const look = (share: number) => below(share, LOOK_SPREAD);
    switch (doingOf(what.seen, kind)) {
      case "dark":
        return look(LOOKS.dark);
      case "dim":
        return look(LOOKS.dim) - look(LOOKS.dark);
      case "lit":
        return look(LOOKS.lit) - look(LOOKS.dim);
      case "bright":
        return 1 - look(LOOKS.lit);
      case "shines":
        return 1 - look(LOOKS.dark);
      case "silent":
        return look(PULLS);
      case "pulls":
        return 1 - look(PULLS);
      case "cold":
        return below(COLD, HEAT_SPREAD);
      case "warm":
        return 1 - below(COLD, HEAT_SPREAD);
      case "hot":
        return part.powerRating === undefined && rowOf(kind).works !== "warm" ? 1 : 1 - below(HOT, HEAT_SPREAD);
      case "blown":
        return isOpen ? 1 : this.isReplaced(watched) ? blownAgain(own, law, amps) : 0;
      case "intact":
        return isOpen ? 0 : this.isReplaced(watched) ? 1 - blownAgain(own, law, amps) : 1;
      case "burnt": {
        if (kind === "supply") return 1;
        const now = part.powerRating === undefined ? 0.02 : 1 - below(BURNT, HEAT_SPREAD);
        return isOpen ? BURNT_WHEN_OPEN : now;
      }
      case "switches":
        return this.switches(branch, setting, faults) ? 1 : 0;
      case "nothing":
        return 1;
    }
  }

  /** A known-good one stands in its place: a fault of the old one is no longer there, but what blew it may be. */
  private isReplaced({ branch, setting }: Watched): boolean {
    return setting.state.swapped?.includes(this.set.network.branches[branch].part.designator) ?? false;
  }

  /** A switch works that opens and closes. */
  private switches(branch: number, { power, state }: Setting, faults: readonly FaultAt[]): boolean {
    const own = this.set.network.branches[branch];
    const fault = faults.find((f) => f.site.branch === branch);
    const lawAt = (position: "open" | "closed") => {
      const moved = { ...state, switches: { ...state.switches, [own.part.designator]: position } };
      return lawOf(own, { power, state: moved }, fault ? faultOf(fault) : null);
    };
    return lawAt("open").kind === "open" && lawAt("closed").kind !== "open";
  }
}

type Doing = Exclude<Seen, "runs" | "works" | "loose"> | "shines" | "warm" | "switches" | "nothing";

/** What a look at a part of a kind comes to: it works where it does what its kind is for. */
function doingOf(seen: Seen, kind: Branch["kind"]): Doing {
  if (seen === "runs") return "pulls";
  if (seen === "loose") return "nothing";
  const { works } = rowOf(kind);
  if (seen === "silent" && works === "shines") return "dark";
  return seen === "works" ? (works ?? "nothing") : seen;
}

/** Chance that a new part blew too, at what runs through it now. */
function blownAgain(branch: Branch, law: Law, amps: number): number {
  const load = loadOf(branch, law, amps);
  return load ? chanceOfBlowing(load) : 0;
}
