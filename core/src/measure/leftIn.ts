import type { Configuration } from "../configuration/index.ts";
import type { MeterData } from "../record/index.ts";
import type { Ports } from "./ports.ts";

/** A meter that stays in the circuit while another reading is taken. */
export type MeterLeftIn = NonNullable<Configuration["meters"]>[number];

/**
 * How a meter ties an element's source to its quantity, σ = tie·q: the burden in ohms where it stands in a branch, minus
 * the input's siemens where it lies across a pair of nodes. Nothing (0) of an ideal one.
 */
export function tieOf(left: MeterLeftIn, meter: MeterData): number {
  return "through" in left ? (left.ohms ?? meter.burdenOhms) : -1 / (left.ohms ?? meter.inputOhms);
}

/**
 * The circuit with meters in it at some elements: a rank-one update each (Sherman–Morrison). Across two nodes that
 * nothing connects a meter carries no current, and changes nothing.
 */
export function withMeters(ports: Ports, ties: readonly { readonly element: number; readonly tie: number }[]): Ports {
  const E = ports.elementCount;
  const x = Float64Array.from(ports.x);
  const q = Float64Array.from(ports.q);
  for (const { element, tie } of ties) {
    if (element >= ports.branchCount && ports.apart[element - ports.branchCount]) continue;
    const row = x.slice(element * E, (element + 1) * E);
    const by = tie / (1 - tie * row[element]);
    const carried = by * q[element];
    for (let e = 0; e < E; e += 1) {
      q[e] += carried * row[e];
      for (let f = 0; f < E; f += 1) x[e * E + f] += by * row[e] * row[f];
    }
  }
  return { ...ports, q, x };
}
