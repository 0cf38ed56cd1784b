import type { Unit } from "../units/index.ts";
import type { Accuracy, Meter, MeterCheck } from "./meter.ts";

export type Quantity = "voltage" | "current" | "resistance";
/** What each is measured in. */
export const UNIT_OF = { voltage: "V", current: "A", resistance: "ohm" } as const satisfies Record<Quantity, Unit>;

/** One range with everything filled in. */
export interface RangeData extends Accuracy {
  readonly span: number;
  readonly resolution: number;
  /** Ohms of its input on volts (Infinity: ideal), of its burden on amperes; 0 on ohms. */
  readonly ohms: number;
  readonly fuse?: number;
  /** The socket for the red lead. */
  readonly socket: string;
  /** Of a needle on ohms: what stands at the middle of the scale. */
  readonly middle?: number;
}

export interface MeterData {
  readonly name: string;
  readonly isAnalogue: boolean;
  readonly dial: "ranges" | "functions";
  /** The socket for the black lead. */
  readonly common: string;
  readonly leads: { readonly ohms: number; readonly volts: number };
  readonly category: { readonly class?: "II" | "III" | "IV"; readonly volts: number };
  readonly checks: readonly MeterCheck[];
  /** Of each function, lowest span first. */
  readonly ranges: Readonly<Record<Quantity, readonly RangeData[]>>;
  /** What a dead circuit may show, in each function's unit. */
  readonly offset: Readonly<Record<Quantity, number>>;
  /** Ohms of the input on its usual range (Infinity: ideal), and of the burden on the ranges for milliamperes. */
  readonly inputOhms: number;
  readonly burdenOhms: number;
  readonly topOhms: number;
  readonly beepsBelow: number;
  readonly supplies: "disconnected" | "internal";
  readonly accuracy: Readonly<Record<Quantity, Accuracy>>;
  /** Further meters of the job, by name. */
  readonly others: ReadonlyMap<string, MeterData>;
}

/** Counts of a common display; half divisions of a common scale. */
const COUNTS = 2000;
const HALF_DIVISIONS = 100;

/** A common handheld meter: 10 MΩ on volts; in series on amperes 1 Ω, and 20 mΩ on its range of 10 A. */
const USUAL = {
  inputOhms: 1e7,
  burdenOhms: 1,
  highBurdenOhms: 0.02,
  topOhms: 4e7,
  beepsBelow: 30,
  leadOhms: 0.2,
  volts: 600,
  spans: {
    voltage: [0.2, 2, 20, 200, 1000],
    current: [2e-3, 2e-2, 0.2, 10],
    resistance: [200, 2e3, 2e4, 2e5, 2e6, 4e7],
  },
  offset: { voltage: 5e-3, current: 5e-6, resistance: 0.05 },
  accuracy: {
    voltage: { percent: 0.5, counts: 2 },
    current: { percent: 1, counts: 3 },
    resistance: { percent: 0.8, counts: 3 },
  },
  common: "COM",
  sockets: { voltage: "V Ω", current: "mA", resistance: "V Ω", highCurrent: "10 A" },
} as const;
/** A common needle: percent of full scale, its resistance by the volt, half a division to be read. */
const NEEDLE = {
  ohmsPerVolt: 20_000,
  accuracy: {
    voltage: { percent: 0, counts: 1, ofSpan: 3 },
    current: { percent: 0, counts: 1, ofSpan: 3 },
    resistance: { percent: 0, counts: 0, ofSpan: 3 },
  },
} as const;
/** Spans above this are those of the socket for amperes. */
const HIGH_CURRENT = 1;

const known = new WeakMap<Meter, MeterData>();

/** The meter with its defaults filled in; worked out once for each. */
export function meterData(meter: Meter = {}): MeterData {
  const before = known.get(meter);
  if (before) return before;
  const filled = filledIn(meter);
  known.set(meter, filled);
  return filled;
}

/** The data of the meter that a reading names; those of the job's first where it names none, or one that is not known. */
export function meterOf(reading: { readonly meter?: string }, data: MeterData): MeterData {
  return (reading.meter !== undefined && data.others.get(reading.meter.toLowerCase())) || data;
}

/** Which meter a reading was taken with: "" of the job's first, whether that is named or not. */
export function meterNameOf(reading: { readonly meter?: string }, data: MeterData): string {
  const { meter = "" } = reading;
  return meter.toLowerCase() === data.name.toLowerCase() ? "" : meter;
}

type AnyRange = NonNullable<NonNullable<Meter["resistance"]>["ranges"]>[number] & { readonly fuse?: number };

function filledIn(meter: Meter): MeterData {
  const { voltage, current, resistance, analogue: isAnalogue = false } = meter;
  const ohmsOf = (input: number | "ideal" | undefined) => (input === "ideal" ? Number.POSITIVE_INFINITY : input);
  const perVolt = voltage?.ohmsPerVolt ?? (isAnalogue ? NEEDLE.ohmsPerVolt : undefined);
  const inputOhms = ohmsOf(voltage?.inputResistance) ?? (perVolt === undefined ? USUAL.inputOhms : perVolt * 20);
  const inputOf = (span: number) =>
    voltage?.inputResistance === undefined && perVolt !== undefined ? perVolt * span : inputOhms;
  const burden = current?.burdenResistance;
  const burdenOf = (span: number) => burden ?? (span > HIGH_CURRENT ? USUAL.highBurdenOhms : USUAL.burdenOhms);
  const accuracyOf = (quantity: Quantity): Accuracy =>
    meter[quantity]?.accuracy ?? (isAnalogue ? NEEDLE : USUAL).accuracy[quantity];
  const socketOf = (quantity: Quantity, span: number) =>
    USUAL.sockets[quantity === "current" && span > HIGH_CURRENT ? "highCurrent" : quantity];
  const rangesOf = (quantity: Quantity, ohms: (span: number, at: number) => number): RangeData[] =>
    ((meter[quantity]?.ranges ?? USUAL.spans[quantity].map((span) => ({ span }))) as readonly AnyRange[])
      .map((own, at): RangeData => {
        const { span, resolution, accuracy, fuse, socket, middle } = own;
        const { percent, counts, ofSpan = 0 }: Accuracy = accuracy ?? accuracyOf(quantity);
        const finest = isAnalogue ? span / HALF_DIVISIONS : resolutionOf(span);
        return {
          span,
          resolution: resolution ?? finest,
          percent,
          counts,
          ...(ofSpan > 0 ? { ofSpan } : {}),
          ohms: ohms(span, at),
          ...(fuse ? { fuse } : {}),
          socket: socket ?? socketOf(quantity, span),
          ...(isAnalogue && quantity === "resistance" ? { middle: middle ?? span / 50 } : {}),
        };
      })
      .sort((a, b) => a.span - b.span);
  return {
    name: meter.name ?? "",
    isAnalogue,
    dial: meter.dial ?? "ranges",
    common: meter.common ?? USUAL.common,
    leads: { ohms: meter.leads?.ohms ?? USUAL.leadOhms, volts: meter.leads?.volts ?? USUAL.volts },
    category: { ...meter.category, volts: meter.category?.volts ?? USUAL.volts },
    checks: meter.checks ?? [],
    ranges: {
      voltage: rangesOf("voltage", (span, at) => ohmsOf(voltage?.ranges?.[at]?.inputResistance) ?? inputOf(span)),
      current: rangesOf("current", (span, at) => current?.ranges?.[at]?.burdenResistance ?? burdenOf(span)),
      resistance: rangesOf("resistance", () => 0),
    },
    offset: {
      voltage: voltage?.offset ?? USUAL.offset.voltage,
      current: current?.offset ?? USUAL.offset.current,
      resistance: resistance?.offset ?? USUAL.offset.resistance,
    },
    inputOhms,
    burdenOhms: burdenOf(0),
    topOhms: resistance?.top ?? USUAL.topOhms,
    beepsBelow: resistance?.beepsBelow ?? USUAL.beepsBelow,
    supplies: resistance?.supplies ?? "disconnected",
    accuracy: {
      voltage: accuracyOf("voltage"),
      current: accuracyOf("current"),
      resistance: accuracyOf("resistance"),
    },
    others: new Map((meter.others ?? []).map((other) => [(other.name ?? "").toLowerCase(), meterData(other as Meter)])),
  };
}

/** What the last digit of a display of 2,000 counts stands for: a power of ten. */
function resolutionOf(span: number): number {
  return Number(`1e${Math.ceil(Math.log10(span / COUNTS) - 1e-9)}`);
}

/** The same meter as if it were not there: it loads nothing, and drops nothing. */
export function idealMeter(meter: Meter): Meter {
  const { voltage, current, others } = meter;
  const rangesOf = (ranges: readonly object[] | undefined, own: object) =>
    ranges ? { ranges: ranges.map((r) => ({ ...r, ...own })) } : {};
  return {
    ...meter,
    voltage: {
      ...voltage,
      inputResistance: "ideal",
      ...rangesOf(voltage?.ranges, { inputResistance: "ideal" }),
    } as Meter["voltage"],
    current: {
      ...current,
      burdenResistance: 0,
      ...rangesOf(current?.ranges, { burdenResistance: 0 }),
    } as Meter["current"],
    ...(others ? { others: others.map((other) => idealMeter(other as Meter)) } : {}),
  };
}
