import { buildNetwork, type Circuit, type Network } from "@hound/core/circuit";
import type { Configuration } from "@hound/core/configuration";
import { bridgeCandidates, type FaultAt } from "@hound/core/faults";
import {
  follow as followWith,
  type Hands,
  hiddenOf,
  type LookAsked,
  lookAt,
  type Outcome,
  ownersOf,
  type Way,
  type World,
} from "@hound/core/practice";
import { prepare, type RankProblem } from "@hound/core/rank";
import { meterData, type NumericReading, type Priors, type Reading, type Situation, takenSo } from "@hound/core/record";
import { drawCircuit, drawTolerances, FaultDrawer, type Random, seededRandom, takeOn } from "@hound/core/simulate";

export interface WorldOptions {
  /** The circuit that breaks; left out, a drawn one. */
  readonly circuit?: Circuit;
  /** How its parts fail; left out, as the tables say. */
  readonly habits?: Priors;
  readonly situation?: Situation;
  /** Nothing is wrong with it. */
  readonly isHealthy?: boolean;
  readonly doubleShare?: number;
}

export function drawWorld(random: Random, seed: number, options: WorldOptions = {}): World {
  const { circuit: own, habits = {}, situation, isHealthy = false, doubleShare = 0.02 } = options;
  for (;;) {
    const circuit = own ?? drawCircuit(7 + Math.floor(random.next() * 7), random);
    const prepared = prepare({ circuit, readings: [], situation, priors: { ...habits, healthy: 1e-6, doubleShare } });
    if (prepared.kind === "problem") continue;
    const faults: readonly FaultAt[] = isHealthy ? [] : new FaultDrawer(prepared).draw(random);
    const network = buildNetwork(circuit);
    const world = { circuit, network, faults, owners: ownersOf(hiddenOf({ network, faults })), situation, seed };
    if (new Bench(world).read({ quantity: "voltage", from: circuit.parts[0].from, value: 0 }, {})) return world;
  }
}

/** The bench that a world is: what a meter and an eye find there, whatever was done to the circuit meanwhile. */
export class Bench implements Hands {
  minutes = 0;
  private readonly random: Random;
  private actual: Network;

  /** @param slips share of the readings that are mis-taken */
  constructor(
    private readonly world: World,
    private readonly slips = 0,
  ) {
    this.random = seededRandom(world.seed);
    this.actual = drawTolerances(world.network, this.random);
  }

  read(point: NumericReading, standing: Configuration, minutes = 0): NumericReading | null {
    const { faults, network } = this.world;
    const options = { meter: meterData({}), bridges: bridgeCandidates(network), blunder: this.slips, counts: 6000 };
    const taken = takeOn(this.actual, faults, [takenSo(point, standing)], options, this.random);
    if (!taken) return null;
    this.minutes += minutes;
    this.actual = taken.network;
    return taken.readings[0].reading;
  }

  look({ kind, part }: LookAsked, standing: Configuration, minutes = 0): Reading | null {
    this.minutes += minutes;
    // An eye is mistaken as often as this hand.
    const sight = { ...this.world, priors: { blunder: this.slips } };
    return lookAt(sight, this.world.faults, { part, alone: kind === "alone" }, standing, this.random);
  }

  swap(_: string, minutes: number) {
    this.minutes += minutes;
  }
}

/** Follows a way on a bench of its own. @param slips share of the readings that are mis-taken */
export function follow(
  world: World,
  { slips = 0, ...way }: Way & { readonly slips?: number } = {},
): Outcome | RankProblem {
  return followWith(world, new Bench(world, slips), way);
}
