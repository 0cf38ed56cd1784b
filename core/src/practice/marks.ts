import { z } from "zod";
import { designatorOf } from "../circuit/index.ts";
import { afterChange, type Configuration } from "../configuration/index.ts";
import { judge, type Verdict } from "../judgement/index.ts";
import { type Measurement, type Plan, planMeasurements } from "../plan/index.ts";
import { type RankInput, weighToEnd } from "../rank/index.ts";
import { isSamePlace, type Meter, meterData, Reading } from "../record/index.ts";
import { seededRandom } from "../simulate/index.ts";
import { Act, BenchNow, type Costs, Display, Trap, UNSAFE } from "./acts.ts";
import { standingOf } from "./bench.ts";
import { CarefulHands } from "./carefulHands.ts";
import { follow, namesOf, type Step } from "./follow.ts";
import type { World } from "./world.ts";

/** One act as it was done, with what it brought. */
export const DoneAct = z.strictObject({
  act: Act,
  now: BenchNow,
  display: Display,
  reading: Reading.nullable(),
  traps: z.array(Trap),
});
export type DoneAct = z.infer<typeof DoneAct>;

/** A name that was given to what is wrong; none: nothing is. */
export const Naming = z.strictObject({
  /** Parts, and pairs of nodes as `A~B`. */
  named: z.array(z.string().max(80)).max(4),
  /** How sure, as a share. */
  sure: z.number().min(0).max(1),
  right: z.number().min(0).max(1),
  /** Minutes spent by then, and what the name cost: of a wrong one what swapping takes. */
  minutes: z.number(),
  took: z.number(),
});
export type Naming = z.infer<typeof Naming>;

/** Something that told, or might have: a reading, a look, a swap. */
export interface MarkedStep {
  readonly act: Act;
  readonly reading: Reading | null;
  /** Minutes it took, with all that was done for it, and when it was done. */
  readonly took: number;
  readonly at: number;
  /** Bits that it took off what was not known; null of what cannot be weighed. */
  readonly bits: number | null;
  /** What led before and after it. */
  readonly before: Lead;
  readonly after: Lead;
  /** What would have told most a minute there, where that is another; with its expected bits. */
  readonly better: { readonly measurement: Measurement; readonly bits: number } | null;
  readonly expected: number | null;
  readonly traps: readonly Trap[];
}

export interface Lead {
  readonly named: readonly string[];
  readonly probability: number;
  /** Bits still to be known. */
  readonly left: number;
  readonly verdict: Verdict["kind"];
}

export interface Marks {
  readonly steps: readonly MarkedStep[];
  readonly minutes: number;
  /** What the planner did in the same world with the same costs, and its minutes. */
  readonly best: {
    readonly steps: readonly Step[];
    readonly minutes: number;
    readonly named: readonly string[];
    readonly isRight: boolean;
  } | null;
  readonly unsafe: readonly Trap[];
  readonly slips: readonly Trap[];
}

/** Better is what tells so many times as much a minute. */
const BETTER = 1.5;
/** Slips that mislead, none of which hurts. */
const SLIPS: ReadonlySet<Trap> = new Set(["voltSocket", "otherSocket", "fingers", "leftOpen", "noReading"]);

/**
 * Goes through a hunt that is over: what each reading told, what would have told more there, what was unsafe, and how
 * the planner does it in the same world.
 * @param noticed what was known before anything was done
 * @param namings names that were given on the way: what they cost is no reading's
 */
export function marksOf(
  world: World,
  meter: Meter,
  acts: readonly DoneAct[],
  costs: Costs,
  noticed: readonly Reading[] = [],
  namings: readonly Naming[] = [],
): Marks {
  const steps: MarkedStep[] = [];
  const readings: Reading[] = [...noticed];
  let standing: Configuration = {};
  let since = 0;
  let seen: Trap[] = [];
  let known = knownOf(world, meter, readings, standing);
  for (const { act, now, reading, traps } of acts) {
    seen = [...seen, ...traps];
    if (!reading && act.act !== "swap") continue;
    const before = known;
    standing =
      act.act === "swap" ? afterChange(standing, { part: designatorOf(act.part), change: "swapped" }) : standing;
    if (reading) readings.push(reading);
    known = knownOf(world, meter, readings, { ...standing, ...leversOf(standingOf(now, world.network)) });
    steps.push({
      act,
      reading,
      took: now.minutes - since - spentOn(namings, since, now.minutes),
      at: now.minutes,
      bits: before && known ? before.lead.left - known.lead.left : null,
      before: before?.lead ?? UNKNOWN,
      after: known?.lead ?? UNKNOWN,
      ...comparedWith(before?.plan ?? null, act, reading),
      traps: [...new Set(seen)],
    });
    since = now.minutes;
    seen = [];
  }
  const all = acts.flatMap((a) => a.traps);
  return {
    steps,
    minutes:
      (acts.at(-1)?.now.minutes ?? 0) + spentOn(namings, acts.at(-1)?.now.minutes ?? 0, Number.POSITIVE_INFINITY),
    best: bestOf(world, meter, costs, noticed),
    unsafe: all.filter((t) => UNSAFE.has(t)),
    slips: all.filter((t) => SLIPS.has(t)),
  };
}

/** Minutes that names cost between two moments. */
const spentOn = (namings: readonly Naming[], from: number, to: number) =>
  namings.reduce((sum, n) => sum + (n.minutes >= from && n.minutes < to ? n.took : 0), 0);

const leversOf = ({ switches }: Configuration): Configuration => (switches ? { switches } : {});

const UNKNOWN: Lead = { named: [], probability: 0, left: 0, verdict: "open" };

function knownOf(
  world: World,
  meter: Meter,
  readings: readonly Reading[],
  standing: Configuration,
): { readonly lead: Lead; readonly plan: Plan } | null {
  const { circuit, situation } = world;
  const input: RankInput = { circuit, readings: [...readings], meter, standing, ...(situation ? { situation } : {}) };
  const weighing = weighToEnd(input);
  if (weighing.kind === "problem") return null;
  const plan = planMeasurements(input, weighing, { count: 400 });
  if (!plan) return null;
  const { verdict } = judge(input, weighing, plan, seededRandom(1));
  const [first] = plan.repairs.shares;
  const lead = {
    named: namesOf(first?.repair ?? []),
    probability: first?.probability ?? 0,
    left: plan.entropyBits,
    verdict: verdict.kind,
  };
  return { lead, plan };
}

function comparedWith(plan: Plan | null, act: Act, reading: Reading | null): Pick<MarkedStep, "better" | "expected"> {
  if (!plan) return { better: null, expected: null };
  const own = plan.offers.find(({ measurement: m }) => {
    if (act.act === "swap") return m.kind === "swap" && m.part === designatorOf(act.part);
    if (!reading) return false;
    if (reading.quantity === "observation")
      return m.kind === (reading.alone ? "alone" : "look") && m.part === reading.part;
    return "reading" in m && isSamePlace(m.reading, reading);
  });
  const [best] = plan.suggestions;
  const expected = own?.informationBits ?? null;
  if (!best || best.measurement === own?.measurement) return { better: null, expected };
  const rate = (bits: number, minutes: number) => bits / minutes;
  const isBetter =
    !own ||
    rate(best.informationBits, best.measurement.minutes) > BETTER * rate(own.informationBits, own.measurement.minutes);
  return { better: isBetter ? { measurement: best.measurement, bits: best.informationBits } : null, expected };
}

function bestOf(world: World, meter: Meter, costs: Costs, known: readonly Reading[]): Marks["best"] {
  const hands = new CarefulHands(world, meterData(meter), costs);
  const found = follow(world, hands, { meter, known });
  if ("kind" in found) return null;
  const { steps, minutes, named, right } = found;
  return { steps, minutes, named, isRight: right === 1 };
}
