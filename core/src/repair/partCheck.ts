import { coldLaw, coldSpreadOf, ohmsOf, type Part, RATED_LAWS, rowOf } from "../circuit/index.ts";
import { limitOf } from "../measure/index.ts";
import type { MeterData, NumericReading } from "../record/index.ts";

/** What a meter should show of a good new part by itself, before it is fitted. */
export interface PartCheck {
  readonly unit: "ohm" | "V";
  readonly low: number;
  readonly high: number;
}

/** Ohms below which a fuse or a contact is one. */
const CONTACT_OHMS = 0.5;

/** The new part's tolerance and the meter's limit together; null of what a meter does not tell (its own kind). */
export function checkOf(part: Part, meter: MeterData): PartCheck | null {
  if (part.kind === "supply")
    return part.volts === null ? null : around(Math.abs(part.volts), part.tolerance, "V", meter);
  if (part.kind === "potentiometer") return around(part.ohms, part.tolerance, "ohm", meter);
  const { role, byRating } = rowOf(part.kind);
  if (role === "meter") return null;
  if (!("resistance" in part))
    return { unit: "ohm", low: 0, high: Math.max(CONTACT_OHMS, 2 * part.ohms) + limitAt(0, "ohm", meter) };
  const { resistance } = part;
  if (resistance.by === "unknown") return null;
  if (resistance.by === "ohms") return around(resistance.ohms, part.tolerance, "ohm", meter);
  // A meter reads it cold.
  const law = RATED_LAWS[byRating ?? "resistance"](resistance.volts, resistance.watts);
  return around(ohmsOf(coldLaw(law)), 2 * coldSpreadOf(law) || part.tolerance, "ohm", meter);
}

/** Whether a new part measured so is good. */
export function isGoodPart({ low, high }: PartCheck, shown: number): boolean {
  return shown >= low && shown <= high;
}

function around(nominal: number, tolerance: number, unit: PartCheck["unit"], meter: MeterData): PartCheck {
  const [low, high] = [nominal * (1 - tolerance), nominal * (1 + tolerance)];
  return { unit, low: Math.max(0, low - limitAt(low, unit, meter)), high: high + limitAt(high, unit, meter) };
}

function limitAt(value: number, unit: PartCheck["unit"], meter: MeterData): number {
  const reading: NumericReading =
    unit === "V"
      ? { quantity: "voltage", from: "A" as NumericReading["from"] & string, value }
      : { quantity: "resistance", lifted: "R1", value };
  return limitOf(reading, meter);
}
