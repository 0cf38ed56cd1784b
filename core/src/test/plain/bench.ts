import type { Circuit, Part } from "../../circuit/index.ts";
import type { Configuration } from "../../configuration/index.ts";
import type { Reading } from "../../record/index.ts";
import { plainCoil, plainJunction } from "./curves.ts";
import {
  APART,
  addOhms,
  type LastRest,
  moves,
  ohmic,
  type PlainLaw,
  settle,
  settleWith,
  standing,
  type Wire,
} from "./settle.ts";

/**
 * The bench the plain way: every law of the model written again from first principles, one matrix for each reading with
 * the meter drawn in as a part, solved by elimination. Nothing of it is shared with the engine. A leak of 1 fS holds
 * floating nodes.
 */

/** One fault: of a part (or `RV1.top`), a bridge between two nodes, or a part's lead on another node. */
export type PlainFault =
  | {
      readonly part: string;
      readonly mode: string;
      readonly value: number;
      readonly belongs?: string;
      readonly at?: string;
    }
  | { readonly nodes: readonly [string, string] };

/** A meter with one range a function. */
export interface PlainMeter {
  readonly input: number;
  readonly burden: number;
}

/** One two-terminal element of the plain network; a potentiometer makes two or three, a bridge rectifier four. */
export interface PlainElement {
  readonly name: string;
  readonly part: Part;
  readonly from: string;
  readonly to: string;
}

/**
 * What tolerances have drawn: a factor of each element's ohms or volts, of its cold and running ohms, and the wiper's
 * shift; by the element's name, and by `R1 swapped` or `R1 now 220` for another piece in its place.
 */
export interface PlainDraw {
  readonly factor: Readonly<Record<string, number>>;
  readonly cold?: Readonly<Record<string, number>>;
  readonly running?: Readonly<Record<string, number>>;
}

export function plainElements(circuit: Circuit): PlainElement[] {
  return circuit.parts.flatMap((part): PlainElement[] => {
    if (part.kind === "bridgeRectifier")
      return [
        [part.from, part.plus],
        [part.to, part.plus],
        [part.minus, part.from],
        [part.minus, part.to],
      ].map(([from, to], i) => ({ name: `${part.designator}.${i + 1}`, part, from, to }));
    if (part.kind !== "potentiometer") return [{ name: part.designator, part, from: part.from, to: part.to }];
    const tap = `${part.designator}.tap`;
    const section = (name: string, from: string, to: string) => ({
      name: `${part.designator}.${name}`,
      part,
      from,
      to,
    });
    return [
      section("top", part.from, tap),
      section("bottom", tap, part.to),
      ...(part.wiper ? [section("wiper", tap, part.wiper)] : []),
    ];
  });
}

/** Whether the power is off, for ohms or for a diode test of so many amperes. */
type Power = boolean | "tested";
const TEST_AMPS = 1e-3;

const CONTACT = 0.02;
const SHORT = 0.01;
const INSULATION = 1e9;

/** What the piece that stands in an element's place is called: another one has a deviation of its own. */
export function plainPiece({ name, part }: PlainElement, state: Configuration): string {
  const given = state.values?.[part.designator];
  if (given !== undefined) return `${name} now ${given}`;
  return state.swapped?.includes(part.designator) ? `${name} swapped` : name;
}

/** What an element is when nothing is wrong with it. @param piece which one of it stands there */
function goodLaw(
  { name, part }: PlainElement,
  piece: string,
  { factor, cold = {}, running = {} }: PlainDraw,
  isOff: Power,
): PlainLaw {
  const f = factor[piece] ?? 1;
  switch (part.kind) {
    case "supply":
      return { r: part.internalOhms, e: (part.volts as number) * f, ...(part.limit ? { limit: part.limit } : {}) };
    case "potentiometer": {
      const share = name.endsWith("wiper") ? null : name.endsWith("top") ? part.at : 1 - part.at;
      return ohmic((share === null ? CONTACT : Math.max(part.ohms * share, CONTACT)) * f);
    }
    case "switch":
    case "fuse":
    case "connector":
    case "wire":
    case "joint":
    case "meter":
      return ohmic(part.ohms * f);
    case "contact":
      return ohmic(part.ohms * f);
    case "capacitor":
      return { open: true };
    case "diode":
    case "led":
    case "zener":
    case "bridgeRectifier":
      return isOff === true ? ohmic(INSULATION) : plainJunction(part, part.volts * f);
    default: {
      const r = part.resistance;
      if (r.by === "unknown") throw new Error("no value");
      const hot = (r.by === "ohms" ? r.ohms : r.volts ** 2 / r.watts) * f;
      if (part.kind === "lamp" && r.by === "rating") {
        if (isOff) return ohmic((hot / 12) * (cold[piece] ?? 1));
        return { hot, cold: hot / 12, volts: r.volts };
      }
      // What is warm while it works is cold with the power off.
      if (part.hotOhms !== undefined && !isOff) return ohmic(part.hotOhms * f);
      const isMotor = part.kind === "coil" && /^m\d/i.test(part.designator);
      return ohmic(hot * (isMotor && !isOff ? (running[piece] ?? 1) : 1));
    }
  }
}

/** What an element is, with a fault or without, however the circuit stands. */
function plainLaw(
  element: PlainElement,
  state: Configuration,
  isOff: Power,
  fault: Extract<PlainFault, { part: string }> | undefined,
  draw: PlainDraw,
): PlainLaw {
  const id = element.part.designator;
  const has = (names: readonly string[] | undefined) => names?.includes(id) ?? false;
  if (has(state.lifted) || has(state.out)) return { open: true };
  const isSupply = element.part.kind === "supply";
  if (isSupply && (isOff || has(state.off))) return { open: true };
  const piece = plainPiece(element, state);
  const good = goodLaw(element, piece, draw, isOff);
  const given = state.values?.[id];
  if (given !== undefined) {
    const value = given * (draw.factor[piece] ?? 1);
    return isSupply && "e" in good ? { ...good, e: value } : ohmic(value);
  }
  const lever = element.part.kind === "switch" ? (state.switches?.[id] ?? element.part.position) : "closed";
  const active = has(state.swapped) ? undefined : fault;
  if (active?.mode === "stuckOpen") return { open: true };
  if (active?.mode === "stuckClosed") return ohmic(element.part.kind === "switch" ? element.part.ohms : CONTACT);
  if (lever === "open") return { open: true };
  if (!active) return good;
  switch (active.mode) {
    case "open":
    case "dead":
    case "wiperOpen":
      return { open: true };
    case "short":
      return ohmic(SHORT);
    case "weak":
      return { ...good, r: active.value } as PlainLaw;
    case "misplaced":
      return ohmic(active.value);
    case "leaky":
      return "curve" in good && "material" in element.part
        ? plainJunction(element.part, element.part.volts * (draw.factor[piece] ?? 1), 1 / active.value)
        : ohmic(active.value);
    case "reversed":
      return "material" in element.part && isOff !== true
        ? plainJunction(element.part, element.part.volts * (draw.factor[piece] ?? 1), 1e-9, true)
        : good;
    default:
      if (isSupply) return { ...good, e: active.value } as PlainLaw;
      if ("material" in element.part) return isOff === true ? good : plainJunction(element.part, active.value);
      if ("hot" in good) return { hot: active.value, cold: active.value / 12, volts: good.volts };
      if (
        isOff &&
        element.part.kind === "lamp" &&
        "resistance" in element.part &&
        element.part.resistance.by === "rating"
      )
        return ohmic((active.value / 12) * (draw.cold?.[element.name] ?? 1));
      return ohmic(active.value);
  }
}

/** What a meter shows: volts, amperes or ohms; Infinity for OL. */
export function plainReading(
  circuit: Circuit,
  reading: Exclude<Reading, { quantity: "observation" }>,
  faults: readonly PlainFault[],
  draw: PlainDraw,
  meter: PlainMeter,
  last: LastRest = {},
): number {
  const isTested = reading.quantity === "voltage" && reading.test === "diode";
  const isOff = reading.quantity === "resistance" || isTested;
  const state = reading.state ?? {};
  const elements = plainElements(circuit);
  if (reading.quantity !== "current" && reading.lifted !== undefined) {
    const own = elements.find((e) => e.name === reading.lifted) as PlainElement;
    const { switches, swapped, values } = state;
    const bare = { switches, swapped, values } as Configuration;
    // Nothing pulls a contact that lies by itself.
    const isApart = plainCoil(own.part, circuit.parts)?.closes === true && faultOf(own, faults)?.mode !== "stuckClosed";
    const drawn = plainLaw(own, bare, isTested ? "tested" : true, faultOf(own, faults), draw);
    const law = isApart && "r" in drawn ? ohmic(APART) : drawn;
    if (isTested) {
      // Red is where the meter's own current leaves it.
      const [red, black] = reading.from === own.to ? ["0", "A"] : ["A", "0"];
      const { volts } = settle("0", [{ from: "A", to: "0", law }], [red, black], TEST_AMPS);
      return (volts.get(red) as number) - (volts.get(black) as number);
    }
    return "r" in law ? law.r : Number.POSITIVE_INFINITY;
  }
  const wires = plainWires(circuit, elements, state, isTested ? "tested" : isOff, faults, draw);
  for (const left of state.meters ?? []) {
    if ("through" in left) {
      const k = elements.findIndex((e) => e.name === left.through);
      addOhms(wires[k], left.ohms ?? meter.burden);
    } else wires.push({ from: left.from, to: left.to ?? circuit.reference, law: ohmic(left.ohms ?? meter.input) });
  }
  if (reading.quantity === "current") {
    const k = elements.findIndex((e) => e.name === reading.through);
    addOhms(wires[k], meter.burden);
    const { amps } = settle(circuit.reference, wires, null, 1, last);
    return elements[k].part.kind === "supply" ? -amps[k] : amps[k];
  }
  const [a, b] = [reading.from ?? circuit.reference, reading.to ?? circuit.reference].map((n) =>
    n === "0" && !elements.some((e) => e.from === "0" || e.to === "0") ? circuit.reference : n,
  );
  if (!isOff && Number.isFinite(meter.input)) wires.push({ from: a, to: b, law: ohmic(meter.input) });
  const { volts } = settle(circuit.reference, wires, isOff ? [a, b] : null, isTested ? TEST_AMPS : 1, last);
  return (volts.get(a) ?? 0) - (volts.get(b) ?? 0);
}

/** Watts and amperes of one element with no meter reading, and whether it is open; alone on the supply or where it is. */
export function plainLook(
  circuit: Circuit,
  name: string,
  state: Configuration,
  isAlone: boolean,
  faults: readonly PlainFault[],
  draw: PlainDraw,
): { readonly watts: number; readonly amps: number; readonly isOpen: boolean } {
  const elements = plainElements(circuit);
  const own = elements.find((e) => e.name === name) as PlainElement;
  if (isAlone) {
    const { switches, swapped, values } = state;
    const bare = { switches, swapped, values } as Configuration;
    const supply = elements.find((e) => e.part.kind === "supply") as PlainElement;
    const wires = [supply, own].map((e) => ({
      from: "P",
      to: "0",
      law: plainLaw(e, bare, false, faultOf(e, faults), draw),
    }));
    const { amps, volts } = settle("0", wires, null);
    return { amps: amps[1], watts: Math.abs(amps[1] * (volts.get("P") ?? 0)), isOpen: "open" in wires[1].law };
  }
  const wires = plainWires(circuit, elements, state, false, faults, draw);
  const { amps, volts } = settle(circuit.reference, wires, null);
  const k = elements.indexOf(own);
  const across = (volts.get(wires[k].from) ?? 0) - (volts.get(wires[k].to) ?? 0);
  return { amps: amps[k], watts: Math.abs(amps[k] * across), isOpen: "open" in wires[k].law };
}

function faultOf({ name }: PlainElement, faults: readonly PlainFault[]) {
  return faults.find((f): f is Extract<PlainFault, { part: string }> => "part" in f && f.part === name);
}

function plainWires(
  circuit: Circuit,
  elements: readonly PlainElement[],
  state: Configuration,
  isOff: Power,
  faults: readonly PlainFault[],
  draw: PlainDraw,
): Wire[] {
  const wires = elements.map((e): Wire => {
    const fault = faultOf(e, faults);
    const moved = fault?.mode === "misplaced" ? fault : null;
    const end = (node: string) => (moved && node === moved.belongs ? (moved.at as string) : node);
    const law = plainLaw(e, state, isOff, fault, draw);
    const coil = plainCoil(e.part, circuit.parts);
    const isStuck = fault !== undefined && /stuck|open|short/i.test(fault.mode) && !state.swapped?.includes(e.name);
    const follows = coil && { ...coil, coil: elements.findIndex((x) => x.name === coil.coil) };
    return { from: end(e.from), to: end(e.to), law, ...(follows && !isStuck ? { follows } : {}) };
  });
  const isCleared = (nodes: readonly string[]) => state.cleared?.some((pair) => nodes.every((n) => pair.includes(n)));
  for (const f of faults)
    if ("nodes" in f && !isCleared(f.nodes)) wires.push({ from: f.nodes[0], to: f.nodes[1], law: ohmic(SHORT) });
  for (const a of state.added ?? []) wires.push({ from: a.from, to: a.to ?? circuit.reference, law: ohmic(a.ohms) });
  return wires;
}

/** Volts of every node by its name, and amperes of every element from its first end to its second, no meter anywhere. */
export function plainState(circuit: Circuit, draw: PlainDraw = { factor: {} }) {
  const elements = plainElements(circuit);
  return settle(circuit.reference, plainWires(circuit, elements, {}, false, [], draw), null);
}

/** How many ways of its contacts' standing a circuit can be in, each held by the currents that it makes. */
export function plainStandings(circuit: Circuit, draw: PlainDraw): boolean[][] {
  const elements = plainElements(circuit);
  const wires = plainWires(circuit, elements, {}, false, [], draw);
  const coils = [...new Set(wires.flatMap((w) => (w.follows ? [w.follows.coil] : [])))];
  return Array.from({ length: 2 ** coils.length }, (_, set) => set).flatMap((set) => {
    const pulled = wires.map(
      ({ follows }) => follows !== undefined && ((set >> coils.indexOf(follows.coil)) & 1) === 1,
    );
    const { amps } = settleWith(circuit.reference, standing(wires, pulled), null);
    return wires.every(({ follows }, k) => !follows || moves(follows, pulled[k], amps) === pulled[k]) ? [pulled] : [];
  });
}
