import type { Network } from "../circuit/index.ts";
import { limitOf } from "../measure/index.ts";
import type { RankInput, Weighed } from "../rank/index.ts";
import {
  DIODE_TEST,
  isDiodeTest,
  type Meter,
  type MeterData,
  meterData,
  type NumericReading,
  type Quantity,
} from "../record/index.ts";
import { densityAt, type Foretold, foretellAt, shareNear } from "./foretold.ts";
import {
  ammeterOf,
  digitsFit,
  isBetween,
  nothing,
  ofOhms,
  pointsOf,
  type SlipKind,
  type SlipQuestion,
  scaled,
  unsaidFlow,
} from "./ways.ts";

/**
 * Share of all entries that something goes wrong with between the probe and the line, and of what, by what is read. A
 * current's size without its direction is no slip, and three times as frequent as all of them.
 */
const SLIPS = 0.08;
const SHARES: Readonly<Record<Quantity, Partial<Record<SlipKind, number>>>> = {
  voltage: { sign: 0.26, thousand: 0.18, ten: 0.12, zero: 0.2, ampsAsVolts: 0.1, wholeSupply: 0.1, beyond: 0.04 },
  current: { sign: 0.25, direction: 3, thousand: 0.25, ten: 0.1, zero: 0.2, voltsAsAmps: 0.1, ammeterAcross: 0.1 },
  resistance: { thousand: 0.2, ten: 0.1, sameNode: 0.15, fingers: 0.3, leads: 0.25 },
};
/** Asked from this probability on. */
const ASKED = 0.15;
/** Further guesses from this share of the first one's probability on. */
const ALSO = 0.25;
const MOST_QUESTIONS = 3;
/** Foretold by suspects of so much weight, a value is expected. */
const EXPECTED = 0.3;
/** A slip that is more probable than this is named before a poor part is. */
const FIRST_THEN = 0.25;
/** Share of good readings that none of the suspects weighed foretells. */
const SURPRISE = 0.003;
/** More volts than all supplies together have, with something for what they may be high. */
const OVER_ALL = 1.2;

/**
 * What to ask about a reading before it is recorded. Every slip is weighed by Bayes' rule against a good reading: the
 * density of what was typed if the slip happened, over what all live suspects foretell. Where physics rules the value out
 * (more volts than there are, more ohms than the part itself has) it is asked about anyway.
 * @param hypotheses of the readings before this one
 * @returns the most probable first; empty where there is nothing to ask
 */
export function questionsOf(
  input: RankInput,
  hypotheses: readonly Weighed[],
  network: Network,
  reading: NumericReading,
): SlipQuestion[] {
  return [...(weighedAt(input, hypotheses, network, reading)?.questions ?? [])];
}

/** The questions with what the suspects foretell at the point, which they are weighed by; null where it cannot be measured. */
export function weighedAt(
  input: RankInput,
  hypotheses: readonly Weighed[],
  network: Network,
  reading: NumericReading,
): { readonly own: Foretold; readonly questions: readonly SlipQuestion[] } | null {
  const data = meterData(input.meter);
  const points = pointsOf(network, reading, data);
  const withAmmeter: Meter = { ...input.meter, others: [...(input.meter?.others ?? []), ammeterOf(data, reading)] };
  const told = foretellAt({ ...input, meter: withAmmeter }, hypotheses, [reading, ...points.map((p) => p.point)]);
  if (!told) return null;
  const [own, ...others] = told;
  // What is over range, and what a meter drawn in the circuit shows, is no entry that could have slipped so.
  if (reading.beyond !== undefined || reading.by !== undefined) return { own, questions: [] };
  const span = spanOf(network, reading);
  const ruledOut = ruledOutBy(network, reading, data);
  // Any value within reach may surprise; what is out of reach is no good reading.
  const foretold = (x: number) =>
    (1 - SURPRISE) * densityAt(own, x) + (Math.abs(x) <= span ? SURPRISE / (2 * span) : 0);
  const isBeyond = ruledOut?.kind === "beyond";
  const fine = isBeyond ? 0 : (1 - SLIPS) * foretold(reading.value) * digitsFit(reading, data);
  const ways = [
    ...scaled(reading, foretold, data, unsaidFlow(network, reading)),
    ...nothing(reading, own, data),
    ...points.flatMap((p, k) => p.ways(others[k])),
    ...ofOhms(reading, own, data),
    ...(isBeyond ? [{ kind: "beyond" as const, density: 1 / (3 * Math.abs(reading.value)) }] : []),
  ];
  const weighed = ways
    .map((way) => ({ ...way, mass: SLIPS * (SHARES[reading.quantity][way.kind] ?? 0) * way.density }))
    .filter((way) => way.mass > 0);
  const total = fine + weighed.reduce((s, w) => s + w.mass, 0);
  const found = weighed
    .map(({ mass, density: _, ...way }): SlipQuestion => ({ ...way, probability: mass / total }))
    .sort((a, b) => b.probability - a.probability);
  const likely = found.filter((q) => q.probability >= ALSO * found[0].probability).slice(0, MOST_QUESTIONS);
  // Of a part that is thought to be bad already it is no question.
  if (ruledOut?.kind === "aboveOwn" && shareNear(own, reading.value) < EXPECTED)
    return {
      own,
      questions: found[0]?.probability > FIRST_THEN ? [...likely, ruledOut] : [ruledOut, ...likely.slice(0, 1)],
    };
  return { own, questions: found.reduce((s, q) => s + q.probability, 0) > ASKED ? likely : [] };
}

/** True of a figure that no circuit with these supplies can show: it moves nothing before somebody has said it twice. */
export function isImpossible(network: Network, reading: NumericReading, data: MeterData): boolean {
  return reading.beyond === undefined && ruledOutBy(network, reading, data)?.kind === "beyond";
}

/** What no suspect could bring about: asked about whatever else is likely. */
function ruledOutBy(network: Network, reading: NumericReading, data: MeterData): SlipQuestion | null {
  const size = Math.abs(reading.value) - limitOf(reading, data);
  if (isDiodeTest(reading)) return size > DIODE_TEST.topVolts ? { kind: "beyond", probability: 1 } : null;
  if (reading.quantity === "voltage")
    return size > OVER_ALL * allVolts(network) ? { kind: "beyond", probability: 1 } : null;
  const part = reading.quantity === "resistance" ? partAcross(network, reading) : null;
  return part && size > part.highest ? { kind: "aboveOwn", probability: 1, part: part.name } : null;
}

/** Supplies one after the other at their highest; a tenth of a volt where there are none. */
function allVolts(network: Network): number {
  const sum = network.branches.reduce(
    (s, { law, part }) => s + (law.kind === "supply" ? Math.abs(law.volts) * (1 + part.tolerance) : 0),
    0,
  );
  return Math.max(sum, 0.1);
}

/** The part that lies right across the two points of an ohms reading in circuit, with the most it may have while good. */
function partAcross(network: Network, reading: NumericReading): { name: string; highest: number } | null {
  if (reading.quantity !== "resistance") return null;
  const across =
    reading.lifted !== undefined
      ? []
      : network.branches.filter((b) =>
          isBetween(network, b, new Set([reading.from, reading.to ?? network.nodes[network.reference]] as string[])),
        );
  const parts = across.flatMap((b) =>
    b.law.kind === "resistance" && b.kind !== "sensor" && b.kind !== "switch"
      ? [{ name: b.name, highest: b.law.ohms * (1 + b.part.tolerance) + 1 }]
      : [],
  );
  return parts.length === 0 ? null : parts.reduce((a, b) => (b.highest < a.highest ? b : a));
}

/** Values within reach: of volts all that the supplies have, of amperes and ohms well beyond what was typed. */
function spanOf(network: Network, { quantity, value }: NumericReading): number {
  if (quantity === "voltage") return OVER_ALL * allVolts(network);
  return Math.max(1.5 * Math.abs(value), quantity === "current" ? 0.01 : 100);
}
