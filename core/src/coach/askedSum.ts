import type { Network } from "../circuit/index.ts";
import type { Configuration } from "../configuration/index.ts";
import { isSameState } from "../configuration/index.ts";
import { corrected, limitOf } from "../measure/index.ts";
import { expectReadings } from "../rank/index.ts";
import type { MeterData, NumericReading } from "../record/index.ts";

/** One side and the other of a sum that was asked for, in volts or amperes. */
export interface SumAnswer {
  readonly unit: "V" | "A";
  readonly left: number;
  readonly right: number;
  /** Two standard deviations of the difference: of what was read its limits, of what was not the window of the drawing. */
  readonly plusMinus: number;
  /** What was not read, with what is drawn. */
  readonly missing: readonly { readonly name: string; readonly value: number; readonly plusMinus: number }[];
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
  const volts = potentials(network, same, meter);
  const reference = network.nodes[network.reference];
  /** The newest reading just there, whichever way round. */
  const own = ({ from, to }: Place) => {
    const [a, b] = [network.nodes[from], network.nodes[to]];
    const isHere = (r: NumericReading, x: string, y: string) =>
      r.quantity === "voltage" && r.from === x && (r.to ?? reference) === y;
    const reading = same.findLast((r) => isHere(r, a, b) || isHere(r, b, a));
    if (!reading) return null;
    const { value } = corrected(reading, meter);
    return { value: isHere(reading, a, b) ? value : -value, square: limitOf(reading, meter) ** 2 };
  };
  const drop = (name: string) => {
    const place = found.get(name) as Place;
    const direct = own(place);
    if (direct) return direct;
    const [a, b] = [volts.get(place.from), volts.get(place.to)];
    return a && b && a.island === b.island ? { value: a.value - b.value, square: a.square + b.square } : null;
  };
  const amps = (name: string) => {
    const reading = same.findLast((r) => r.quantity === "current" && r.through === found.get(name)?.branch);
    return reading && { value: corrected(reading, meter).value, square: limitOf(reading, meter) ** 2 };
  };
  const sum = (
    unit: "V" | "A",
    of: (name: string) => { value: number; square: number } | null | undefined,
    missing: SumAnswer["missing"],
  ): AskedSum => {
    const total = (side: readonly Term[]) => side.reduce((s, { sign, name }) => s + sign * (of(name)?.value ?? 0), 0);
    const plusMinus = Math.sqrt(terms.reduce((s, { name }) => s + (of(name)?.square ?? 0), 0));
    return { kind: "answer", answer: { unit, left: total(left), right: total(right), plusMinus, missing } };
  };
  const names = [...new Set(terms.map((t) => t.name))];
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
  const asDrawn = (name: string) => {
    const one = told.find((t) => t.name === name);
    return one && { value: one.value, square: one.plusMinus ** 2 };
  };
  return sum("V", (name) => drop(name) ?? asDrawn(name), told);
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
    if (r.quantity !== "voltage") return [];
    const [from, to] = [
      network.nodes.indexOf(r.from),
      r.to === undefined ? network.reference : network.nodes.indexOf(r.to),
    ];
    return from < 0 || to < 0 ? [] : [{ from, to, value: corrected(r, meter).value, square: limitOf(r, meter) ** 2 }];
  });
  const found = new Map<number, { island: number; value: number; square: number }>();
  for (const start of [network.reference, ...edges.map((e) => e.from)]) {
    if (found.has(start)) continue;
    found.set(start, { island: start, value: 0, square: 0 });
    const queue = [start];
    for (let at = queue.shift(); at !== undefined; at = queue.shift()) {
      const here = found.get(at) as { value: number; square: number };
      // The newest reading of a place counts.
      for (const { from, to, value, square } of [...edges].reverse()) {
        const next = from === at ? to : to === at ? from : -1;
        if (next < 0 || found.has(next)) continue;
        found.set(next, {
          island: start,
          value: here.value + (to === at ? value : -value),
          square: here.square + square,
        });
        queue.push(next);
      }
    }
  }
  return found;
}
