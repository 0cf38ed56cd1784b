import type { Branch, Network } from "../circuit/index.ts";
import { limitOf, rangeOf } from "../measure/index.ts";
import type { RankInput, Weighed } from "../rank/index.ts";
import { type Meter, type MeterData, meterData, meterOf, type NumericReading, type Quantity } from "../record/index.ts";
import { densityAt, type Foretold, foretellAt, shareNear } from "./foretold.ts";

/** How an entry may have gone wrong. */
export type SlipKind =
  | "sign"
  | "thousand"
  | "ten"
  | "zero"
  | "beyond"
  | "ampsAsVolts"
  | "voltsAsAmps"
  | "ammeterAcross"
  | "sameNode"
  | "aboveOwn"
  | "fingers"
  | "leads"
  | "wholeSupply";

/** Something to ask beside an entry. */
export interface SlipQuestion {
  readonly kind: SlipKind;
  /** Of this slip, all others and a good reading weighed against it. */
  readonly probability: number;
  /** What was probably meant; left out where the reading has to be taken again. */
  readonly instead?: NumericReading;
  /** The part it is about: whose current it is, whose own value is below, the supply whose volts they are. */
  readonly part?: string;
}

/** Share of all entries that something goes wrong with between the probe and the line, and of what, by what is read. */
const SLIPS = 0.08;
const SHARES: Readonly<Record<Quantity, Partial<Record<SlipKind, number>>>> = {
  voltage: { sign: 0.26, thousand: 0.18, ten: 0.12, zero: 0.2, ampsAsVolts: 0.1, wholeSupply: 0.1, beyond: 0.04 },
  current: { sign: 0.25, thousand: 0.25, ten: 0.1, zero: 0.2, voltsAsAmps: 0.1, ammeterAcross: 0.1 },
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
/** Ohms of a body from hand to hand by dry fingers, as a spread. */
const BODY = [2e4, 4e4, 7e4, 1e5, 1.4e5, 2e5, 4e5, 1e6] as const;
/** More volts than all supplies together have, with something for what they may be high. */
const OVER_ALL = 1.2;
const AMMETER = "ammeter laid across";

/** A way the entry could have come about: how likely it is, and what was meant. */
interface Way extends Omit<SlipQuestion, "probability"> {
  readonly density: number;
}

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
  const isImpossible = ruledOut?.kind === "beyond";
  const fine = isImpossible ? 0 : (1 - SLIPS) * foretold(reading.value) * digitsFit(reading, data);
  const ways = [
    ...scaled(reading, foretold, data),
    ...nothing(reading, own, data),
    ...points.flatMap((p, k) => p.ways(others[k])),
    ...ofOhms(reading, own, data),
    ...(isImpossible ? [{ kind: "beyond" as const, density: 1 / (3 * Math.abs(reading.value)) }] : []),
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

/**
 * Whether the digits typed are such as the meter has: finer ones than its finest range, or than the range that holds the
 * value, speak of another unit.
 */
function digitsFit(reading: NumericReading, data: MeterData): number {
  const { step, value, quantity } = reading;
  if (step === undefined) return 1;
  const ranges = meterOf(reading, data).ranges[quantity];
  const holding = ranges.find((r) => r.span >= Math.abs(value));
  if (step < 0.9 * Math.min(...ranges.map((r) => r.resolution))) return 1e-3;
  return holding && step < 0.9 * holding.resolution ? 0.05 : 1;
}

/** Sign, a thousand, ten: the display is the true value times a factor. */
function scaled(reading: NumericReading, foretold: (x: number) => number, data: MeterData): Way[] {
  const { value, quantity } = reading;
  if (value === 0) return [];
  const by = (kind: SlipKind, factor: number, share: number): Way => {
    const instead = times(reading, 1 / factor);
    const density = (share * foretold(value / factor) * digitsFit(instead, data)) / Math.abs(factor);
    return { kind, density, instead };
  };
  return [
    ...(quantity === "resistance" ? [] : [by("sign", -1, 1)]),
    by("thousand", 1000, 0.5),
    by("thousand", 1 / 1000, 0.5),
    by("ten", 10, 0.5),
    by("ten", 1 / 10, 0.5),
  ];
}

function times(reading: NumericReading, factor: number): NumericReading {
  const { step, wander, typed: _, ...rest } = reading;
  const exact = (x: number) => Number((x * factor).toPrecision(12));
  return {
    ...rest,
    value: exact(reading.value),
    ...(step === undefined ? {} : { step: Math.abs(exact(step)) }),
    ...(wander === undefined ? {} : { wander: Math.abs(exact(wander)) }),
  };
}

/** Nothing where something should be: no contact, both leads on one node, too high a range, the meter's own fuse. */
function nothing(reading: NumericReading, own: Foretold, data: MeterData): Way[] {
  const { quantity, value } = reading;
  const atNone = Math.max(limitOf({ ...reading, value: 0 }, data), reading.step ?? 0);
  const shorted = Math.max(meterOf(reading, data).leads.ohms, 0);
  const centre = quantity === "resistance" ? shorted / 2 : 0;
  const sigma = quantity === "resistance" ? Math.max(atNone, shorted) / 2 : atNone / 2;
  // A part that is there takes what it should: only where the suspects do not foretell nothing is it worth a question.
  const density = Math.exp(-0.5 * ((value - centre) / sigma) ** 2) / (sigma * Math.sqrt(2 * Math.PI));
  if (Math.abs(value - centre) > 4 * sigma || densityAt(own, value) > density) return [];
  if (quantity === "current") return [{ kind: "zero", density }];
  return quantity === "resistance" ? [{ kind: "sameNode", density }] : [{ kind: "zero", density }];
}

interface OtherPoint {
  readonly point: NumericReading;
  readonly ways: (there: Foretold) => Way[];
}

/** What else may have been read: the other quantity of the part, the part with an ammeter across it, a whole supply. */
function pointsOf(network: Network, reading: NumericReading, data: MeterData): OtherPoint[] {
  const state = reading.state ? { state: reading.state } : {};
  // Nothing is nothing in every unit.
  if (Math.abs(reading.value) <= limitOf({ ...reading, value: 0 }, data)) return [];
  if (reading.quantity === "voltage") {
    const { from, to = network.nodes[network.reference] } = reading;
    const ends = new Set([from, to]);
    const across = network.branches.filter((b) => isBetween(network, b, ends));
    const current = across.map(({ name, from: a }): OtherPoint => {
      const point: NumericReading = { quantity: "current", through: name, value: 0, ...state };
      const turned = network.nodes[a] === from ? 1 : -1;
      const ways = (there: Foretold) =>
        // Typed in amperes or in milliamperes, and the unit of the point put behind it.
        [1, 1000].map(
          (factor): Way => ({
            kind: "ampsAsVolts",
            part: name,
            density: (0.5 * densityAt(there, (turned * reading.value) / factor)) / factor / across.length,
            instead: asOther(reading, { ...point, value: (turned * reading.value) / factor }, factor),
          }),
        );
      return { point, ways };
    });
    const supplies = network.branches.filter((b) => b.kind === "supply" && !isBetween(network, b, ends));
    const whole = supplies.map((b): OtherPoint => {
      const point: NumericReading = {
        quantity: "voltage",
        from: network.nodes[b.from],
        to: network.nodes[b.to],
        value: 0,
        ...state,
      };
      const ways = (there: Foretold): Way[] => [
        {
          kind: "wholeSupply",
          part: b.name,
          density: densityAt(there, reading.value) / supplies.length,
          instead: asOther(reading, { ...point, value: reading.value }, 1),
        },
      ];
      return { point, ways };
    });
    return [...current, ...(across.some((b) => b.kind === "supply") ? [] : whole)];
  }
  if (reading.quantity !== "current") return [];
  const branch = network.branches.find((b) => b.name === reading.through);
  if (!branch) return [];
  const ends = { from: network.nodes[branch.from], to: network.nodes[branch.to] };
  const volts: NumericReading = { quantity: "voltage", ...ends, value: 0, ...state };
  const { ohms } = rangeOf(reading, data);
  return [
    {
      point: volts,
      ways: (there) =>
        [1, 1000].map(
          (factor): Way => ({
            kind: "voltsAsAmps",
            part: branch.name,
            // 4.1 typed where milliamperes are meant stands as 0.0041.
            density: 0.5 * densityAt(there, reading.value * factor) * factor,
            instead: asOther(
              reading,
              { ...volts, value: Number((reading.value * factor).toPrecision(12)) },
              1 / factor,
            ),
          }),
        ),
    },
    {
      point: { ...volts, meter: AMMETER } as NumericReading,
      ways: (there) =>
        ohms > 0
          ? [{ kind: "ammeterAcross", part: branch.name, density: densityAt(there, reading.value * ohms) * ohms }]
          : [],
    },
  ];
}

/** A meter for volts with the burden of an ammeter as its input: what lies across the part then. */
function ammeterOf(data: MeterData, reading: NumericReading): NonNullable<Meter["others"]>[number] {
  const range = reading.quantity === "current" ? rangeOf(reading, data) : null;
  const ohms = Math.max(range?.ohms ?? 0, 1e-6);
  const { percent = 1, counts = 0, resolution = 0 } = range ?? {};
  const offset = ohms * (meterOf(reading, data).offset.current + counts * resolution);
  return { name: AMMETER, voltage: { inputResistance: ohms, accuracy: { percent, counts: 0 }, offset } };
}

function asOther(typed: NumericReading, point: NumericReading, factor: number): NumericReading {
  const { step, note, range: _, typed: __, meter, takenAt } = typed;
  return {
    ...point,
    value: Number(point.value.toPrecision(12)),
    ...(step === undefined ? {} : { step: Number((step / factor).toPrecision(12)) }),
    ...(note === undefined ? {} : { note }),
    ...(meter === undefined ? {} : { meter }),
    ...(takenAt === undefined ? {} : { takenAt }),
  };
}

/** Fingers on both tips, leads that were not nulled, a poor contact in series. */
function ofOhms(reading: NumericReading, own: Foretold, data: MeterData): Way[] {
  if (reading.quantity !== "resistance" || reading.value <= 0) return [];
  const { value } = reading;
  const ways: Way[] = [];
  let body = 0;
  let best = { density: 0, ohms: 0 };
  for (const ohms of BODY) {
    if (value >= ohms * 0.999) continue;
    const true_ = 1 / (1 / value - 1 / ohms);
    const density = (densityAt(own, true_) * (true_ / value) ** 2) / BODY.length;
    body += density;
    if (density > best.density) best = { density, ohms: true_ };
  }
  if (body > 0) ways.push({ kind: "fingers", density: body });
  const { ohms: leads } = meterOf(reading, data).leads;
  if (!reading.nulled && leads > 0 && value > leads) {
    // Between half and twice what the leads usually have.
    const shares = [0.5, 0.75, 1, 1.5, 2];
    const density = shares.reduce((s, k) => s + densityAt(own, Math.max(0, value - k * leads)) / shares.length, 0);
    ways.push({
      kind: "leads",
      density,
      instead: { ...reading, value: Number((value - leads).toPrecision(12)), nulled: true },
    });
  }
  return ways;
}

/** What no suspect could bring about: asked about whatever else is likely. */
function ruledOutBy(network: Network, reading: NumericReading, data: MeterData): SlipQuestion | null {
  const size = Math.abs(reading.value) - limitOf(reading, data);
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

function isBetween(network: Network, branch: Branch, ends: ReadonlySet<string>): boolean {
  return branch.from !== branch.to && ends.has(network.nodes[branch.from]) && ends.has(network.nodes[branch.to]);
}

/** Values within reach: of volts all that the supplies have, of amperes and ohms well beyond what was typed. */
function spanOf(network: Network, { quantity, value }: NumericReading): number {
  if (quantity === "voltage") return OVER_ALL * allVolts(network);
  return Math.max(1.5 * Math.abs(value), quantity === "current" ? 0.01 : 100);
}
