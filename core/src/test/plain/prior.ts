import type { Circuit } from "../../circuit/index.ts";
import type { Configuration } from "../../configuration/index.ts";
import { type PlainElement, type PlainFault, plainElements, plainReading } from "./bench.ts";
import { normalBelow } from "./evidence.ts";

/** What is believed before any reading, the plain way: the tables of the model written again. */

type Modes = Readonly<Record<string, number>>;
const HABITS: Readonly<Record<string, { readonly rate: number; readonly modes: Modes }>> = {
  resistor: { rate: 1, modes: { open: 0.5, high: 0.35, low: 0.07, short: 0.08 } },
  load: { rate: 1, modes: { open: 0.5, high: 0.35, low: 0.07, short: 0.08 } },
  lamp: { rate: 20, modes: { open: 0.92, high: 0.05, short: 0.03 } },
  fuse: { rate: 10, modes: { open: 0.95, high: 0.05 } },
  supply: { rate: 10, modes: { weak: 0.4, low: 0.3, dead: 0.28, high: 0.02 } },
  switch: { rate: 8, modes: { high: 0.4, stuckOpen: 0.5, stuckClosed: 0.1 } },
  connector: { rate: 10, modes: { open: 0.6, high: 0.4 } },
  wire: { rate: 3, modes: { open: 0.6, high: 0.4 } },
  joint: { rate: 3, modes: { open: 0.6, high: 0.4 } },
  potentiometer: { rate: 6, modes: { wiperOpen: 0.35, open: 0.2, high: 0.25, low: 0.1, short: 0.1 } },
  coil: { rate: 3, modes: { open: 0.6, low: 0.35, high: 0.05 } },
  contact: { rate: 8, modes: { high: 0.4, stuckOpen: 0.35, stuckClosed: 0.25 } },
  diode: { rate: 3, modes: { short: 0.5, open: 0.3, leaky: 0.15, high: 0.05 } },
  led: { rate: 4, modes: { open: 0.7, short: 0.12, high: 0.1, leaky: 0.08 } },
  zener: { rate: 4, modes: { short: 0.45, open: 0.2, low: 0.15, leaky: 0.12, high: 0.08 } },
  bridgeRectifier: { rate: 8, modes: { short: 0.55, open: 0.3, leaky: 0.1, high: 0.05 } },
  capacitor: { rate: 6, modes: { short: 0.55, leaky: 0.45 } },
  sensor: { rate: 5, modes: { open: 0.4, high: 0.25, low: 0.25, short: 0.1 } },
};
const BRIDGE_RATE = 0.3;
const REVERSED = 3;
const CONTACTS = new Set(["switch", "connector", "wire", "joint", "contact"]);

export interface PlainSingle {
  /** As suspects are named: `R3 open`, `B~D bridged`, `R3 misplaced B A`. */
  readonly name: string;
  /** Two faults are of two different owners. */
  readonly owner: string;
  readonly weight: number;
  readonly hasValue: boolean;
  readonly faultAt: (t: number) => PlainFault;
}

/** Every single fault with its weight. @param states how the circuit stood and stands besides as drawn */
export function plainSingles(circuit: Circuit, states: readonly Configuration[], isNew = false): PlainSingle[] {
  const elements = plainElements(circuit);
  const ofParts = elements.flatMap((element): PlainSingle[] => {
    const { part, name } = element;
    const { rate, modes } = HABITS[part.kind];
    return Object.entries(modes).flatMap(([mode, share]): PlainSingle[] => {
      const weight = rate * share * portion(element, mode, states);
      if (weight === 0) return [];
      const range = rangeOf(element, mode);
      const faultAt = (t: number): PlainFault => ({ part: name, mode, value: range ? range(t) : 0 });
      const shown = mode === "wiperOpen" ? "open" : mode;
      return [{ name: `${name} ${shown}`, owner: part.designator, weight, hasValue: range !== null, faultAt }];
    });
  });
  const bridges = bridgesOf(circuit, elements).map(
    (nodes): PlainSingle => ({
      name: `${nodes.join("~")} bridged`,
      owner: nodes.join("~"),
      weight: BRIDGE_RATE,
      hasValue: false,
      faultAt: () => ({ nodes }),
    }),
  );
  return [...ofParts, ...bridges, ...(isNew ? misplaced(elements) : [])];
}

function portion({ part, name }: PlainElement, mode: string, states: readonly Configuration[]): number {
  if (part.kind === "potentiometer") {
    if (name.endsWith("wiper")) return mode === "wiperOpen" ? 1 : 0;
    return mode === "wiperOpen" ? 0 : 0.5;
  }
  if (part.kind === "bridgeRectifier") return 0.25;
  if (part.kind !== "switch") return 1;
  const positions = [part.position, ...states.map((s) => s.switches?.[part.designator] ?? part.position)];
  return positions.includes(mode === "stuckClosed" ? "open" : "closed") ? 1 : 0;
}

/** Value at the share t of the prior: drift even in the logarithm, a supply's volts even. */
function rangeOf({ part, name }: PlainElement, mode: string): ((t: number) => number) | null {
  if (!["high", "low", "weak", "leaky"].includes(mode)) return null;
  const even = (a: number, b: number) => (t: number) => a + (b - a) * t;
  const logEven = (a: number, b: number) => (t: number) => a * (b / a) ** t;
  if (part.kind === "supply") {
    const volts = part.volts as number;
    if (mode === "weak") return logEven(3 * Math.max(part.internalOhms, 0.05), 300 * Math.max(part.internalOhms, 0.05));
    return mode === "low"
      ? even(0.3 * volts, volts * (1 - part.tolerance))
      : even(volts * (1 + part.tolerance), 1.5 * volts);
  }
  if (mode === "leaky") return logEven(3, 1e6);
  if ("material" in part)
    return mode === "low"
      ? even(part.volts * (1 - part.tolerance), part.volts * 0.5)
      : even(part.volts * (1 + part.tolerance), part.volts * (part.kind === "zener" ? 1.5 : 2.5));
  if (part.kind === "capacitor") return null;
  const ohms =
    part.kind === "potentiometer"
      ? Math.max(part.ohms * (name.endsWith("top") ? part.at : 1 - part.at), 0.02)
      : "ohms" in part
        ? part.ohms
        : part.resistance.by === "ohms"
          ? part.resistance.ohms
          : part.resistance.by === "rating"
            ? part.resistance.volts ** 2 / part.resistance.watts
            : Number.NaN;
  if (CONTACTS.has(part.kind)) {
    const added = logEven(0.5, 1e4);
    return (t) => ohms + added(t);
  }
  return mode === "high"
    ? logEven(ohms * (1 + part.tolerance), ohms * 100)
    : logEven(ohms * (1 - part.tolerance), ohms / 100);
}

function between(part: Circuit["parts"][number]): string[] {
  if (part.kind === "bridgeRectifier") return [part.plus, part.minus];
  return part.kind === "potentiometer" && part.wiper ? [part.wiper] : [];
}

/** Two nodes that share a neighbour but no part. */
function bridgesOf({ parts }: Circuit, elements: readonly PlainElement[]): [string, string][] {
  const met = parts.flatMap((p) => [p.from, ...between(p), p.to]);
  const nodes: string[] = [...new Set(met)];
  const joined = (a: string, b: string) =>
    elements.some((e) => (e.from === a && e.to === b) || (e.from === b && e.to === a));
  const all = [...new Set(elements.flatMap((e) => [e.from, e.to]))];
  const pairs: [string, string][] = [];
  nodes.forEach((a, i) => {
    for (const b of nodes.slice(i + 1))
      if (!joined(a, b) && all.some((c) => c !== a && c !== b && joined(a, c) && joined(b, c))) pairs.push([a, b]);
  });
  return pairs;
}

/** A lead on a node that a part joins to its own: the part between there and where its other lead is. */
function misplaced(elements: readonly PlainElement[]): PlainSingle[] {
  return elements.flatMap(({ part, name, from, to }) => {
    if (part.kind === "supply" || part.kind === "potentiometer" || part.kind === "bridgeRectifier") return [];
    if (part.kind === "switch" && part.position === "open") return [];
    if ("material" in part)
      return [
        {
          name: `${name} reversed`,
          owner: part.designator,
          weight: REVERSED,
          hasValue: false,
          faultAt: () => ({ part: name, mode: "reversed", value: 0 }),
        },
      ];
    if (part.kind === "contact" || part.kind === "capacitor") return [];
    if (part.kind === "lamp" && part.resistance.by === "rating") return [];
    const ohms = "ohms" in part ? part.ohms : part.resistance.by === "ohms" ? part.resistance.ohms : Number.NaN;
    return [
      [from, to],
      [to, from],
    ].flatMap(([belongs, stays]) => {
      const next = new Set(elements.flatMap((e) => (e.from === belongs ? [e.to] : e.to === belongs ? [e.from] : [])));
      return [...next]
        .filter((at) => at !== stays && at !== belongs && !at.includes("."))
        .map(
          (at): PlainSingle => ({
            name: `${name} misplaced ${belongs} ${at}`,
            owner: part.designator,
            weight: BRIDGE_RATE,
            hasValue: true,
            faultAt: () => ({ part: name, mode: "misplaced", value: ohms, belongs, at }),
          }),
        );
    });
  });
}

/** log priors of nothing wrong, of each single fault, and of two of different owners. */
export function plainPrior(singles: readonly PlainSingle[], healthy: number, doubleShare = 0.08) {
  const sum = singles.reduce((s, x) => s + x.weight, 0);
  // Pairs by counting them all: a lead on the wrong node is never one of two.
  let pairs = 0;
  for (const [i, a] of singles.entries())
    for (const b of singles.slice(i + 1)) if (a.owner !== b.owner) pairs += a.weight * b.weight;
  return {
    healthy: Math.log(healthy),
    single: (a: PlainSingle) => Math.log(((1 - healthy) * (1 - doubleShare) * a.weight) / sum),
    pair: (a: PlainSingle, b: PlainSingle) => Math.log(((1 - healthy) * doubleShare * a.weight * b.weight) / pairs),
  };
}

/**
 * How likely somebody noticed faults: 0.03 + 0.97·Φ(ln(c/0.10)/0.7), with c the largest relative change of a part's
 * voltage (of those above 2 % of the largest source) or current (above 1 % of the largest), in the position of the levers
 * that shows it most.
 */
export function plainNoticed(circuit: Circuit, faults: readonly PlainFault[]): number {
  const levers = circuit.parts.filter((p) => p.kind === "switch").map((p) => p.designator);
  const elements = plainElements(circuit);
  const sources = circuit.parts.map((p) => (p.kind === "supply" ? Math.abs(p.volts as number) : 0));
  const ideal = { input: Number.POSITIVE_INFINITY, burden: 0 };
  let most = 0;
  for (let n = 0; n < 2 ** levers.length; n += 1) {
    const switches = Object.fromEntries(levers.map((l, k) => [l, (n >> k) & 1 ? "open" : "closed"] as const));
    const read = (own: readonly PlainFault[]) =>
      elements.map(({ name, from, to }) => {
        const at = { value: 0, state: { switches } };
        const volts = { quantity: "voltage", from, to, ...at } as Parameters<typeof plainReading>[1];
        const amps = { quantity: "current", through: name, ...at } as Parameters<typeof plainReading>[1];
        return {
          volts: plainReading(circuit, volts, own, { factor: {} }, ideal),
          amps: plainReading(circuit, amps, own, { factor: {} }, ideal),
        };
      });
    const [good, now] = [read([]), read(faults)];
    const largest = Math.max(...good.map((g) => Math.abs(g.amps)));
    good.forEach((g, k) => {
      if (Math.abs(g.volts) > 0.02 * Math.max(...sources))
        most = Math.max(most, Math.abs((now[k].volts - g.volts) / g.volts));
      if (Math.abs(g.amps) > 0.01 * largest) most = Math.max(most, Math.abs((now[k].amps - g.amps) / g.amps));
    });
  }
  return 0.03 + 0.97 * (most > 0 ? normalBelow(Math.log(most / 0.1) / 0.7) : 0);
}
