import { branchCalled, type Circuit, designatorOf, KINDS, type Network, type Part, rowOf } from "../circuit/index.ts";
import type { Estimate } from "../rank/index.ts";
import { matchTwo, nearestInSeries, seriesOf, type TwoResistors } from "../units/index.ts";
import { type Worst, worstCases } from "./worstCase.ts";

/** What a part is replaced by; SI units. */
export interface Replacement {
  readonly part: Part;
  /** Ohms, or volts of a supply, with its tolerance as a fraction; null of what has none of its own (a contact). */
  readonly value: {
    readonly unit: "ohm" | "V";
    readonly nominal: number;
    readonly tolerance: number;
    /** The drawing does not say it: the readings made it this. */
    readonly isEstimate: boolean;
  } | null;
  /** Rated voltage and power, of what is bought by its rating. */
  readonly rated: { readonly volts: number; readonly watts: number } | null;
  readonly load: RatedLoad | null;
  /** Volts that it has to stand and let nothing through, at least, as such parts are sold; null of others. */
  readonly stands: number | null;
  /** Where the value is none that is sold: the nearest that is, and two that make it. */
  readonly nearest: number | null;
  readonly pairs: readonly TwoResistors[];
  /** Of a fuse: lamps or windings start through it, so that a quick one may blow at switching on. */
  readonly startsHard: boolean;
}

/** What a part has to bear, healthy, and what it should be rated for. */
export interface RatedLoad {
  readonly of: "power" | "current" | "volts";
  readonly worst: number;
  /** The smallest rating sold that bears it with margin. */
  readonly least: number;
  /** As the drawing rates it; null where it says nothing. */
  readonly drawn: number | null;
  /** The drawing's own rating leaves no margin, or is passed outright. */
  readonly isTooSmall: boolean;
  readonly isExceeded: boolean;
}

/** Ratings that are sold: resistors in watts, fuses in amperes (IEC 60127). */
const WATTS = [0.125, 0.25, 0.5, 1, 2, 3, 5, 7, 10, 15, 20, 25, 50, 100, 200, 500];
const AMPS = [
  0.032, 0.04, 0.05, 0.063, 0.08, 0.1, 0.125, 0.16, 0.2, 0.25, 0.315, 0.4, 0.5, 0.63, 0.8, 1, 1.25, 1.6, 2, 2.5, 3.15,
  4, 5, 6.3, 8, 10, 12.5, 16, 20, 25, 32, 40, 50, 63,
];
/** Volts above its own that something bought by its rating bears; a string shares them by the makers' tolerances. */
const VOLTS_OVER = 1.05;
/** What takes more current at switching on than it does later. */
const STARTS_HARD: readonly unknown[] = ["shines", "pulls"];
/** A value this close to one that is sold is that one. */
const SAME = 1e-3;
const PAIRS = 3;

/** What replaces the named parts. @param estimates of values that the drawing leaves open */
export function replacementsFor(
  circuit: Circuit,
  network: Network,
  parts: readonly string[],
  estimates: readonly Estimate[] = [],
): Replacement[] {
  const worst = worstCases(circuit);
  return parts.flatMap((name) => {
    const part = circuit.parts.find((p) => p.designator === name);
    return part ? [replacementFor(part, network, worst, estimates)] : [];
  });
}

function replacementFor(
  part: Part,
  network: Network,
  worst: ReadonlyMap<string, Worst>,
  estimates: readonly Estimate[],
): Replacement {
  const isEstimate = estimates.some((e) => e.designator === part.designator);
  const value = boughtBy(part, isEstimate);
  const ohms = value?.unit === "ohm" ? value.nominal : null;
  const isOdd = ohms !== null && part.kind === "resistor" && (isEstimate || seriesOf(ohms) === null);
  const nearest = isOdd && ohms !== null ? nearestInSeries(ohms, "E24") : null;
  const isNear = nearest !== null && ohms !== null && Math.abs(nearest / ohms - 1) < SAME;
  return {
    part,
    value,
    rated: "resistance" in part && part.resistance.by === "rating" ? part.resistance : null,
    load: loadOn(part, worst),
    stands: standsOf(part, worst),
    nearest,
    pairs: isOdd && !isNear && ohms !== null ? matchTwo(ohms, "E24", PAIRS) : [],
    startsHard:
      rowOf(part.kind).blows === true && network.branches.some((b) => STARTS_HARD.includes(rowOf(b.kind).works)),
  };
}

function boughtBy(part: Part, isEstimate: boolean): Replacement["value"] {
  // What the readings leave open of a value is no tolerance of a part that is sold.
  const tolerance = isEstimate ? KINDS[part.kind].tolerance : part.tolerance;
  if (part.kind === "supply")
    return part.volts === null ? null : { unit: "V", nominal: part.volts, tolerance, isEstimate };
  if (part.kind === "potentiometer") return { unit: "ohm", nominal: part.ohms, tolerance, isEstimate };
  // A diode is bought by what it is made of and bears; only one that breaks down by its volts.
  if ("material" in part)
    return rowOf(part.kind).breaksDown ? { unit: "V", nominal: part.volts, tolerance, isEstimate } : null;
  if (!("resistance" in part) || part.resistance.by !== "ohms") return null;
  return { unit: "ohm", nominal: part.resistance.ohms, tolerance, isEstimate };
}

/** Volts that diodes and capacitors are sold for, and the share of them that may be used. */
const DIODE_VOLTS = [20, 40, 60, 100, 200, 400, 600, 1000];
const CAPACITOR_VOLTS = [6.3, 10, 16, 25, 35, 50, 63, 100, 250, 400];
const DIODE_SHARE = 0.5;

function standsOf(part: Part, worst: ReadonlyMap<string, Worst>): number | null {
  const own = worst.get(branchCalled(part.designator, part.kind));
  if (!own) return null;
  const { form, material, breaksDown, used } = rowOf(part.kind);
  if (form === "capacitance") {
    const drawn = "voltRating" in part ? (part.voltRating ?? 0) : 0;
    return CAPACITOR_VOLTS.find((v) => v >= Math.max(drawn, own.volts / used)) ?? own.volts / used;
  }
  // What shines stands next to nothing backwards, and is no part for that.
  if (!material || breaksDown || rowOf(part.kind).works === "shines" || own.backVolts <= 0) return null;
  return DIODE_VOLTS.find((v) => v >= own.backVolts / DIODE_SHARE) ?? own.backVolts / DIODE_SHARE;
}

function loadOn(part: Part, worst: ReadonlyMap<string, Worst>): RatedLoad | null {
  const own = [...worst].filter(([name]) => designatorOf(name) === part.designator).map(([, w]) => w);
  if (own.length === 0) return null;
  const most = (key: keyof Worst) => Math.max(...own.map((w) => w[key]));
  const { role, rating, used, isContact, form } = rowOf(part.kind);
  if (role === "meter" || form === "capacitance") return null;
  if (part.kind === "supply") return rated("current", most("amps"), part.limit, used, AMPS);
  if (rating === "current") {
    if (isContact && part.currentRating === undefined) return null;
    return rated("current", most("amps"), part.currentRating, used, AMPS);
  }
  if ("resistance" in part && part.resistance.by === "rating")
    return rated("volts", most("nominalVolts"), part.resistance.volts, VOLTS_OVER, []);
  if (role === "consumer" && part.powerRating === undefined) return null;
  // Current through a piece of a track counts as if it went through all of it: the rating is the whole track's.
  const watts = part.kind === "potentiometer" ? most("amps") ** 2 * part.ohms : most("watts");
  return rated("power", watts, part.powerRating, used, WATTS);
}

function rated(
  of: RatedLoad["of"],
  worst: number,
  drawn: number | undefined,
  used: number,
  sold: readonly number[],
): RatedLoad {
  const needed = worst / used;
  const least = sold.find((r) => r >= needed * (1 - SAME)) ?? needed;
  return {
    of,
    worst,
    least,
    drawn: drawn ?? null,
    isTooSmall: drawn !== undefined && drawn < needed * (1 - SAME),
    isExceeded: drawn !== undefined && worst > drawn * (1 + SAME) * (of === "volts" ? used : 1),
  };
}
