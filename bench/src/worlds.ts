import { buildNetwork, type Circuit, type Network } from "@hound/core/circuit";
import { afterChange, type Configuration } from "@hound/core/configuration";
import { bridgeCandidates, type FaultAt } from "@hound/core/faults";
import { judge, type Verdict } from "@hound/core/judgement";
import { type Measurement, type Plan, planMeasurements, type School, type Suggestion } from "@hound/core/plan";
import {
  type Observation,
  prepare,
  type RankInput,
  type RankProblem,
  type Repairs,
  weighToEnd,
} from "@hound/core/rank";
import { meterData, type NumericReading, type Priors, type Reading, type Situation, takenSo } from "@hound/core/record";
import { drawCircuit, drawTolerances, FaultDrawer, type Random, seededRandom, takeOn } from "@hound/core/simulate";
import { row } from "./timing.ts";

const MOST_STEPS = 25;

/** A circuit on the bench, broken or not: its parts as they are, for as long as the job lasts. */
export interface World {
  readonly circuit: Circuit;
  readonly network: Network;
  readonly faults: readonly FaultAt[];
  /** Parts and bridges that are to be changed, by name. */
  readonly owners: readonly string[];
  readonly situation: Situation | undefined;
  readonly seed: number;
}

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
    const faults = isHealthy ? [] : new FaultDrawer(prepared).draw(random);
    const owners = [...new Set(faults.map((f) => prepared.prior.nameOf(f.site)))].sort();
    const world = { circuit, network: buildNetwork(circuit), faults, owners, situation, seed };
    if (new Bench(world).read({ quantity: "voltage", from: circuit.parts[0].from, value: 0 }, {})) return world;
  }
}

/** The bench that a world is: what a meter and an eye find there, whatever was done to the circuit meanwhile. */
export class Bench {
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

  read(point: NumericReading, standing: Configuration): NumericReading | null {
    const { faults, network } = this.world;
    const options = { meter: meterData({}), bridges: bridgeCandidates(network), blunder: this.slips, counts: 6000 };
    const taken = takeOn(this.actual, faults, [takenSo(point, standing)], options, this.random);
    if (!taken) return null;
    this.actual = taken.network;
    return taken.readings[0].reading;
  }

  /** What a look finds, drawn as likely as it is. */
  look(input: RankInput, measurement: Measurement, standing: Configuration): Reading | null {
    if (!("part" in measurement)) return null;
    const kind = this.world.circuit.parts.find((p) => p.designator === measurement.part)?.kind;
    const alone = measurement.kind === "alone" ? { alone: true } : {};
    const looks = (ANSWERS[kind as keyof typeof ANSWERS] ?? []).map((seen) =>
      takenSo({ quantity: "observation", part: measurement.part, seen, ...alone } as Observation, standing),
    );
    const prepared = prepare({ ...input, readings: [] }, [], undefined, looks);
    if (prepared.kind === "problem" || !prepared.observations) return null;
    const { y } = prepared.integrator.predictor.predict(this.world.faults, "values");
    let left = this.random.next();
    for (let i = 0; i < looks.length; i += 1) {
      left -= prepared.observations.chanceOf(i, y, this.world.faults);
      if (left < 0) return looks[i];
    }
    return looks[0] ?? null;
  }
}

const ANSWERS = {
  lamp: ["dark", "dim", "lit", "bright"],
  fuse: ["blown", "intact"],
  coil: ["silent", "pulls"],
  load: ["cold", "hot"],
} as const;

/** Which of what is on offer a way of going about it takes; null where nothing is left. */
export type Choose = (
  plan: Plan,
  left: readonly Suggestion[],
  random: Random,
  world: World,
  taken: readonly Reading[],
) => Suggestion | null;

export interface Outcome {
  readonly minutes: number;
  readonly count: number;
  readonly verdict: Verdict["kind"];
  /** Of what is to be changed, as the leading repair has it: 1 all of it and nothing else, ½ one of two. */
  readonly right: number;
  readonly told: number | null;
  readonly readings: readonly Reading[];
  /** What was believed at the end. */
  readonly believed: { readonly repairs: Repairs["shares"]; readonly besides: number | null };
}

export interface Way {
  readonly school?: School;
  /** Left out, what the school offers first. */
  readonly choose?: Choose;
  readonly habits?: Priors;
  readonly slips?: number;
}

/** Takes what is proposed, looks, lifts and swaps included, until the job is settled or nothing is offered any more. */
export function follow(
  world: World,
  { school = "information", choose, habits, slips = 0 }: Way = {},
): Outcome | RankProblem {
  const bench = new Bench(world, slips);
  const random = seededRandom(world.seed + 7);
  const readings: Reading[] = [];
  let standing: Configuration = {};
  let minutes = 0;
  let told: number | null = null;
  for (let count = 0; ; count += 1) {
    const { circuit, situation } = world;
    const input: RankInput = { circuit, readings, standing, situation, ...(habits ? { habits } : {}) };
    const weighing = weighToEnd(input);
    if (weighing.kind === "problem") return weighing;
    const plan = planMeasurements(input, weighing, { school, count: 400 });
    if (!plan) return { kind: "problem", what: "circuit", message: "no plan" };
    const { verdict, next: proposed, toSettle } = judge(input, weighing, plan, seededRandom(1));
    if (count === 0) told = toSettle;
    const isOver = verdict.kind === "settled" || verdict.kind === "healthy" || count >= MOST_STEPS;
    const next = isOver ? null : (choose ?? first)(plan, proposed, random, world, readings);
    if (process.env.HOUND_TRACE) trace(count, next, verdict, plan);
    if (!next) {
      const repair = verdict.kind === "settled" ? verdict.repair : plan.repairs.shares[0].repair;
      const besides = verdict.kind === "settled" ? verdict.besides : null;
      const right = rightOf(world, namesOf(repair));
      const believed = { repairs: plan.repairs.shares, besides };
      return { minutes, count, verdict: verdict.kind, right, told, readings, believed };
    }
    const { measurement } = next;
    minutes += measurement.minutes;
    if (measurement.kind === "swap") {
      standing = afterChange(standing, { part: measurement.part, change: "swapped" });
      continue;
    }
    const reading =
      "reading" in measurement ? bench.read(measurement.reading, standing) : bench.look(input, measurement, standing);
    if (!reading)
      return { kind: "problem", what: "circuit", message: `nothing shown for ${JSON.stringify(measurement)}` };
    readings.push(reading);
  }
}

const first: Choose = (_, left) => left[0] ?? null;

export function namesOf(repair: Repairs["shares"][number]["repair"]): string[] {
  return repair.map((s) => ("part" in s ? s.part : `bridge ${s.nodes.join("~")}`)).sort();
}

function rightOf({ owners, network }: World, repair: readonly string[]): number {
  const bridges = bridgeCandidates(network).map((pair) => pair.map((n) => network.nodes[n]));
  const names = owners.map((owner) => {
    const at = /^bridge (\d+)$/.exec(owner);
    return at ? `bridge ${bridges[Number(at[1])].join("~")}` : owner;
  });
  if (!repair.every((r) => names.includes(r))) return 0;
  if (repair.length === names.length) return 1;
  return repair.length > 0 ? 0.5 : 0;
}

function trace(count: number, next: Suggestion | null, verdict: Verdict, plan: Plan) {
  const m = next?.measurement;
  const what = !m ? "" : "reading" in m ? JSON.stringify({ ...m.reading, value: undefined }) : `${m.kind} ${m.part}`;
  const worth = next ? `${next.informationBits.toFixed(2)} bits ${next.settles.toFixed(2)}` : "";
  const leads = plan.repairs.shares
    .slice(0, 4)
    .map((r) => `${namesOf(r.repair).join("&")} ${r.probability.toFixed(3)}`);
  row(`  ${count}`, what, worth, `${verdict.kind} ${leads.join(", ")}`);
}
