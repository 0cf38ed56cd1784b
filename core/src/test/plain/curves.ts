import type { Part } from "../../circuit/index.ts";

/**
 * Junctions and contacts the plain way, from the model's words: Shockley's law through the forward volts at 10 mA with a
 * slope factor of 1.8 at 25 °C, breakdown as steep through the Zener volts at 5 mA, a surface of 1 nS.
 */

/** Amperes and siemens at volts across the junction by itself, with a knee so many times softer than it is. */
export type Curve = (volts: number, soft: number) => readonly [number, number];

export interface PlainJunction {
  readonly curve: Curve;
  /** Ohms in series. */
  readonly inside: number;
}

const SLOPE = 1.8 * 0.02569;
const INSIDE: Readonly<Record<string, number>> = {
  silicon: 0.1,
  schottky: 0.1,
  infrared: 2,
  red: 4,
  yellow: 4,
  green: 4,
  blue: 6,
  white: 6,
};
const e = (x: number) => Math.exp(Math.min(x, 400));

type JunctionPart = Extract<Part, { material: unknown }>;

/** @param volts forward, or Zener volts of one that breaks down; `leak` siemens beside it */
export function plainJunction(part: JunctionPart, volts: number, leak = 1e-9, isTurned = false): PlainJunction {
  const isZener = part.kind === "zener";
  const inside = isZener ? 3 : INSIDE[part.material];
  const forward = isZener ? 0.7 : volts;
  const curve: Curve = (across, soft) => {
    const u = isTurned ? -across : across;
    const a = SLOPE * soft;
    const start = 0.01 / (Math.exp((forward - 0.01 * inside) / a) - 1);
    let amps = start * (e(u / a) - 1) + leak * u;
    let siemens = (start * e(u / a)) / a + leak;
    if (isZener) {
      const back = 0.005 * e(-(u + volts - 0.005 * inside) / a);
      amps -= back;
      siemens += back / a;
    }
    return [isTurned ? -amps : amps, siemens];
  };
  return { curve, inside };
}

/** What a contact follows: the coil of its name, and at which of its amperes; null of what is none that can move. */
export function plainCoil({ designator }: Part, parts: readonly Part[]) {
  const [, coil, rest] = /^(.+)\.(no|nc)\d*$/i.exec(designator) ?? [];
  const own = parts.find((p) => p.designator === coil);
  if (own === undefined || own.kind !== "coil") return null;
  const { resistance } = own;
  const most = Math.max(0, ...parts.map((p) => (p.kind === "supply" ? (p.volts as number) : 0)));
  const amps =
    resistance.by === "rating"
      ? resistance.watts / resistance.volts
      : most / (resistance as { readonly ohms: number }).ohms;
  return {
    coil,
    closes: rest.toLowerCase() === "no",
    pulls: amps * (own.pulls ?? 0.7),
    drops: amps * (own.drops ?? 0.2),
  };
}
