import { type Law, type Network, type NodeName, scaledLaw } from "../../circuit/index.ts";
import { buildPorts, buildProbes } from "../../measure/index.ts";
import { type Meter, meterData, type NumericReading } from "../../record/index.ts";
import { topologyOf } from "../../solve/index.ts";
import { Predictor } from "../prediction/predictor.ts";
import type { Prediction } from "./describe.ts";
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
}

/** Windows of every node's volts, and of every branch's volts, amperes (`from` to `to`) and watts taken in. */
export interface ExpectedChart {
  readonly nodes: readonly Window[];
  readonly branches: readonly { readonly volts: Window; readonly amps: Window; readonly watts: Window }[];
}

/**
 * What a healthy circuit has at every node and in every part, no meter being there, with tolerance windows by
 * sensitivities.
 * @returns null where the network cannot be solved
 */
export function expectChart(network: Network): ExpectedChart | null {
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
  const rowOf = (r: number) => j.subarray(r * P, (r + 1) * P);
  const names = parameters.map((p) => branches[p.branch].part.designator);
  const B = branches.length;
  const reaches = reachesOf(network, (one) => {
    const found = buildProbes(one, points, { meter: data, unloadedFrom: 0 });
    if (found.kind !== "probes") return null;
    const at = found.probes.map((p) => p.y);
    const watts = branches.map(
      (b, k) => at[nodes.length + k] * at[nodes.length + B + k] * (b.kind === "supply" ? -1 : 1),
    );
    return [...at, ...watts];
  });
  const window = (value: number, row: ArrayLike<number>, figure: number, sign = 1): Window => {
    const found = reaches?.[figure];
    const reach = found && (sign > 0 ? found : { low: -found.high, high: -found.low });
    let variance = 0;
    let worst = 0;
    const byPart = new Map<string, number>();
    for (let p = 0; p < P; p += 1) {
      const square = row[p] * row[p];
      variance += square;
      worst += 2 * Math.abs(row[p]);
      byPart.set(names[p], (byPart.get(names[p]) ?? 0) + square);
    }
    const causes = [...byPart]
      .map(([part, square]) => ({ part, share: variance > 0 ? square / variance : 0 }))
      .filter((c) => c.share > 0.005)
      .sort((a, b) => b.share - a.share);
    return { value, two: 2 * Math.sqrt(variance), worst, causes, ...(reach ? { reach } : {}) };
  };
  return {
    nodes: nodes.map((_, n) => window(y[n], rowOf(n), n)),
    branches: branches.map((branch, k) => {
      const [v, i] = [nodes.length + k, nodes.length + branches.length + k];
      // A supply's reading counts out of its plus.
      const sign = branch.kind === "supply" ? -1 : 1;
      const amps = sign * y[i];
      const volts = y[v];
      const product = Float64Array.from(rowOf(v), (dv, p) => dv * amps + volts * sign * j[i * P + p]);
      return {
        volts: window(volts, rowOf(v), v),
        amps: window(
          amps,
          Float64Array.from(rowOf(i), (d) => sign * d),
          i,
          sign,
        ),
        watts: window(volts * amps, product, nodes.length + 2 * B + k),
      };
    }),
  };
}

/**
 * The lowest and highest value of one quantity with every part at an edge of its tolerance: the corner that its
 * sensitivities point to, solved exactly.
 * @returns null where the network cannot be solved there
 */
export function cornersOf(network: Network, point: NumericReading, meter: Meter | null): [number, number] | null {
  const data = meterData(meter ?? undefined);
  const options = { meter: data, unloadedFrom: meter ? 1 : 0 };
  const set = buildProbes(network, [point], options);
  if (set.kind !== "probes") return null;
  const predictor = new Predictor(set, data);
  const { parameters, tracks } = predictor;
  const { j } = predictor.predict([], "sensitivities");
  // What moves it by nothing but rounding has no side.
  const dust = 1e-9 * j.reduce((most, d) => Math.max(most, Math.abs(d)), 0);
  const ends = [-1, 1].map((side) => {
    const laws = new Map<number, Law>();
    // Two standard deviations are the edge; a potentiometer's are those of its track and of its wiper's place.
    const z = Float64Array.from(parameters, ({ acts }, p) =>
      (acts === "ohms" || acts === "volts") && Math.abs(j[p]) > dust ? 2 * side * Math.sign(j[p]) : 0,
    );
    tracks.turnBack(z);
    parameters.forEach(({ branch, acts }, p) => {
      if (acts !== "ohms" && acts !== "volts") return;
      const { law, part } = network.branches[branch];
      laws.set(branch, scaledLaw(law, 1 + (part.tolerance / 2) * z[p]));
    });
    const branches = network.branches.map((b, k) => ({ ...b, law: laws.get(k) ?? b.law }));
    const moved = buildProbes({ ...network, branches }, [point], options);
    return moved.kind === "probes" ? moved.probes[0].y : Number.NaN;
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
  const reaches = reachesOf(network, (one) => {
    const found = probesOf(one);
    return found.kind === "probes" ? found.probes.map((p) => p.y) : null;
  });
  return points.map((_, r): Prediction => {
    const reach = reaches?.[r];
    if (reach) return { value: (reach.low + reach.high) / 2, plusMinus: (reach.high - reach.low) / 2, reach };
    let variance = 0;
    let worst = 0;
    for (let p = 0; p < P; p += 1) {
      variance += j[r * P + p] ** 2;
      worst += 2 * Math.abs(j[r * P + p]);
    }
    return { value: y[r], plusMinus: 2 * Math.sqrt(variance), worst };
  });
}
