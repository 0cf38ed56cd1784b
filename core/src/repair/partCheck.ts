import { coldLaw, coldSpreadOf, ohmsOf, type Part, RATED_LAWS, rowOf } from "../circuit/index.ts";
import { limitOf } from "../measure/index.ts";
import type { MeterData, NumericReading } from "../record/index.ts";

/** What a meter should show of a good new part by itself, before it is fitted. */
export interface PartCheck {
  readonly unit: "ohm" | "V";
  readonly low: number;
  readonly high: number;
}

/** The new part's tolerance and the meter's limit together; null of what a meter does not tell (its own kind). */
export function checkOf(part: Part, meter: MeterData): PartCheck | null {
  if (part.kind === "supply")
    return part.volts === null ? null : around(Math.abs(part.volts), part.tolerance, "V", meter);
  if (part.kind === "potentiometer") return around(part.ohms, part.tolerance, "ohm", meter);
  const { role, byRating } = rowOf(part.kind);
  if (role === "meter") return null;
  if ("material" in part)
    // The meter's diode test sends less than data sheets do, and reaches no Zener volts.
    return rowOf(part.kind).breaksDown
      ? null
      : between(part.volts * DIODE_TEST, part.volts * (1 + part.tolerance), "V", meter);
  if (!("resistance" in part) && !("ohms" in part)) return null;
  if (!("resistance" in part)) {
    // A fuse of its own make may have twice the usual; a contact has next to nothing, and what the meter leaves open.
    const most = part.ohms * (rowOf(part.kind).isContact ? 1 + part.tolerance : 2);
    return { unit: "ohm", low: 0, high: most + limitAt(most, "ohm", meter) };
  }
  const { resistance } = part;
  if (resistance.by === "unknown") return null;
  if (resistance.by === "ohms") return around(resistance.ohms, part.tolerance, "ohm", meter);
  // A meter reads it cold.
  const law = RATED_LAWS[byRating ?? "resistance"](resistance.volts, resistance.watts);
  const [cold, spread] = [ohmsOf(coldLaw(law)), 2 * coldSpreadOf(law) || part.tolerance];
  return between(cold * Math.exp(-spread), cold * Math.exp(spread), "ohm", meter);
}

/** Whether a new part measured so is good. */
export function isGoodPart({ low, high }: PartCheck, shown: number): boolean {
  return shown >= low && shown <= high;
}

/** Share of the forward volts at 10 mA that a milliampere still finds, at least. */
const DIODE_TEST = 0.6;

function around(nominal: number, tolerance: number, unit: PartCheck["unit"], meter: MeterData): PartCheck {
  return between(nominal * (1 - tolerance), nominal * (1 + tolerance), unit, meter);
}

/** What has ohms of its own shows more than leads held together may: a dead short is none of them. */
function between(low: number, high: number, unit: PartCheck["unit"], meter: MeterData): PartCheck {
  const least = Math.min(limitAt(0, unit, meter), (low + high) / 4);
  return { unit, low: Math.max(least, low - limitAt(low, unit, meter)), high: high + limitAt(high, unit, meter) };
}

function limitAt(value: number, unit: PartCheck["unit"], meter: MeterData): number {
  const reading: NumericReading =
    unit === "V"
      ? { quantity: "voltage", from: "A" as NumericReading["from"] & string, value }
      : { quantity: "resistance", lifted: "R1", value };
  return limitOf(reading, meter);
}
