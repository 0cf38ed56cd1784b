import type { Network } from "../circuit/index.ts";
import type { Configuration } from "../configuration/index.ts";
import type { Site } from "../faults/index.ts";
import type { NodePair } from "../measure/index.ts";
import type { NumericReading } from "../record/index.ts";
import type { PartMode, Supposed } from "./supposed.ts";

/** Volts at every node that can be reached, against the reference, as the circuit stands. */
export function testPoints({ nodes, reference }: Network, standing: Configuration = {}): NumericReading[] {
  const state = Object.keys(standing).length > 0 ? { state: standing } : {};
  return nodes.flatMap((from, n): NumericReading[] =>
    n === reference || from.includes(".") ? [] : [{ quantity: "voltage", from, value: 0, ...state }],
  );
}

/** A site of the table of faults as something that can be supposed, at a share of its values; null of a misplaced lead. */
export function supposedAt(
  { nodes, branches }: Network,
  bridges: readonly NodePair[],
  site: Site,
  share: number,
): Supposed | null {
  if (site.moved) return null;
  if (site.branch < 0) {
    const [a, b] = bridges[site.bridge];
    return { nodes: [nodes[a], nodes[b]], mode: "bridged" };
  }
  const part = branches[site.branch].name;
  const mode = site.mode as PartMode;
  return site.value ? { part, mode, value: Number(site.value(share).toPrecision(4)) } : { part, mode };
}
