import { type Branch, type CircuitState, lawOf, type Network } from "../circuit/index.ts";
import type { Configuration } from "../configuration/index.ts";
import { isVolts, type MeterData, type NumericReading } from "../record/index.ts";
import { corrected } from "./correction.ts";
import { limitOf } from "./limits.ts";

/** A meter across two nodes of so many ohms or more takes a current that no reading shows. */
const LOADS = 1e6;

/** Readings whose sum has to come out at nothing, whatever is wrong in the circuit. */
export interface Closure {
  readonly kind: "loop" | "junction";
  /** The node where currents meet, or the nodes that a loop of voltages runs through. */
  readonly at: readonly string[];
  /** Numbers of the readings in it, and with which sign each counts. */
  readonly terms: readonly { readonly reading: number; readonly sign: 1 | -1 }[];
  /** What it comes to; in volts or amperes, and in limits of the readings together. */
  readonly residual: number;
  readonly limits: number;
}

export interface Closures {
  readonly checks: readonly Closure[];
  /** The reading that is most probably off: in what does not close, and in little or nothing that does. */
  readonly suspect: number | null;
}

/**
 * Kirchhoff's laws on what was read, before any fault is supposed: voltages round every loop of readings, currents at
 * every junction of which all branches were read. Readings are of one setting of the circuit.
 */
export function closuresOf(network: Network, readings: readonly NumericReading[], meter: MeterData): Closures {
  const checks = [...loops(network, readings, meter), ...junctions(network, readings, meter)];
  const score = new Map<number, number>();
  for (const { terms, limits } of checks)
    for (const { reading } of terms)
      score.set(reading, (score.get(reading) ?? 0) + (Math.abs(limits) > 1 ? Math.abs(limits) : -2));
  const ranked = [...score].filter(([, s]) => s > 0).sort(([, a], [, b]) => b - a);
  // Where several stand alike in all that fails, none can be named.
  const isAlone = ranked.length === 1 || (ranked.length > 1 && ranked[0][1] > ranked[1][1] * 1.001);
  return { checks, suspect: isAlone ? ranked[0][0] : null };
}

/** Every loop that a voltage reading closes over a tree of those before it. */
function loops(network: Network, readings: readonly NumericReading[], meter: MeterData): Closure[] {
  const reference = network.nodes[network.reference];
  const edges = readings.flatMap((r, reading) =>
    isVolts(r) && !r.beyond ? [{ reading, from: r.from, to: r.to ?? reference }] : [],
  );
  const tree: typeof edges = [];
  const found: Closure[] = [];
  for (const edge of edges) {
    const way = wayBetween(tree, edge.to, edge.from);
    if (!way) tree.push(edge);
    else {
      const terms = [{ reading: edge.reading, sign: 1 as const }, ...way.terms];
      found.push(closed("loop", [edge.from, ...way.nodes], terms, readings, meter));
    }
  }
  return found;
}

interface Edge {
  readonly reading: number;
  readonly from: string;
  readonly to: string;
}

/** The way from one node to another along readings; null where there is none. */
function wayBetween(tree: readonly Edge[], from: string, to: string): Pick<Way, "nodes" | "terms"> | null {
  const queue: Way[] = [{ at: from, nodes: [from], terms: [] }];
  const seen = new Set([from]);
  for (let way = queue.shift(); way; way = queue.shift()) {
    if (way.at === to) return way;
    for (const edge of tree) {
      if (edge.from !== way.at && edge.to !== way.at) continue;
      const next = edge.from === way.at ? edge.to : edge.from;
      if (seen.has(next)) continue;
      seen.add(next);
      const sign = edge.from === way.at ? (1 as const) : (-1 as const);
      queue.push({
        at: next,
        nodes: [...way.nodes, next],
        terms: [...way.terms, { reading: edge.reading, sign }],
      });
    }
  }
  return null;
}

interface Way {
  readonly at: string;
  readonly nodes: readonly string[];
  readonly terms: Closure["terms"];
}

function junctions(network: Network, readings: readonly NumericReading[], meter: MeterData): Closure[] {
  const through = new Map<string, number>();
  readings.forEach((r, i) => {
    if (r.quantity === "current" && !r.beyond) through.set(r.through, i);
  });
  const state = readings[0]?.state ?? {};
  const isOpen = (b: Branch) => lawOf(b, { power: "on", state: state as CircuitState }, null).kind === "open";
  const besides = besideThePartsIn(state, network);
  return network.nodes.flatMap((name, node): Closure[] => {
    // What was put there for a test carries a current that nobody reads.
    if (besides.has(name)) return [];
    // A lever that stands open carries none, unless one was read.
    const meeting = network.branches.filter(
      (b) => (b.from === node || b.to === node) && b.from !== b.to && (through.has(b.name) || !isOpen(b)),
    );
    const known = meeting.flatMap((b) => {
      const reading = through.get(b.name);
      if (reading === undefined) return [];
      // Amperes count from `from` to `to`, a supply's out of its plus.
      const leaves = (b.from === node) !== (b.kind === "supply");
      return [{ reading, sign: leaves ? (1 as const) : (-1 as const) }];
    });
    if (meeting.length < 2 || known.length < meeting.length) return [];
    return [closed("junction", [name], known, readings, meter)];
  });
}

/** Nodes at which a resistor or a meter that loads lies as well. */
function besideThePartsIn({ added = [], meters = [] }: Configuration, network: Network): ReadonlySet<string> {
  const reference = network.nodes[network.reference];
  const loading = meters.flatMap((m) => ("from" in m && (m.ohms ?? Number.POSITIVE_INFINITY) < LOADS ? [m] : []));
  const pairs = [...added, ...loading] as readonly { readonly from: string; readonly to?: string }[];
  return new Set(pairs.flatMap(({ from, to = reference }) => [from, to]));
}

function closed(
  kind: Closure["kind"],
  at: readonly string[],
  terms: Closure["terms"],
  readings: readonly NumericReading[],
  meter: MeterData,
): Closure {
  const residual = terms.reduce((s, { reading, sign }) => s + sign * corrected(readings[reading], meter).value, 0);
  const limit = Math.hypot(...terms.map(({ reading }) => limitOf(readings[reading], meter)));
  return { kind, at, terms, residual, limits: limit > 0 ? residual / limit : 0 };
}
