import { afterChange, type Configuration } from "../configuration/index.ts";
import { judge, type Verdict } from "../judgement/index.ts";
import { type Measurement, type Plan, planMeasurements, type School, type Suggestion } from "../plan/index.ts";
import { type RankInput, type RankProblem, type RepairStep, type Repairs, weighToEnd } from "../rank/index.ts";
import type { Meter, NumericReading, Priors, Reading } from "../record/index.ts";
import { type Random, seededRandom } from "../simulate/index.ts";
import type { World } from "./world.ts";

const MOST_STEPS = 25;

/** Somebody who does at a bench what is asked for, and counts the minutes. */
export interface Hands {
  readonly minutes: number;
  readonly read: (point: NumericReading, standing: Configuration, minutes: number) => NumericReading | null;
  readonly look: (what: LookAsked, standing: Configuration, minutes: number) => Reading | null;
  readonly swap: (part: string, minutes: number) => void;
}
export type LookAsked = Extract<Measurement, { readonly part: string }>;

/** Which of what is on offer a way of going about it takes; null where nothing is left. */
export type Choose = (
  plan: Plan,
  left: readonly Suggestion[],
  random: Random,
  world: World,
  taken: readonly Reading[],
) => Suggestion | null;

export interface Way {
  readonly school?: School;
  /** Left out, what the school offers first. */
  readonly choose?: Choose;
  readonly habits?: Priors | undefined;
  readonly meter?: Meter;
  /** What was known before anything was done: what brought the job here. */
  readonly known?: readonly Reading[];
}

/** One thing that was done on the way. */
export interface Step {
  readonly measurement: Measurement;
  readonly reading: Reading | null;
  /** Minutes spent when it was done. */
  readonly minutes: number;
  /** Expected bits of it, beforehand. */
  readonly bits: number;
}

export interface Outcome {
  readonly minutes: number;
  readonly count: number;
  readonly verdict: Verdict["kind"];
  /** Of what is to be changed, as the leading repair has it: 1 all of it and nothing else, ½ one of two. */
  readonly right: number;
  readonly told: number | null;
  readonly readings: readonly Reading[];
  readonly steps: readonly Step[];
  /** What it named in the end; none where it says that nothing is wrong. */
  readonly named: readonly string[];
  /** What was believed at the end. */
  readonly believed: { readonly repairs: Repairs["shares"]; readonly besides: number | null };
}

/** Takes what is proposed, looks, lifts and swaps included, until the job is settled or nothing is offered any more. */
export function follow(world: World, hands: Hands, way: Way = {}): Outcome | RankProblem {
  const { school = "information", choose, habits, meter, known = [] } = way;
  const random = seededRandom(world.seed + 7);
  const readings: Reading[] = [...known];
  const steps: Step[] = [];
  let standing: Configuration = {};
  let told: number | null = null;
  for (let count = 0; ; count += 1) {
    const { circuit, situation } = world;
    const input: RankInput = {
      circuit,
      readings,
      standing,
      ...(situation ? { situation } : {}),
      ...(meter ? { meter } : {}),
      ...(habits ? { habits } : {}),
    };
    const weighing = weighToEnd(input);
    if (weighing.kind === "problem") return weighing;
    const plan = planMeasurements(input, weighing, { school, count: 400 });
    if (!plan) return { kind: "problem", what: "circuit", message: "no plan" };
    const { verdict, next: proposed, toSettle } = judge(input, weighing, plan, seededRandom(1));
    if (count === 0) told = toSettle;
    const isOver = verdict.kind === "settled" || verdict.kind === "healthy" || count >= MOST_STEPS;
    const next = isOver ? null : (choose ?? first)(plan, proposed, random, world, readings);
    if (!next) {
      const repair = verdict.kind === "settled" ? verdict.repair : plan.repairs.shares[0].repair;
      const besides = verdict.kind === "settled" ? verdict.besides : null;
      const named = verdict.kind === "healthy" ? [] : namesOf(repair);
      const right = rightOf(world, named);
      const believed = { repairs: plan.repairs.shares, besides };
      return { minutes: hands.minutes, count, verdict: verdict.kind, right, told, readings, steps, named, believed };
    }
    const { measurement, informationBits: bits } = next;
    const { minutes } = measurement;
    let reading: Reading | null = null;
    if (measurement.kind === "swap") {
      hands.swap(measurement.part, minutes);
      standing = afterChange(standing, { part: measurement.part, change: "swapped" });
    } else {
      reading =
        "reading" in measurement
          ? hands.read(measurement.reading, standing, minutes)
          : hands.look(measurement, standing, minutes);
      if (!reading)
        return { kind: "problem", what: "circuit", message: `nothing shown for ${JSON.stringify(measurement)}` };
      readings.push(reading);
    }
    steps.push({ measurement, reading, minutes: hands.minutes, bits });
  }
}

const first: Choose = (_, left) => left[0] ?? null;

/** What a repair changes: parts, and pairs of nodes as `A~B`. */
export function namesOf(repair: readonly RepairStep[]): string[] {
  return repair.map((s) => ("part" in s ? s.part : [...s.nodes].sort().join("~"))).sort();
}

/** How right it is to name these: 1 all of it and nothing else, ½ one of two and nothing else. */
export function rightOf({ owners }: Pick<World, "owners">, named: readonly string[]): number {
  if (owners.length === 0) return Number(named.length === 0);
  if (named.length === 0 || !named.every((name) => owners.includes(name))) return 0;
  return named.length === owners.length ? 1 : 0.5;
}
