import type { Branch, Network } from "../circuit/index.ts";
import { limitOf, rangeOf } from "../measure/index.ts";
import { isDiodeTest, type Meter, type MeterData, meterOf, type NumericReading } from "../record/index.ts";
import { densityAt, type Foretold } from "./foretold.ts";

/** How an entry may have gone wrong. */
export type SlipKind =
  | "sign"
  | "direction"
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
  /** Which way a current flows as it was typed, where nobody said. */
  readonly flows?: { readonly from: string; readonly to: string };
}

/** Ohms of a body from hand to hand by dry fingers, as a spread. */
const BODY = [2e4, 4e4, 7e4, 1e5, 1.4e5, 2e5, 4e5, 1e6] as const;
const AMMETER = "ammeter laid across";

/** A way the entry could have come about: how likely it is, and what was meant. */
export interface Way extends Omit<SlipQuestion, "probability"> {
  readonly density: number;
}

/**
 * Sign, a thousand, ten: the display is the true value times a factor.
 * @param flows which way, of a current typed without a sign
 */
export function scaled(
  reading: NumericReading,
  foretold: (x: number) => number,
  data: MeterData,
  flows: SlipQuestion["flows"] | null,
): Way[] {
  const { value, quantity } = reading;
  if (value === 0) return [];
  const by = (kind: SlipKind, factor: number, share: number): Way => {
    const instead = times(reading, 1 / factor);
    const density = (share * foretold(value / factor) * digitsFit(instead, data)) / Math.abs(factor);
    return { kind, density, instead };
  };
  return [
    ...(quantity === "resistance" ? [] : [flows ? { ...by("direction", -1, 1), flows } : by("sign", -1, 1)]),
    by("thousand", 1000, 0.5),
    by("thousand", 1 / 1000, 0.5),
    by("ten", 10, 0.5),
    by("ten", 1 / 10, 0.5),
  ];
}

/** The way a current is taken to flow because it was typed as a size, without a sign; null of all others. */
export function unsaidFlow(network: Network, reading: NumericReading): SlipQuestion["flows"] | null {
  if (reading.quantity !== "current" || !(reading.value > 0) || reading.typed === undefined) return null;
  if (/(?:^|\s)[+\-−]\s*[\d.,]/.test(reading.typed)) return null;
  const branch = network.branches.find((b) => b.name === reading.through);
  // Out of a supply's plus goes without saying.
  if (!branch || branch.kind === "supply") return null;
  return { from: network.nodes[branch.from], to: network.nodes[branch.to] };
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
export function nothing(reading: NumericReading, own: Foretold, data: MeterData): Way[] {
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
export function pointsOf(network: Network, reading: NumericReading, data: MeterData): OtherPoint[] {
  const state = reading.state ? { state: reading.state } : {};
  // Nothing is nothing in every unit.
  if (Math.abs(reading.value) <= limitOf({ ...reading, value: 0 }, data)) return [];
  if (isDiodeTest(reading)) return [];
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
export function ammeterOf(data: MeterData, reading: NumericReading): NonNullable<Meter["others"]>[number] {
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
export function ofOhms(reading: NumericReading, own: Foretold, data: MeterData): Way[] {
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

/**
 * Whether the digits typed are such as the meter has: finer ones than its finest range, or than the range that holds the
 * value, speak of another unit.
 */
export function digitsFit(reading: NumericReading, data: MeterData): number {
  const { step, value, quantity } = reading;
  if (step === undefined) return 1;
  const ranges = meterOf(reading, data).ranges[quantity];
  const holding = ranges.find((r) => r.span >= Math.abs(value));
  if (step < 0.9 * Math.min(...ranges.map((r) => r.resolution))) return 1e-3;
  return holding && step < 0.9 * holding.resolution ? 0.05 : 1;
}

export function isBetween(network: Network, branch: Branch, ends: ReadonlySet<string>): boolean {
  return branch.from !== branch.to && ends.has(network.nodes[branch.from]) && ends.has(network.nodes[branch.to]);
}
