import type { Network } from "../circuit/index.ts";
import type { Configuration } from "../configuration/index.ts";
import { isSameState } from "../configuration/index.ts";
import { corrected, limitOf } from "../measure/index.ts";
import { expectReadings } from "../rank/index.ts";
import { isVolts, type MeterData, type NumericReading } from "../record/index.ts";

/** One side and the other of a sum that was asked for, in volts or amperes. */
export interface SumAnswer {
  readonly unit: "V" | "A";
  readonly left: number;
  readonly right: number;
  /** Two standard deviations of the difference: of what was read its limits, of what was not the window of the drawing. */
  readonly plusMinus: number;
  /** What was not read, with what is drawn. */
  readonly missing: readonly { readonly name: string; readonly value: number; readonly plusMinus: number }[];
  /** Both sides are the same readings: it comes out whatever is wrong. */
  readonly isEmpty: boolean;
}

export type AskedSum =
  | { readonly kind: "answer"; readonly answer: SumAnswer }
  | { readonly kind: "mistake"; readonly message: string };

interface Term {
  readonly sign: 1 | -1;
  readonly name: string;
}

/**
 * A sum asked by hand, `R1 + R2 = BT1?`: drops of parts and potentials of nodes, or, where those were not read and all
 * currents were, currents. Each term is what was read of it with the circuit as it stands: by itself, else between points
 * that were read; what was not read is taken as drawn, and named.
 * @returns null where the text is no such question
 */
export function askedSum(
  text: string,
  network: Network,
  readings: readonly NumericReading[],
  meter: MeterData,
  standing: Configuration = {},
): AskedSum | null {
  const sides = text.trim().replace(/\?$/, "").split("=");
  if (sides.length !== 2 || /\bnull=/i.test(text)) return null;
  const parts = network.branches.map((b) => b.name);
  const [left, right] = sides.map((side) => termsIn(side, parts));
  if (!left || !right) return { kind: "mistake", message: "write names with + or − between them: R1 + R2 = BT1?" };
  const terms = [...left, ...right];
  const found = new Map(terms.map(({ name }) => [name, placeOf(name, network)]));
  const unknown = [...found].find(([, place]) => place === null);
  if (unknown) return { kind: "mistake", message: `there is no ${unknown[0]} in this circuit` };
  const same = readings.filter((r) => isSameState(r.state, standing) && !r.beyond);
  const reference = network.nodes[network.reference];
  /** The newest reading just there, whichever way round. */
  const own = ({ from, to }: Place): Figure | null => {
    const [a, b] = [network.nodes[from], network.nodes[to]];
    const isHere = (r: NumericReading, x: string, y: string) => isVolts(r) && r.from === x && (r.to ?? reference) === y;
    const reading = same.findLast((r) => isHere(r, a, b) || isHere(r, b, a));
    return reading ? figureOf(reading, isHere(reading, a, b) ? 1 : -1, meter) : null;
  };
  const names = [...new Set(terms.map((t) => t.name))];
  const volts = potentials(network, same, meter);
  const made = ({ from, to }: Place): Figure | null => {
    const [a, b] = [volts.get(from), volts.get(to)];
    return a && b && a.island === b.island ? added(a.figure, b.figure, -1) : null;
  };
  const ofVolts = new Map(names.map((name) => [name, own(found.get(name) as Place) ?? made(found.get(name) as Place)]));
  const unread = names.filter((name) => own(found.get(name) as Place) === null);
  // What alone is made of all the others agrees with them whatever is wrong: it was not read.
  if (unread.length === 1 && isNothing(apartOf(left, right, (name) => ofVolts.get(name) ?? null)))
    ofVolts.set(unread[0], null);
  const drop = (name: string) => ofVolts.get(name) ?? null;
  const amps = (name: string): Figure | null => {
    const reading = same.findLast((r) => r.quantity === "current" && r.through === found.get(name)?.branch);
    return reading ? figureOf(reading, 1, meter) : null;
  };
  const sum = (unit: "V" | "A", of: (name: string) => Figure | null, missing: SumAnswer["missing"]): AskedSum => {
    const [a, b] = [left, right].map((side) => totalOf(side, of));
    const apart = apartOf(left, right, of);
    const square = [...apart.of].reduce((s, [r, times]) => s + (times * limitOf(r, meter)) ** 2, 0);
    const drawn = missing.reduce((s, m) => s + m.plusMinus ** 2, 0);
    const isEmpty = missing.length === 0 && isNothing(apart);
    const plusMinus = Math.sqrt(square + drawn);
    return { kind: "answer", answer: { unit, left: a.value, right: b.value, plusMinus, missing, isEmpty } };
  };
  const missing = names.filter((name) => drop(name) === null);
  if (missing.length === 0) return sum("V", drop, []);
  if (terms.every(({ name }) => amps(name))) return sum("A", amps, []);
  const points = missing.map((name): NumericReading => {
    const { from, to } = found.get(name) as Place;
    return { quantity: "voltage", from: network.nodes[from], to: network.nodes[to], value: 0, state: standing };
  });
  const drawn = expectReadings(network, points, null);
  if (!drawn) return { kind: "mistake", message: `nothing was read of ${missing.join(", ")}` };
  const told = missing.map((name, i) => ({ name, value: drawn[i].value, plusMinus: drawn[i].plusMinus }));
  const asDrawn = (name: string): Figure | null => {
    const one = told.find((t) => t.name === name);
    return one ? { value: one.value, of: new Map() } : null;
  };
  return sum("V", (name) => drop(name) ?? asDrawn(name), told);
}

/** A figure with the readings it is made of, each with how often it counts. */
interface Figure {
  readonly value: number;
  readonly of: ReadonlyMap<NumericReading, number>;
}

const NOTHING: Figure = { value: 0, of: new Map() };

const totalOf = (side: readonly Term[], of: (name: string) => Figure | null) =>
  side.reduce((s, { sign, name }) => added(s, of(name) ?? NOTHING, sign), NOTHING);

const apartOf = (left: readonly Term[], right: readonly Term[], of: (name: string) => Figure | null) =>
  added(totalOf(left, of), totalOf(right, of), -1);

/** True of a difference of which every reading is taken away again. */
const isNothing = ({ of }: Figure) => [...of.values()].every((times) => times === 0);

function figureOf(reading: NumericReading, sign: 1 | -1, meter: MeterData): Figure {
  return { value: sign * corrected(reading, meter).value, of: new Map([[reading, sign]]) };
}

function added(a: Figure, b: Figure, sign: 1 | -1): Figure {
  const of = new Map(a.of);
  for (const [reading, times] of b.of) of.set(reading, (of.get(reading) ?? 0) + sign * times);
  return { value: a.value + sign * b.value, of };
}

/** Stands for a hyphen that belongs to a name, while terms are parted. */
const HYPHEN = "\u2010";

function termsIn(side: string, names: readonly string[]): Term[] | null {
  const found: Term[] = [];
  const plain = side.replaceAll("−", "-");
  // A name may hold a hyphen: where there is such a part, it is no minus.
  const rest = names
    .filter((n) => n.includes("-"))
    .reduce((text, n) => text.replaceAll(n, n.replaceAll("-", HYPHEN)), plain)
    .replace(/\s*([+-])?\s*([A-Za-z+][A-Za-z0-9_.\u2010]*|\d+)(?=\s|$|[+-])/g, (_, sign, said) => {
      const name = names.find((n) => n.replaceAll("-", HYPHEN) === said) ?? said;
      found.push({ sign: sign === "-" ? -1 : 1, name });
      return "";
    });
  return rest.trim() === "" && found.length > 0 ? found : null;
}

interface Place {
  readonly from: number;
  readonly to: number;
  readonly branch: string | null;
}

/** Across a part, or from a node to the reference. */
function placeOf(text: string, network: Network): Place | null {
  const isSame = (a: string) => a === text || a.toLowerCase() === text.toLowerCase();
  const node = network.nodes.indexOf(text);
  if (node >= 0) return { from: node, to: network.reference, branch: null };
  const branch =
    network.branches.find((b) => isSame(b.name)) ?? network.branches.find((b) => isSame(b.part.designator));
  if (branch) return { from: branch.from, to: branch.to, branch: branch.name };
  const other = network.nodes.findIndex(isSame);
  return other < 0 ? null : { from: other, to: network.reference, branch: null };
}

/** Potentials of nodes that hang together by voltages read, each island with a node of its own at nothing. */
function potentials(network: Network, readings: readonly NumericReading[], meter: MeterData) {
  const edges = readings.flatMap((r) => {
    if (!isVolts(r)) return [];
    const [from, to] = [
      network.nodes.indexOf(r.from),
      r.to === undefined ? network.reference : network.nodes.indexOf(r.to),
    ];
    return from < 0 || to < 0 ? [] : [{ from, to, figure: figureOf(r, 1, meter) }];
  });
  const found = new Map<number, { readonly island: number; readonly figure: Figure }>();
  for (const start of [network.reference, ...edges.map((e) => e.from)]) {
    if (found.has(start)) continue;
    found.set(start, { island: start, figure: NOTHING });
    const queue = [start];
    for (let at = queue.shift(); at !== undefined; at = queue.shift()) {
      const here = (found.get(at) as { figure: Figure }).figure;
      // The newest reading of a place counts.
      for (const { from, to, figure } of [...edges].reverse()) {
        const next = from === at ? to : to === at ? from : -1;
        if (next < 0 || found.has(next)) continue;
        found.set(next, { island: start, figure: added(here, figure, to === at ? 1 : -1) });
        queue.push(next);
      }
    }
  }
  return found;
}
