import { type BranchFault, branchCalled, lawsOf, type Network, type NodeName, withAdded } from "../circuit/index.ts";
import {
  DIODE_TEST,
  isDiodeTest,
  isUnpowered,
  type MeterData,
  type NumericReading,
  type RangeData,
} from "../record/index.ts";
import { type Topology, topologyOf, type Unsolvable } from "../solve/index.ts";
import { type MeterLeftIn, tieOf, withMeters } from "./leftIn.ts";
import { errorOf, type MeterError, rangeOf } from "./limits.ts";
import { buildPorts, type NodePair, type Ports } from "./ports.ts";
import { AS_DRAWN, type ReadSetting, settingKey, settingOf } from "./setting.ts";

/**
 * One reading as a linear form on its own circuit, the meter connected. Elements are branches, then candidate bridges.
 * y is what the meter would show, q the elements' quantities, a[e] = ∂y/∂σ_e, all with the meter in place. Whatever
 * changes an element acts through a source σ there: y' = y + Σ a_e·σ_e.
 */
export interface Probe {
  readonly reading: NumericReading;
  readonly setting: number;
  readonly y: number;
  readonly q: Float64Array;
  readonly a: Float64Array;
  /**
   * ∂q_e/∂σ_f = x[e·E + f] + beta·c[e]·c[f]: the circuit without the meter, shared by all readings of a setting, and
   * what the meter adds (Sherman–Morrison).
   */
  readonly x: Float64Array;
  readonly c: Float64Array;
  readonly beta: number;
  /** The range it was taken on, and how the meter errs there. */
  readonly range: RangeData;
  readonly error: MeterError;
  /** The two points have no connection at all: a real meter shows 0 V there, an ohmmeter OL. */
  readonly apart: boolean;
}

export interface ProbeSet {
  readonly kind: "probes";
  readonly network: Network;
  readonly elementCount: number;
  readonly branchCount: number;
  readonly bridges: readonly NodePair[];
  readonly probes: readonly Probe[];
  /** Every setting that occurs, with its solved network. The first is the healthy circuit as drawn, under power. */
  readonly settings: readonly SolvedSetting[];
}

export interface SolvedSetting {
  readonly setting: ReadSetting;
  readonly ports: Ports;
  /** Couplings of its elements, as in a probe; `bare` is the circuit with no meter reading it. */
  readonly bare: BareCircuit;
}

/** What of a probe tells how elements answer to changes. */
export type BareCircuit = Pick<Probe, "setting" | "q" | "x" | "c" | "beta">;

export type ReadingProblem = { readonly kind: "reading"; readonly index: number; readonly why: string };

export interface ProbeOptions {
  readonly meter: MeterData;
  readonly bridges?: readonly NodePair[];
  /** Faults by branch number. */
  readonly faults?: ReadonlyMap<number, BranchFault>;
  /** False leaves `x` empty, where nothing will be changed any more. */
  readonly couplings?: boolean;
  /** Readings from this number on are taken by no meter: nothing loads the circuit. */
  readonly unloadedFrom?: number;
}

/**
 * Prepares every numeric reading: which network it was taken in, what it should show, and how it moves with each
 * element. One dense inverse per setting; O(readings × elements²) besides.
 */
export function buildProbes(
  drawn: Network,
  readings: readonly NumericReading[],
  options: ProbeOptions,
): ProbeSet | Unsolvable | ReadingProblem {
  const { meter, bridges = [], couplings = true, unloadedFrom = readings.length } = options;
  let network = drawn;
  for (let i = 0; i < readings.length; i += 1) {
    const added = withAdded(network, readings[i].state?.added ?? []);
    if (typeof added === "string")
      return { kind: "reading", index: i, why: `there is no node ${added} in this circuit` };
    network = added;
  }
  const topology = topologyOf(network);
  const index = indexNetwork(network);
  const points: ReadPoint[] = [];
  for (let i = 0; i < readings.length; i += 1) {
    const point = locate(readings[i], network, index);
    if (typeof point === "string") return { kind: "reading", index: i, why: point };
    points.push(point);
  }
  const keys = new Map<string, { setting: ReadSetting; left: readonly LeftInPoint[]; members: number[] }>([
    [settingKey(AS_DRAWN), { setting: AS_DRAWN, left: [], members: [] }],
  ]);
  for (let i = 0; i < readings.length; i += 1) {
    const setting = settingOf(readings[i], network, meter);
    const key = settingKey(setting);
    const left = leftIn(setting, network, index);
    if (typeof left === "string") return { kind: "reading", index: i, why: left };
    const entry = keys.get(key) ?? { setting, left, members: [] };
    entry.members.push(i);
    keys.set(key, entry);
  }
  const supplies = new Set(network.branches.flatMap((b, k) => (b.kind === "supply" ? [k] : [])));
  const probes = new Array<Probe>(readings.length);
  const settings: ProbeSet["settings"][number][] = [];
  for (const { setting, left, members } of keys.values()) {
    const here = members.map((i) => points[i]);
    const ports = portsFor(network, topology, setting, left, here, options);
    if (ports.kind === "unsolvable") return ports;
    const x = couplingsOf(ports, network.branches.length + bridges.length, couplings);
    const context: ProbeContext = { setting: settings.length, ports, bridgeCount: bridges.length, supplies, meter, x };
    const twins = new Map<string, Probe>();
    let pair = 0;
    for (const i of members) {
      const point = points[i];
      const element = point.kind === "pair" ? network.branches.length + bridges.length + pair++ : -1;
      const own = ownOf(readings[i], point.kind === "pair" ? element : point.branch, i < unloadedFrom, context);
      const where = point.kind === "pair" ? point.pair : `${point.branch} ${point.kind === "lifted" && point.isTurned}`;
      const place = `${own.loading} ${readings[i].quantity} ${point.kind} ${where}`;
      const twin = twins.get(place);
      probes[i] = twin ? { ...twin, ...own } : probeOf(own, point, element, context);
      twins.set(place, probes[i]);
    }
    const E = network.branches.length + bridges.length;
    const bare = { setting: settings.length, q: ports.q.slice(0, E), x, c: new Float64Array(E), beta: 0 };
    settings.push({ setting, ports, bare });
  }
  return {
    kind: "probes",
    network,
    branchCount: network.branches.length,
    elementCount: network.branches.length + bridges.length,
    bridges,
    probes,
    settings,
  };
}

type ReadPoint =
  | { kind: "pair"; pair: NodePair }
  | { kind: "branch"; branch: number }
  /** Turned: red is at the end to which its current runs. */
  | { kind: "lifted"; branch: number; isTurned: boolean };

interface NetworkIndex {
  readonly nodes: ReadonlyMap<string, number>;
  readonly branches: ReadonlyMap<string, number>;
}

function indexNetwork(network: Network): NetworkIndex {
  return {
    nodes: new Map(network.nodes.map((name, i) => [name as string, i])),
    // A part of several branches goes by the one that stands for it, as well.
    branches: new Map(
      network.branches.flatMap(({ name, part }, i) =>
        name === branchCalled(part.designator, part.kind)
          ? [[part.designator, i] as const, [name, i] as const]
          : [[name, i] as const],
      ),
    ),
  };
}

function locate(reading: NumericReading, network: Network, index: NetworkIndex): ReadPoint | string {
  if (reading.quantity === "current") return branchPoint(reading.through, index);
  const node = (name: NodeName | undefined) =>
    name === undefined ? network.reference : (index.nodes.get(name) ?? (name === "0" ? network.reference : undefined));
  const from = node(reading.from);
  const to = node(reading.to);
  if (reading.lifted !== undefined) {
    const point = branchPoint(reading.lifted, index);
    if (typeof point === "string") return point;
    const own = network.branches[point.branch];
    const isTurned = reading.quantity === "voltage" && from === own.to && from !== own.from;
    return { kind: "lifted", branch: point.branch, isTurned };
  }
  if (from === undefined) return `there is no node ${reading.from} in this circuit`;
  if (to === undefined) return `there is no node ${reading.to} in this circuit`;
  return { kind: "pair", pair: [from, to] };
}

function branchPoint(name: string, index: NetworkIndex): { kind: "branch"; branch: number } | string {
  const branch = index.branches.get(name);
  return branch === undefined ? `there is no part ${name} in this circuit` : { kind: "branch", branch };
}

interface LeftInPoint {
  readonly what: MeterLeftIn;
  readonly point: ReadPoint;
}

/** Where the meters of a setting are. @returns what is wrong, where one is nowhere */
function leftIn({ meters }: ReadSetting, network: Network, index: NetworkIndex): LeftInPoint[] | string {
  const found: LeftInPoint[] = [];
  for (const what of meters) {
    const place = "through" in what ? { through: what.through } : { from: what.from, to: what.to };
    const quantity = "through" in what ? "current" : "voltage";
    const point = locate({ quantity, ...place, value: 0 } as NumericReading, network, index);
    if (typeof point === "string") return `of a meter left in: ${point}`;
    found.push({ what, point });
  }
  return found;
}

function portsFor(
  network: Network,
  topology: Topology,
  setting: ReadSetting,
  left: readonly LeftInPoint[],
  points: readonly ReadPoint[],
  { meter, bridges = [], faults }: ProbeOptions,
): Ports | Unsolvable {
  const pairsOf = (list: readonly ReadPoint[]) => list.flatMap((point) => (point.kind === "pair" ? [point.pair] : []));
  const pairs = [...bridges, ...pairsOf(points)];
  const across = pairsOf(left.map((l) => l.point));
  const laws = lawsOf(network.branches, setting, faults);
  const ports = buildPorts(network, topology, laws, [...pairs, ...across]);
  if (ports.kind === "unsolvable" || left.length === 0) return ports;
  let pair = network.branches.length + pairs.length;
  const ties = left.map(({ what, point }) => ({
    element: point.kind === "pair" ? pair++ : point.branch,
    tie: tieOf(what, meter),
  }));
  return withMeters(ports, ties);
}

interface ProbeContext {
  readonly setting: number;
  readonly ports: Ports;
  readonly bridgeCount: number;
  readonly meter: MeterData;
  readonly supplies: ReadonlySet<number>;
  readonly x: Float64Array;
}

/** What a reading has of its own beside others at the same place. */
interface Own extends Pick<Probe, "reading" | "range" | "error"> {
  /** How the meter ties source to quantity, σ = loading·q: minus the input's siemens on volts, the burden on amperes. */
  readonly loading: number;
}

/** @param m the element it reads; what flows or lies there says which range one would choose for a reading that says nothing */
function ownOf(reading: NumericReading, m: number, isLoaded: boolean, { ports, meter }: ProbeContext): Own {
  const range = rangeOf(reading, meter, isUnpowered(reading) ? 0 : ports.q[m]);
  const error = errorOf(reading, meter, range);
  if (!isLoaded || reading.by !== undefined || isUnpowered(reading)) return { reading, range, error, loading: 0 };
  return { reading, range, error, loading: reading.quantity === "current" ? range.ohms : -1 / range.ohms };
}

function probeOf(own: Own, point: ReadPoint, element: number, context: ProbeContext): Probe {
  const { setting, ports, x, bridgeCount, supplies } = context;
  const { reading, range, error, loading: g } = own;
  const E = ports.branchCount + bridgeCount;
  const a = new Float64Array(E);
  const c = new Float64Array(E);
  const q = new Float64Array(E);
  const blank = { reading, range, error, setting, q, a, c, beta: 0, x, apart: false };
  // What a meter sends by itself: an ampere to tell ohms by, or what its diode test has.
  const sent = isDiodeTest(reading) ? DIODE_TEST.amps : 1;
  if (point.kind === "lifted") {
    const sign = point.isTurned ? -1 : 1;
    q[point.branch] = sign * sent;
    a[point.branch] = sign;
    const isOpen = ports.laws[point.branch].kind === "open";
    const { ohms, volts } = ports.point.lines;
    const y = isOpen ? Number.POSITIVE_INFINITY : sign * volts[point.branch] + ohms[point.branch] * sent;
    // The part alone: nothing else of the circuit touches it.
    return { ...blank, y, x: new Float64Array(x.length) };
  }
  const ohms = isUnpowered(reading);
  const m = point.kind === "branch" ? point.branch : element;
  if (point.kind === "pair" && ports.apart[element - ports.branchCount] === 1) {
    if (!ohms) q.set(ports.q.subarray(0, E));
    return { ...blank, y: ohms ? Number.POSITIVE_INFINITY : 0, apart: true };
  }
  const row = ports.x.subarray(m * ports.elementCount, m * ports.elementCount + E);
  const self = ports.x[m * ports.elementCount + m];
  if (ohms) {
    a.set(row);
    for (let e = 0; e < E; e += 1) q[e] = row[e] * sent;
    return { ...blank, y: self * sent };
  }
  const gain = 1 / (1 - g * self);
  const beta = g * gain;
  // A supply's current counts out of its plus; a branch's runs from its plus through it.
  const sign = point.kind === "branch" && supplies.has(point.branch) ? -1 : 1;
  for (let e = 0; e < E; e += 1) {
    a[e] = sign * row[e] * gain;
    c[e] = row[e];
    q[e] = ports.q[e] + beta * ports.q[m] * row[e];
  }
  return { ...blank, beta, y: sign * ports.q[m] * gain };
}

/** What sources at the first E elements do to their quantities, E×E; empty where nobody will ask. */
function couplingsOf({ x, elementCount: W }: Ports, E: number, wanted: boolean): Float64Array {
  const out = new Float64Array(wanted ? E * E : 0);
  for (let e = 0; e < E && wanted; e += 1) out.set(x.subarray(e * W, e * W + E), e * E);
  return out;
}
