import type { Quantity } from "../record/index.ts";
import { parseQuantity } from "../units/index.ts";

/** What a meter says at a moment, SI units. */
export interface Sample {
  readonly value: number;
  /** Over the top of its range. */
  readonly isOver: boolean;
  /** What its last digit stands for, where the digits tell. */
  readonly step?: number;
  /** As the meter says itself; null where it sends a number alone. */
  readonly quantity: Quantity | null;
}

/** Queries of a meter that is asked: SCPI, volume 2 (MEASure), after IEEE 488.2. */
export const QUERIES: Readonly<Record<Quantity, string>> = {
  voltage: "MEAS:VOLT:DC?",
  current: "MEAS:CURR:DC?",
  resistance: "MEAS:RES?",
};
export const IDENTIFY = "*IDN?";
/** How the simulated meter names itself: it alone is told where the probes are. */
export const STAND_IN = "Clever Hound,simulated meter";
/** Before what it says of what it stands on, as a text of JSON: where that is another circuit than the job's. */
export const NOTE = "SIM:NOTE ";
/** Not a number of this size is a reading: SCPI's overload is 9.9E37. */
const OVERLOAD = 9e37;
const OF_UNIT = { V: "voltage", A: "current", ohm: "resistance" } as const;

/**
 * One line of a meter: `7.42 V`, `12,3 mA`, `OL`, `+7.4213E+00`, `9.9E37`. What stands behind a comma and a space, such as a
 * time, is no part of it.
 * @returns null where the line says nothing of the kind
 */
export function sampleIn(line: string): Sample | null {
  const [text] = line.trim().split(/[;\t]|,\s/);
  const over = /^([-+]?)\s*(?:OL|OVLD|OVERLOAD|OVER)\b\.?\s*(.*)$/i.exec(text);
  if (over) {
    const unit = parseQuantity(`1${over[2]}`);
    const quantity = unit.kind === "quantity" && unit.unit && unit.unit in OF_UNIT ? OF_UNIT[unit.unit as "V"] : null;
    return { value: over[1] === "-" ? Number.NEGATIVE_INFINITY : Number.POSITIVE_INFINITY, isOver: true, quantity };
  }
  const exponent = /^([-+]?\d*[.,]?\d+)[eE]([-+]?\d+)\s*([A-Za-zΩµ]*)$/.exec(text);
  if (exponent) {
    const value = Number(`${exponent[1].replace(",", ".")}e${exponent[2]}`);
    if (!Number.isFinite(value)) return null;
    const unit = exponent[3] === "" ? null : parseQuantity(`1${exponent[3]}`);
    const quantity = unit?.kind === "quantity" && unit.unit && unit.unit in OF_UNIT ? OF_UNIT[unit.unit as "V"] : null;
    if (unit && quantity === null) return null;
    if (Math.abs(value) >= OVERLOAD)
      return { value: Math.sign(value) * Number.POSITIVE_INFINITY, isOver: true, quantity };
    const digits = /[.,](\d+)$/.exec(exponent[1])?.[1].length ?? 0;
    const scale = unit?.kind === "quantity" ? unit.value : 1;
    return {
      value: value * scale,
      isOver: false,
      step: Number(`1e${Number(exponent[2]) - digits}`) * scale,
      quantity,
    };
  }
  const read = parseQuantity(text.replace(/\b(?:DC|AC)\b/i, "").trim());
  if (read.kind === "mistake" || (read.unit !== null && !(read.unit in OF_UNIT))) return null;
  return {
    value: read.value,
    isOver: false,
    step: read.step,
    quantity: read.unit === null ? null : OF_UNIT[read.unit as "V"],
  };
}
