import type { Network } from "../circuit/index.ts";
import { type FaultAt, faultedNetwork } from "../faults/index.ts";
import type { Random } from "../kernels/index.ts";
import { buildProbes, type NodePair, rangeOf } from "../measure/index.ts";
import { type MeterData, meterOf, type NumericReading, type Quantity, type RangeData } from "../record/index.ts";
import { drawPieces, drawTolerances } from "./takeReadings.ts";

/** What the stand-in shows at a moment. */
export interface Shown {
  readonly quantity: Quantity;
  readonly value: number;
  readonly isOver: boolean;
  /** What its last digit stands for. */
  readonly step: number;
}

export interface BenchMeterOptions {
  readonly meter: MeterData;
  readonly bridges: readonly NodePair[];
  readonly faults: readonly FaultAt[];
}

/** Milliseconds between leaving one point and touching the next, and time constant of settling there. */
const MOVING = 250;
const SETTLING = 90;
/** A supply sags by this share under a meter's eye, with this time constant. */
const SAG = 0.0015;
const SAGS_IN = 20_000;
/** Standard deviation of its noise, in counts; of what it picks up in the air. */
const NOISE = 0.4;
const AIR = 12;

/**
 * A meter on a circuit that is not there: parts somewhere within their tolerance, a hidden fault, noise, settling, a supply
 * that sags, over range where its range is too small. It shows what it is put on; the clock comes from outside, in
 * milliseconds.
 */
export class BenchMeter {
  private actual: Network;
  private readonly gain = new Map<string, number>();
  private now: { point: NumericReading; y: number; from: number; since: number } | null = null;
  private fixed: RangeData | null = null;

  constructor(
    network: Network,
    private readonly options: BenchMeterOptions,
    private readonly random: Random,
  ) {
    this.actual = drawTolerances(network, random);
  }

  /** Puts the probes elsewhere. @returns why it cannot be read there, or null */
  put(point: NumericReading, at: number): string | null {
    const { meter, bridges, faults } = this.options;
    // A part that is replaced is another one from then on, and stays that.
    this.actual = drawPieces(this.actual, point.state ? [point.state] : [], this.random);
    const faulted = faultedNetwork(this.actual, bridges, faults);
    const set = buildProbes(faulted.network, [point], { meter, faults: faulted.faults });
    if (set.kind === "reading") return set.why;
    if (set.kind === "unsolvable") return "the circuit cannot be solved with this fault";
    this.now = { point, y: set.probes[0].y, from: 0, since: at };
    this.fixed = null;
    return null;
  }

  /** Takes the probes off. */
  lift() {
    this.now = null;
  }

  /** Stays on one range, whatever comes; null finds its own. */
  range(span: number | null) {
    const quantity = this.now?.point.quantity ?? "voltage";
    const ranges = this.options.meter.ranges[quantity];
    this.fixed = span === null ? null : (ranges.find((r) => r.span >= span) ?? ranges[ranges.length - 1]);
  }

  /** What it is set to, and what it is put on; null in the air. */
  get point(): NumericReading | null {
    return this.now?.point ?? null;
  }

  /** What it shows. In the air, and while the probes are moved, volts wander about nothing and ohms are over range. */
  show(at: number, quantity: Quantity = this.now?.point.quantity ?? "voltage"): Shown {
    const { now } = this;
    const own = meterOf(now?.point ?? {}, this.options.meter);
    const away = now === null || now.point.quantity !== quantity || at - now.since < MOVING;
    if (away) {
      const { resolution } = own.ranges[quantity][0];
      const value = quantity === "voltage" ? resolution * AIR * this.random.normal() : 0;
      return { quantity, value: rounded(value, resolution), isOver: quantity === "resistance", step: resolution };
    }
    const here = at - now.since - MOVING;
    const settled = now.y + (now.from - now.y) * Math.exp(-here / SETTLING);
    const sagged = quantity === "resistance" ? settled : settled * (1 - SAG * (1 - Math.exp(-here / SAGS_IN)));
    const range = this.fixed ?? rangeOf({ ...now.point, value: sagged || 1e-12 }, own);
    return displayed(sagged, quantity, { range, meter: own, gain: this.gainOf(quantity, range) }, this.random);
  }

  /** Its percentage is one gain for a range, drawn once. */
  private gainOf(quantity: Quantity, range: RangeData): number {
    const key = `${quantity} ${range.span}`;
    const gain = this.gain.get(key) ?? drawGain(range, this.random);
    this.gain.set(key, gain);
    return gain;
  }
}

/** Where something is shown: on a range of a meter that is off by a factor there. */
export interface ShownOn {
  readonly range: RangeData;
  readonly meter: MeterData;
  readonly gain: number;
}

/** What a display shows of a value that lasts: OL above its range, else with its gain, noise of half a count, its digits. */
export function displayed(value: number, quantity: Quantity, { range, meter, gain }: ShownOn, random: Random): Shown {
  const step = range.resolution;
  const top = quantity === "resistance" ? Math.min(range.span, meter.topOhms) : range.span;
  if (!(Math.abs(value) <= top)) return { quantity, value: Math.sign(value) || 1, isOver: true, step };
  return { quantity, value: rounded(value * gain + step * NOISE * random.normal(), step), isOver: false, step };
}

/** The gain that a range of a meter has: its percentage is two standard deviations. */
export function drawGain({ percent }: RangeData, random: Random): number {
  return 1 + (percent / 200) * random.normal();
}

function rounded(value: number, step: number): number {
  return Number((Math.round(value / step) * step).toPrecision(12)) || 0;
}
