import type { Network, NodeName } from "../../circuit/index.ts";
import { buildPorts, buildProbes } from "../../measure/index.ts";
import { type Meter, meterData, type NumericReading } from "../../record/index.ts";
import { topologyOf } from "../../solve/index.ts";
import { isValue } from "../prediction/moved.ts";
import { Predictor } from "../prediction/predictor.ts";
import type { Prediction } from "./describe.ts";
import { type Drawn, drawnLimits } from "./drawn.ts";
import { type Reach, reachesOf } from "./reach.ts";

/** A quantity with how far tolerances may move it. */
export interface Window {
  readonly value: number;
  /** Two standard deviations, from sensitivities. */
  readonly two: number;
  /** With every part at the edge of its tolerance that moves it most the same way, to first order. */
  readonly worst: number;
  /** Parts and what share of the variance each causes, largest first. */
  readonly causes: readonly { readonly part: string; readonly share: number }[];
  /** Where it hangs on a value that is not known: between what it lies. */
  readonly reach?: Reach;
  /** Where something bends sharply within tolerance: its limits, which no line tells. */
  readonly drawn?: Drawn;
}

/** Windows of every node's volts, and of every branch's volts, amperes (`from` to `to`) and watts taken in. */
export interface ExpectedChart {
  readonly nodes: readonly Window[];
  readonly branches: readonly { readonly volts: Window; readonly amps: Window; readonly watts: Window }[];
}

/**
 * What a healthy circuit has at every node and in every part, no meter being there, with tolerance windows by
 * sensitivities, and by drawn circuits where these do not tell.
 * @param lines whether lines are enough, which are quick: nothing is drawn then
 * @returns null where the network cannot be solved
 */
export function expectChart(network: Network, { lines: isLined = false } = {}): ExpectedChart | null {
  const { nodes, branches } = network;
  const points: NumericReading[] = [
    ...nodes.map((from): NumericReading => ({ quantity: "voltage", from, value: 0 })),
    ...branches.map((b): NumericReading => ({ quantity: "voltage", from: nodes[b.from], to: nodes[b.to], value: 0 })),
    ...branches.map((b): NumericReading => ({ quantity: "current", through: b.name, value: 0 })),
  ];
  const data = meterData(undefined);
  const set = buildProbes(network, points, { meter: data, unloadedFrom: 0 });
  if (set.kind !== "probes") return null;
  const predictor = new Predictor(set, data);
  const { parameters } = predictor;
  const { y, j } = predictor.predict([], "sensitivities");
  const P = parameters.length;
  const [N, B] = [nodes.length, branches.length];
  // A supply's reading counts out of its plus.
  const signs = branches.map((b) => (b.kind === "supply" ? -1 : 1));
  const figures = (at: ArrayLike<number>) => [
    ...Array.from({ length: N + B }, (_, k) => at[k]),
    ...signs.map((sign, k) => sign * at[N + B + k]),
    ...signs.map((sign, k) => at[N + k] * sign * at[N + B + k]),
  ];
  const rowOf = (r: number) => j.subarray(r * P, (r + 1) * P);
  const rows = [
    ...Array.from({ length: N + B }, (_, k) => rowOf(k)),
    ...signs.map((sign, k) => rowOf(N + B + k).map((d) => sign * d)),
    ...signs.map((sign, k) => {
      const through = rowOf(N + B + k);
      return rowOf(N + k).map((dv, p) => sign * (dv * y[N + B + k] + y[N + k] * through[p]));
    }),
  ];
  const lines = figures(y).map((value, k) => ({ value, row: rows[k], ...limitsOf(rows[k]) }));
  const drawn = isLined ? null : drawnLimits(predictor, lines, figures);
  const reaches = reachesOf(network, (one) => {
    const found = buildProbes(one, points, { meter: data, unloadedFrom: 0 });
    return found.kind === "probes" ? figures(found.probes.map((p) => p.y)) : null;
  });
  const names = parameters.map((p) => branches[p.branch].part.designator);
  const windows = lines.map(({ value, row, two, worst }, k): Window => {
    const reach = reaches?.[k];
    const limits = drawn?.[k];
    return {
      value,
      two,
      worst,
      causes: causesOf(row, names),
      ...(reach ? { reach } : limits ? { drawn: limits } : {}),
    };
  });
  return {
    nodes: windows.slice(0, N),
    branches: branches.map((_, k) => ({
      volts: windows[N + k],
      amps: windows[N + B + k],
      watts: windows[N + 2 * B + k],
    })),
  };
}

/** Two standard deviations, and the worst case, to first order. */
function limitsOf(row: ArrayLike<number>): { two: number; worst: number } {
  let variance = 0;
  let worst = 0;
  for (let p = 0; p < row.length; p += 1) {
    variance += row[p] * row[p];
    worst += 2 * Math.abs(row[p]);
  }
  return { two: 2 * Math.sqrt(variance), worst };
}

/** Parts and what share of the variance each causes, largest first. */
function causesOf(row: ArrayLike<number>, names: readonly string[]): Window["causes"] {
  const byPart = new Map<string, number>();
  names.forEach((part, p) => {
    byPart.set(part, (byPart.get(part) ?? 0) + row[p] * row[p]);
  });
  const variance = [...byPart.values()].reduce((s, square) => s + square, 0);
  return [...byPart]
    .map(([part, square]) => ({ part, share: variance > 0 ? square / variance : 0 }))
    .filter((c) => c.share > 0.005)
    .sort((one, other) => other.share - one.share);
}

/**
 * The lowest and highest value of one quantity, no meter being there, with every part at an edge of its tolerance: the
 * corner that its sensitivities point to, solved exactly.
 * @returns null where the network cannot be solved there
 */
export function cornersOf(network: Network, point: NumericReading): [number, number] | null {
  const data = meterData(undefined);
  const set = buildProbes(network, [point], { meter: data, unloadedFrom: 0 });
  if (set.kind !== "probes") return null;
  const predictor = new Predictor(set, data);
  const { parameters } = predictor;
  const { j } = predictor.predict([], "sensitivities");
  // What moves it by nothing but rounding has no side.
  const dust = 1e-9 * j.reduce((most, d) => Math.max(most, Math.abs(d)), 0);
  const outcome = predictor.newOutcome();
  const ends = [-1, 1].map((side) => {
    // Two standard deviations are the edge; a potentiometer's are those of its track and of its wiper's place.
    const z = Float64Array.from(parameters, ({ acts }, p) =>
      isValue(acts) && Math.abs(j[p]) > dust ? 2 * side * Math.sign(j[p]) : 0,
    );
    predictor.predictMoved(z, outcome);
    return outcome.y[0];
  });
  return ends.every(Number.isFinite) ? [Math.min(...ends), Math.max(...ends)] : null;
}

/** A network as it looks from two of its nodes: the voltage between them, and the resistance in series with it. */
export interface Equivalent {
  readonly openVolts: number;
  /** Supplies as their internal resistance. */
  readonly sourceOhms: number;
  /** Amperes through a wire from one to the other. */
  readonly shortAmps: number;
  /** What an ohmmeter shows with the power off, every supply disconnected; huge where nothing connects the two. */
  readonly offOhms: number;
  /** What the meter shows, loading the circuit. */
  readonly readVolts: number;
}

/** Thévenin's equivalent between two nodes, and what a meter makes of them. */
export function equivalentBetween(network: Network, from: NodeName, to: NodeName, meter: Meter): Equivalent | null {
  const data = meterData(meter);
  const voltage: NumericReading = { quantity: "voltage", from, to, value: 0 };
  const ohms: NumericReading = { quantity: "resistance", from, to, value: 0 };
  const set = buildProbes(network, [voltage, ohms, voltage], { meter: data, unloadedFrom: 2 });
  if (set.kind !== "probes") return null;
  const [loaded, off, open] = set.probes;
  const pair = [network.nodes.indexOf(from), network.nodes.indexOf(to)] as const;
  const laws = network.branches.map((b) => b.law);
  const ports = buildPorts(network, topologyOf(network), laws, [pair]);
  if (ports.kind === "unsolvable" || ports.apart[0]) return null;
  const E = ports.elementCount;
  const sourceOhms = ports.x[E * E - 1];
  return { openVolts: open.y, sourceOhms, shortAmps: open.y / sourceOhms, offOhms: off.y, readVolts: loaded.y };
}

/**
 * What the healthy circuit should show at the given points (values of the readings do not matter), with two standard
 * deviations by tolerances and the worst case to first order. OL shows as a huge value.
 * @param meter loads the circuit, and stands in each current; null leaves the circuit to itself
 * @returns null where the network cannot be solved or a point is not in it
 */
export function expectReadings(
  network: Network,
  points: readonly NumericReading[],
  meter?: Meter | null,
): Prediction[] | null {
  const data = meterData(meter ?? undefined);
  const probesOf = (one: Network) =>
    buildProbes(one, points, { meter: data, unloadedFrom: meter === null ? 0 : points.length });
  const set = probesOf(network);
  if (set.kind !== "probes") return null;
  const predictor = new Predictor(set, data);
  const { y, j } = predictor.predict([], "sensitivities");
  const P = predictor.parameters.length;
  const lines = points.map((_, r) => {
    const row = j.subarray(r * P, (r + 1) * P);
    return { value: y[r], row, ...limitsOf(row) };
  });
  const drawn = drawnLimits(predictor, lines, (at) => at);
  const reaches = reachesOf(network, (one) => {
    const found = probesOf(one);
    return found.kind === "probes" ? found.probes.map((p) => p.y) : null;
  });
  return lines.map(({ value, two, worst }, r): Prediction => {
    const reach = reaches?.[r];
    if (reach) return { value: (reach.low + reach.high) / 2, plusMinus: (reach.high - reach.low) / 2, reach };
    const limits = drawn?.[r];
    return { value, plusMinus: two, worst, ...(limits ? { drawn: limits } : {}) };
  });
}
