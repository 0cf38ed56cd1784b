import { buildNetwork, type Circuit } from "@hound/core/circuit";
import { bridgeCandidates, type FaultAt } from "@hound/core/faults";
import { type Measurement, measurementsOn, planMeasurements, readingsToSettle, verdictOf } from "@hound/core/plan";
import { type Observation, prepare, type RankInput, type RankProblem, weighToEnd } from "@hound/core/rank";
import { meterData, type NumericReading, type Priors, type Reading, takenSo } from "@hound/core/record";
import { drawCircuit, FaultDrawer, type Random, seededRandom, takeReadings } from "@hound/core/simulate";
import { row } from "./timing.ts";

const MOST_STEPS = 25;

/** A broken circuit on the bench, with all that a meter would show of it. */
export interface World {
  readonly circuit: Circuit;
  readonly faults: readonly FaultAt[];
  readonly owners: readonly string[];
  /** What the meter shows wherever it can be put without a change, by the reading without its value. */
  readonly shown: ReadonlyMap<string, NumericReading>;
  readonly seed: number;
}

export const keyOf = (reading: object) =>
  JSON.stringify({ ...reading, value: 0, plusMinus: undefined, beyond: undefined });

/** @param given the circuit that breaks, and how its parts fail; left out, a drawn one that fails as the tables say */
export function drawWorld(
  random: Random,
  seed: number,
  { circuit: own, habits = {} }: { readonly circuit?: Circuit; readonly habits?: Priors } = {},
): World {
  for (;;) {
    const circuit = own ?? drawCircuit(7 + Math.floor(random.next() * 7), random);
    const network = buildNetwork(circuit);
    const prepared = prepare({ circuit, readings: [], priors: { ...habits, healthy: 1e-6, doubleShare: 0.02 } });
    if (prepared.kind === "problem") continue;
    const faults = new FaultDrawer(prepared).draw(random);
    const points = measurementsOn(network).flatMap((m) => ("reading" in m ? [m.reading] : []));
    const options = { meter: meterData({}), bridges: bridgeCandidates(network), blunder: 0, counts: 6000 };
    const taken = takeReadings(network, faults, points, options, seededRandom(seed));
    if (!taken) continue;
    const owners = [...new Set(faults.map((f) => prepared.prior.nameOf(f.site)))].sort();
    return { circuit, faults, owners, shown: new Map(taken.map((t, i) => [keyOf(points[i]), t.reading])), seed };
  }
}

/** What a look finds, drawn as likely as it is. */
function look(world: World, input: RankInput, measurement: Measurement, random: Random): Reading | null {
  if (!("part" in measurement)) return null;
  const answers = ["dark", "dim", "lit", "bright", "blown", "intact", "silent", "pulls", "cold", "hot"] as const;
  const kind = world.circuit.parts.find((p) => p.designator === measurement.part)?.kind;
  const own = {
    lamp: answers.slice(0, 4),
    fuse: answers.slice(4, 6),
    coil: answers.slice(6, 8),
    load: answers.slice(8),
  };
  const alone = measurement.kind === "alone" ? { alone: true } : {};
  const looks = (own[kind as "lamp"] ?? []).map(
    (seen): Observation => ({ quantity: "observation", part: measurement.part, seen, ...alone }),
  );
  const prepared = prepare({ ...input, readings: [] }, [], undefined, looks);
  if (prepared.kind === "problem" || !prepared.observations) return null;
  const { predictor } = prepared.integrator;
  const { y } = predictor.predict(world.faults, "values");
  const { observations } = prepared;
  let left = random.next();
  for (let i = 0; i < looks.length; i += 1) {
    left -= observations.chanceOf(i, y, world.faults);
    if (left < 0) return looks[i];
  }
  return looks[0];
}

/** A known-good part goes in, and the reading that was farthest off is taken again. */
function swap({ circuit, faults, seed }: World, input: RankInput, part: string): Reading | null {
  const network = buildNetwork(circuit);
  const numeric = input.readings.filter((r): r is NumericReading => r.quantity === "voltage");
  const again = numeric[numeric.length - 1] ?? {
    quantity: "voltage",
    from: network.nodes[network.branches[0].to],
    value: 0,
  };
  const { plusMinus: _, beyond: __, ...point } = again;
  const taken = takeReadings(
    network,
    faults,
    [{ ...point, value: 0, state: { swapped: [part] } } as NumericReading],
    { meter: meterData({}), bridges: bridgeCandidates(network), blunder: 0, counts: 6000 },
    seededRandom(seed),
  );
  return taken?.[0].reading ?? null;
}

export interface Outcome {
  readonly minutes: number;
  readonly count: number;
  readonly isSettled: boolean;
  readonly isRight: boolean;
  readonly told: number | null;
}

/** Takes what is proposed until the job is settled. @param habits what the ranking believes of how parts fail */
export function follow(world: World, school: "information" | "halfSplit", habits?: Priors): Outcome | RankProblem {
  const random = seededRandom(world.seed + 7);
  const readings: Reading[] = [];
  let minutes = 0;
  let told: number | null = null;
  for (let count = 0; ; count += 1) {
    const input: RankInput = { circuit: world.circuit, readings, ...(habits ? { habits } : {}) };
    const weighing = weighToEnd(input);
    if (weighing.kind === "problem") return weighing;
    const plan = planMeasurements(input, weighing, { school, count: 400 });
    if (!plan) return { kind: "problem", what: "circuit", message: "no plan" };
    if (count === 0) told = readingsToSettle(plan, seededRandom(1));
    const verdict = verdictOf(weighing, plan);
    const [first] = plan.repairs.shares;
    const named = (list: typeof first.repair) =>
      list.map((s) => ("part" in s ? s.part : `bridge ${s.nodes.join("~")}`)).sort();
    const isRight = named(first.repair).length === world.owners.length && sameOwners(world, named(first.repair));
    const isOver = verdict.kind === "settled" || verdict.kind === "healthy" || count >= MOST_STEPS;
    // Nothing tells any more: the leading repair is made.
    const next = isOver
      ? null
      : plan.suggestions.find((s) => s.informationBits > 0.01 && isNew(s.measurement, readings));
    if (!next) return { minutes, count, isSettled: verdict.kind === "settled", isRight, told };
    minutes += next.measurement.minutes;
    if (process.env.HOUND_TRACE && school === "information")
      row(
        `  ${count}`,
        "reading" in next.measurement
          ? keyOf(next.measurement.reading).replace(/[{}"]|,value:0/g, "")
          : `${next.measurement.kind} ${next.measurement.part}`,
        `${next.informationBits.toFixed(2)} bits ${next.settles.toFixed(2)}`,
        `${verdict.kind} ${plan.repairs.shares
          .slice(0, 4)
          .map((r) => `${named(r.repair).join("&")} ${r.probability.toFixed(3)}`)
          .join(", ")} [${plan.outlooks.length}]`,
      );
    const { measurement } = next;
    const reading =
      "reading" in measurement
        ? (world.shown.get(keyOf(measurement.reading)) ?? null)
        : measurement.kind === "swap"
          ? swap(world, input, measurement.part)
          : look(world, input, measurement, random);
    if (!reading)
      return { kind: "problem", what: "circuit", message: `nothing shown for ${JSON.stringify(measurement)}` };
    readings.push(takenSo(reading, {}));
  }
}

function isNew(m: Measurement, readings: readonly Reading[]): boolean {
  if ("reading" in m) return !readings.some((r) => keyOf(r) === keyOf(m.reading));
  return !readings.some((r) =>
    r.quantity === "observation"
      ? r.part === m.part && Boolean(r.alone) === (m.kind === "alone")
      : r.state?.swapped?.includes(m.part),
  );
}

/** Bridges are named by number in one and by their nodes in the other: one stands for the other where both have just one. */
export function sameOwners({ owners }: World, named: readonly string[]): boolean {
  return owners.every((o, i) => (o.startsWith("bridge") ? named[i]?.startsWith("bridge") : o === named[i]));
}
