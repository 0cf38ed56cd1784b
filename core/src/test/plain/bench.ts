import type { Circuit, Part } from "../../circuit/index.ts";
import type { Configuration } from "../../configuration/index.ts";
import type { Reading } from "../../record/index.ts";
import { type PlainJunction, plainCoil, plainJunction } from "./curves.ts";

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

/** One two-terminal element of the plain network; a potentiometer makes two or three. */
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

/** v = e + r·i, or no current at all, or a filament that follows its voltage. */
type PlainLaw =
  | { readonly r: number; readonly e: number; readonly limit?: number }
  | { readonly open: true }
  | { readonly hot: number; readonly cold: number; readonly volts: number }
  | PlainJunction;

/** Whether the power is off, for ohms or for a diode test of so many amperes. */
type Power = boolean | "tested";
const TEST_AMPS = 1e-3;

const CONTACT = 0.02;
const SHORT = 0.01;
const INSULATION = 1e9;
const APART = 1e12;
const ohmic = (r: number): PlainLaw => ({ r, e: 0 });

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

interface Wire {
  from: string;
  to: string;
  law: PlainLaw;
  /** Of a contact: the wire of its coil, and at which amperes it moves. */
  follows?: { readonly coil: number; readonly closes: boolean; readonly pulls: number; readonly drops: number };
}

/** What a meter shows: volts, amperes or ohms; Infinity for OL. */
export function plainReading(
  circuit: Circuit,
  reading: Exclude<Reading, { quantity: "observation" }>,
  faults: readonly PlainFault[],
  draw: PlainDraw,
  meter: PlainMeter,
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
      const { volts } = settle("0", [{ from: "A", to: "0", law }], ["A", "0"], TEST_AMPS);
      return volts.get("A") as number;
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
    const { amps } = settle(circuit.reference, wires, null);
    return elements[k].part.kind === "supply" ? -amps[k] : amps[k];
  }
  const [a, b] = [reading.from ?? circuit.reference, reading.to ?? circuit.reference].map((n) =>
    n === "0" && !elements.some((e) => e.from === "0" || e.to === "0") ? circuit.reference : n,
  );
  if (!isOff && Number.isFinite(meter.input)) wires.push({ from: a, to: b, law: ohmic(meter.input) });
  const { volts } = settle(circuit.reference, wires, isOff ? [a, b] : null, isTested ? TEST_AMPS : 1);
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

function addOhms(wire: Wire, ohms: number) {
  if ("r" in wire.law) wire.law = { ...wire.law, r: wire.law.r + ohms };
  else if ("hot" in wire.law) wire.law = { ...wire.law, series: ohms } as PlainLaw;
  else if ("curve" in wire.law) wire.law = { ...wire.law, inside: wire.law.inside + ohms };
}

/** How much softer knees are at first, and so on until they are as they are: continuation. */
const SOFT = [60, 12, 4, 1.7, 1];

/** From where nothing is pulled in each contact goes where its coil puts it, until none moves. */
function settle(
  reference: string,
  wires: readonly Wire[],
  injected: readonly [string, string] | readonly string[] | null,
  sent = 1,
) {
  let pulled = wires.map(() => false);
  const changes = wires.map(() => 0);
  for (;;) {
    const found = settleWith(reference, standing(wires, pulled), injected, sent);
    const next = wires.map(({ follows }, k) => follows !== undefined && moves(follows, pulled[k], found.amps));
    let isAtRest = true;
    pulled = pulled.map((is, k) => {
      // One that changes for ever buzzes: it counts as let go.
      if (next[k] === is || changes[k] > 8) return is;
      isAtRest = false;
      changes[k] += 1;
      return changes[k] > 8 ? false : next[k];
    });
    if (isAtRest) return found;
  }
}

type Follows = NonNullable<Wire["follows"]>;

function moves({ coil, pulls, drops }: Follows, pulled: boolean, amps: readonly number[]): boolean {
  const now = Math.abs(amps[coil]);
  return now >= pulls || (pulled && now >= drops);
}

/** The wires with each contact closed or open. */
function standing(wires: readonly Wire[], pulled: readonly boolean[]): Wire[] {
  return wires.map((w, k) => (w.follows && w.follows.closes !== pulled[k] ? { ...w, law: ohmic(APART) } : w));
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

/** Solves for every set of supplies that may be at their limit, until what bends has settled; the set that holds is it. */
function settleWith(
  reference: string,
  wires: readonly Wire[],
  injected: readonly [string, string] | readonly string[] | null,
  sent = 1,
) {
  const names = [...new Set([reference, ...wires.flatMap((w) => [w.from, w.to]), ...(injected ?? [])])];
  const at = new Map(names.map((n, i) => [n, i]));
  const ends = wires.map(({ from, to }) => ({ from: at.get(from) as number, to: at.get(to) as number }));
  const limited = wires.flatMap(({ law }, k) => ("limit" in law && law.limit !== undefined ? [k] : []));
  const softs = wires.some(({ law }) => "curve" in law) ? SOFT : [1];
  const solvedWith = (held: ReadonlySet<number>) => {
    const hot = wires.map(({ law }) => ("hot" in law ? law.hot : 0));
    const across = wires.map(() => 0);
    let x: number[] = [];
    for (const soft of softs)
      for (let round = 0; round < 2000; round += 1) {
        const rows = wires.map(({ law }, k) => {
          if ("open" in law) return { ...ends[k], p: 0, q: 1, s: 0 };
          if ("hot" in law) return { ...ends[k], p: 1, q: hot[k] + seriesOf(law), s: 0 };
          if ("curve" in law) {
            const [amps, siemens] = law.curve(across[k], soft);
            return { ...ends[k], p: 1, q: 1 / siemens + law.inside, s: across[k] - amps / siemens };
          }
          if (held.has(k)) return { ...ends[k], p: 0, q: 1, s: (law.limit as number) * Math.sign(law.e || 1) };
          return { ...ends[k], p: 1, q: law.r, s: law.e };
        });
        x = eliminate(names.length, 0, rows, injected ? injected.map((n) => at.get(n) as number) : [], sent);
        let moved = false;
        wires.forEach(({ law }, k) => {
          if ("curve" in law) {
            const step = x[ends[k].from] - x[ends[k].to] - law.inside * x[names.length + k] - across[k];
            if (Math.abs(step) > 1e-11 * Math.max(1, Math.abs(across[k]))) moved = true;
            // Never further than two slopes of the knee at once, or half of what lies there.
            const most = Math.max(2 * 0.046 * soft, Math.abs(across[k]) / 2);
            across[k] += Math.sign(step) * Math.min(Math.abs(step), most);
          }
          if (!("hot" in law)) return;
          const next = Math.max(law.cold, law.hot * (Math.abs(x[names.length + k] * hot[k]) / law.volts) ** 0.45);
          if (Math.abs(next - hot[k]) > 1e-9 * next) moved = true;
          hot[k] = next;
        });
        if (!moved) break;
      }
    return x;
  };
  const holds = (x: readonly number[], held: ReadonlySet<number>) =>
    limited.every((k) => {
      const law = wires[k].law as Extract<PlainLaw, { e: number }>;
      const [sign, limit] = [Math.sign(law.e || 1), law.limit as number];
      const volts = (x[ends[k].from] - x[ends[k].to]) * sign;
      return held.has(k)
        ? volts <= Math.abs(law.e) - law.r * limit + 1e-9
        : -x[names.length + k] * sign <= limit * (1 + 1e-9);
    });
  let x: readonly number[] = [];
  for (let set = 0; set < 2 ** limited.length; set += 1) {
    const held = new Set(limited.filter((_, i) => (set >> i) & 1));
    x = solvedWith(held);
    if (holds(x, held)) break;
  }
  return { amps: wires.map((_, k) => x[names.length + k]), volts: new Map(names.map((n, i) => [n, x[i]])) };
}

const seriesOf = (law: PlainLaw) => (law as { series?: number }).series ?? 0;

interface Row {
  readonly from: number;
  readonly to: number;
  readonly p: number;
  readonly q: number;
  readonly s: number;
}

const LEAK = 1e-15;

/** Kirchhoff's current law at every node but the reference, and p·v − q·i = s of every branch, by Gaussian elimination. */
function eliminate(
  N: number,
  reference: number,
  branches: readonly Row[],
  injected: readonly number[],
  sent: number,
): number[] {
  const n = N + branches.length;
  const m = Array.from({ length: n }, () => new Float64Array(n + 1));
  for (let node = 0; node < N; node += 1) m[node][node] = LEAK;
  branches.forEach(({ from, to, p, q, s }, k) => {
    m[from][N + k] += 1;
    m[to][N + k] -= 1;
    m[N + k][from] += p;
    m[N + k][to] -= p;
    m[N + k][N + k] = -q;
    m[N + k][n] = s;
  });
  if (injected.length === 2) {
    m[injected[0]][n] += sent;
    m[injected[1]][n] -= sent;
  }
  m[reference].fill(0);
  m[reference][reference] = 1;
  for (let col = 0; col < n; col += 1) {
    let best = col;
    for (let row = col + 1; row < n; row += 1) if (Math.abs(m[row][col]) > Math.abs(m[best][col])) best = row;
    [m[col], m[best]] = [m[best], m[col]];
    for (let row = col + 1; row < n; row += 1) {
      const f = m[row][col] / m[col][col];
      if (f === 0) continue;
      for (let k = col; k <= n; k += 1) m[row][k] -= f * m[col][k];
    }
  }
  const x = new Array<number>(n).fill(0);
  for (let row = n - 1; row >= 0; row -= 1) {
    let sum = m[row][n];
    for (let k = row + 1; k < n; k += 1) sum -= m[row][k] * x[k];
    x[row] = sum / m[row][row];
  }
  return x;
}
