import { coldLaw, type Network, type NodeName, rowOf } from "../circuit/index.ts";
import { expectReadings } from "../rank/index.ts";
import {
  DIODE_TEST,
  isDiodeTest,
  isUnpowered,
  type Meter,
  type MeterData,
  meterData,
  meterOf,
  type NumericReading,
  type Quantity,
  type RangeData,
} from "../record/index.ts";

/** How to set the meter for a reading, and where its leads go. SI units. */
export interface Advice {
  readonly quantity: Quantity;
  readonly meter: MeterData;
  /**
   * Where to begin: the lowest range that holds all that any live suspect foretells. Of ohms, which harm no meter, the one
   * that shows the digits; over its top it says OL.
   */
  readonly range: RangeData;
  /** Where to go on to for more digits, if what is likely is there; null where the first one is as good. */
  readonly finer: RangeData | null;
  /** More may come than the highest range holds. */
  readonly isOver: boolean;
  readonly red: { readonly socket: string; readonly at: LeadAt };
  readonly black: { readonly socket: string; readonly at: LeadAt };
  /** Of a current: the joint to open. */
  readonly open: { readonly part: string; readonly at: NodeName } | null;
  readonly ohms: OhmsAdvice | null;
  /** The dial stands on the diode test. */
  readonly isDiodeTest: boolean;
}

/** A lead is held to a node, or to the end of a part that was freed there. */
export type LeadAt = { readonly node: NodeName } | { readonly freed: string; readonly from: NodeName };

/** What would mislead an ohms reading. */
export interface OhmsAdvice {
  /** The part right across the points, with its own ohms, and what is to be read in circuit. */
  readonly inCircuit: { readonly part: string; readonly own: number; readonly shown: number } | null;
  /** Parts of the lowest way besides it, in order. */
  readonly parallel: readonly string[];
  /** Ohms of the leads, that a reading shows too much unless they are nulled. */
  readonly leads: number;
  /** The junction right across the points: the test volts of an ohms range do not reach its knee. */
  readonly blind: string | null;
  /** What is shown instead with a body of 100 kΩ in parallel; null where that does not show. */
  readonly withFingers: number | null;
}

/** A body from hand to hand by dry fingers, about. */
export const BODY_OHMS = 1e5;
/** A parallel way that takes less than this share off is not worth a word. */
const MISLEADS = 0.03;
/** A range is worth turning to for at least so many times finer digits. */
const FINER = 5;

/**
 * What to set, and where the leads go.
 * @param highest the most, by size, that any live suspect foretells there
 * @param likely what is most probably there
 * @param readable what most suspects foretell no more than, what is over range left out
 */
export function adviceFor(
  network: Network,
  point: NumericReading,
  meter: Meter,
  { highest, likely, readable }: { readonly highest: number; readonly likely: number; readonly readable?: number },
): Advice {
  const data = meterOf(point, meterData(meter));
  const { quantity } = point;
  const ranges = data.ranges[quantity];
  const top = ranges[ranges.length - 1];
  const holding = (size: number) => ranges.find((r) => r.span >= size) ?? top;
  const holds = isDiodeTest(point) ? DIODE_TEST.topVolts : quantity === "resistance" ? (readable ?? likely) : highest;
  const range = holding(Math.min(holds, Number.MAX_VALUE));
  const fine = holding(Math.abs(likely) * 1.02);
  const isFiner =
    !isDiodeTest(point) &&
    fine.span < range.span &&
    fine.resolution * FINER <= range.resolution &&
    fine.socket === range.socket;
  const open = quantity === "current" ? jointOf(network, point.through) : null;
  const leads = leadsOf(network, point, open);
  return {
    quantity,
    meter: data,
    range,
    finer: isFiner ? fine : null,
    isOver: !isUnpowered(point) && highest > top.span,
    isDiodeTest: isDiodeTest(point),
    red: { socket: range.socket, at: leads.red },
    black: { socket: data.common, at: leads.black },
    open,
    ohms: quantity === "resistance" ? ohmsAdvice(network, point, meter, data) : null,
  };
}

/** The end of a part where fewer others meet: the easier joint to open. A supply is opened at its plus. */
export function jointOf(network: Network, through: string): { part: string; at: NodeName } | null {
  const branch = network.branches.find((b) => b.name === through);
  if (!branch) return null;
  const degree = (node: number) => network.branches.filter((b) => b.from === node || b.to === node).length;
  const isTo = branch.kind !== "supply" && degree(branch.to) < degree(branch.from);
  return { part: branch.name, at: network.nodes[isTo ? branch.to : branch.from] };
}

/** Red where the current enters, so that what is read has the sign it is counted with. */
function leadsOf(network: Network, point: NumericReading, open: Advice["open"]): { red: LeadAt; black: LeadAt } {
  const reference = network.nodes[network.reference];
  if (point.quantity === "current" && open) {
    const branch = network.branches.find((b) => b.name === point.through);
    const node: LeadAt = { node: open.at };
    const freed: LeadAt = { freed: open.part, from: open.at };
    // Out of a supply's plus it comes from the supply; into any other part from the node it enters at.
    const entersFromNode = branch !== undefined && branch.kind !== "supply" && network.nodes[branch.from] === open.at;
    return entersFromNode ? { red: node, black: freed } : { red: freed, black: node };
  }
  if (point.quantity !== "current" && point.lifted !== undefined) {
    const branch = network.branches.find((b) => b.name === point.lifted);
    const at = branch ? network.nodes[branch.from] : reference;
    const other = branch ? network.nodes[branch.to] : reference;
    return { red: { freed: point.lifted, from: at }, black: { node: other } };
  }
  const { from = reference, to = reference } = point as { from?: NodeName; to?: NodeName };
  return { red: { node: from }, black: { node: to } };
}

function ohmsAdvice(network: Network, point: NumericReading, meter: Meter, data: MeterData): OhmsAdvice {
  const leads = data.leads.ohms;
  if (point.quantity !== "resistance") throw new Error("ohms only");
  const shown = expectReadings(network, [point], meter)?.[0].value ?? Number.NaN;
  const fingered = 1 / (1 / shown + 1 / BODY_OHMS);
  const limit = Math.max(0.01 * shown, 0.1);
  const withFingers = Number.isFinite(shown) && shown - fingered > limit ? fingered : null;
  const ends = new Set([point.from, point.to ?? network.nodes[network.reference]]);
  const across = network.branches.find(
    (b) => b.from !== b.to && ends.has(network.nodes[b.from]) && ends.has(network.nodes[b.to]) && b.kind !== "supply",
  );
  const tested = point.lifted === undefined ? across : network.branches.find((b) => b.name === point.lifted);
  const blind = tested && rowOf(tested.kind).isPolar ? tested.name : null;
  if (point.lifted !== undefined || !across || blind !== null)
    return { inCircuit: null, parallel: [], leads, blind, withFingers };
  const own = expectReadings(network, [{ quantity: "resistance", lifted: across.name, value: 0 }], meter)?.[0].value;
  const misleads = own !== undefined && shown < own * (1 - MISLEADS);
  return {
    inCircuit: misleads ? { part: across.name, own, shown } : null,
    parallel: misleads ? lowestWay(network, across.from, across.to, across.name) : [],
    leads,
    blind,
    withFingers,
  };
}

/** Parts along the way of least ohms between two nodes that does without one part; supplies are disconnected. Dijkstra. */
function lowestWay(network: Network, from: number, to: number, without: string): string[] {
  const best = new Map<number, { ohms: number; way: readonly string[] }>([[from, { ohms: 0, way: [] }]]);
  const done = new Set<number>();
  for (;;) {
    let at = -1;
    for (const [node, { ohms }] of best)
      if (!done.has(node) && (at < 0 || ohms < (best.get(at)?.ohms ?? Number.POSITIVE_INFINITY))) at = node;
    if (at < 0) return [];
    const here = best.get(at) as { ohms: number; way: readonly string[] };
    if (at === to) return [...here.way];
    done.add(at);
    for (const { name, law, from: a, to: b } of network.branches) {
      if (name === without || (a !== at && b !== at)) continue;
      const cold = coldLaw(law);
      const ohms = cold.kind === "resistance" ? cold.ohms : null;
      if (ohms === null) continue;
      const next = a === at ? b : a;
      const sum = here.ohms + ohms;
      if (sum < (best.get(next)?.ohms ?? Number.POSITIVE_INFINITY))
        best.set(next, { ohms: sum, way: [...here.way, name] });
    }
  }
}
