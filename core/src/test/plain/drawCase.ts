import { buildNetwork, type Circuit, type NodeName, type Part } from "../../circuit/index.ts";
import type { Configuration } from "../../configuration/index.ts";
import { bridgeCandidates } from "../../faults/index.ts";
import { prepare } from "../../rank/prepare.ts";
import { meterData, type NumericReading, type Priors, type Reading } from "../../record/index.ts";
import { drawCircuit, drawTolerances, FaultDrawer, type Random, takeOn } from "../../simulate/index.ts";
import { plainElements, plainLook } from "./bench.ts";
import { METER, type TestCase } from "./compare.ts";

/** What cases are about; each is drawn so that what it is named for plays a part. */
export const CASE_KINDS = [
  "plain",
  "slips",
  "one",
  "zeros",
  "many slips",
  "exchanged",
  "configurations",
  "swaps",
  "complaint",
  "looks",
  "meters",
  "false meter",
  "junctions",
  "relays",
  "loose",
] as const;
export type CaseKind = (typeof CASE_KINDS)[number];

/**
 * A random circuit with a fault from the priors and readings of it.
 * @param parts besides the supply
 */
export function drawCase(random: Random, parts: number, readingCount: number, kind: CaseKind = "plain"): TestCase {
  for (;;) {
    const circuit = withOthers(drawCircuit(parts, random), kind, random);
    const network = buildNetwork(circuit);
    const isSlip = ["slips", "one", "zeros", "many slips", "exchanged"].includes(kind);
    const blunder = isSlip ? 0.06 : 0.01;
    const priors: Priors = { healthy: 0.05, blunder };
    const bridges = bridgeCandidates(network);
    const prepared = prepare({ circuit, readings: [], priors, meter: METER });
    if (prepared.kind === "problem") continue;
    const faults = kind === "loose" ? [] : new FaultDrawer(prepared).draw(random);
    const count = kind === "one" ? 1 : readingCount;
    const points = Array.from({ length: count }, (): NumericReading => {
      const point = drawPoint(circuit, random);
      const state = kind === "configurations" && random.next() < 0.5 ? drawState(circuit, random) : null;
      return state ? { ...point, state } : point;
    });
    if (kind === "swaps") swapOn(points, circuit, random);
    const rate = kind === "one" || kind === "many slips" ? 0.35 : kind === "slips" ? 0.06 : 0;
    const options = { meter: meterData(METER), bridges, blunder: rate, counts: 6000 };
    const drawn = drawTolerances(network, kind === "loose" ? farOff(random) : random);
    const taken = takeOn(drawn, faults, points, options, random)?.readings;
    if (!taken) continue;
    const readings: Reading[] = taken.map(({ reading }) => reading);
    if (kind === "zeros") zero(readings, random);
    if (kind === "exchanged") exchange(readings, random);
    if (kind === "false meter") readFalse(readings, random);
    if (kind === "complaint") return { circuit, readings, priors, situation: "complaint" };
    if (kind !== "looks") return { circuit, readings, priors, ...(kind === "meters" ? onRanges(readings) : {}) };
    const looks = looksAt(circuit, faults.length === 0, random);
    if (looks.length > 0) return { circuit, readings: [...readings.slice(0, 2), ...looks], priors };
  }
}

/** Switches among the parts where configurations matter, lamps and fuses with ratings where looks do. */
function withOthers(circuit: Circuit, kind: CaseKind, random: Random): Circuit {
  if (kind === "junctions") return withJunctions(circuit, random);
  if (kind === "relays") return withRelay(circuit, random);
  if (kind === "loose") return withLoose(circuit, random);
  if (kind !== "configurations" && kind !== "looks") return circuit;
  let switches = 0;
  const parts = circuit.parts.map((part): Part => {
    if (part.kind === "supply" || random.next() > 0.3 || (kind === "looks" && part.kind === "lamp")) return part;
    switches += 1;
    const { from, to } = part;
    const position = random.next() < 0.3 ? "open" : "closed";
    return { designator: `S${switches}`, kind: "switch", from, to, tolerance: 0.5, ohms: 0.02, position };
  });
  return { ...circuit, parts };
}

/** Contacts, and parts whose values are not held to: nothing is wrong where they lie far off. */
function withLoose(circuit: Circuit, random: Random): Circuit {
  const parts = circuit.parts.map((part): Part => {
    const { designator, from, to } = part;
    const u = random.next();
    if (part.kind === "supply" || u > 0.6) return part;
    if (u > 0.3) return { ...part, tolerance: 0.4 };
    return { designator: `J${designator}`, kind: "connector", from, to, tolerance: 0.5, ohms: 0.02 };
  });
  return { ...circuit, parts };
}

/** Draws nothing near the middle. */
function farOff(random: Random): Random {
  const normal = () => (random.next() < 0.5 ? -1 : 1) * (1.2 + 1.3 * random.next());
  return { next: () => random.next(), normal };
}

/** Diodes, shining ones and Zeners among the parts, as a rule the right way round. */
export function withJunctions(circuit: Circuit, random: Random): Circuit {
  let count = 0;
  const parts = circuit.parts.map((part): Part => {
    if (part.kind === "supply" || random.next() > 0.4) return part;
    count += 1;
    const isTurned = random.next() < 0.15;
    const ends = isTurned ? { from: part.to, to: part.from } : { from: part.from, to: part.to };
    const u = random.next();
    if (u < 0.35)
      return { ...ends, designator: `D${count}`, kind: "diode", tolerance: 0.09, material: "silicon", volts: 0.65 };
    if (u < 0.65)
      return { ...ends, designator: `LED${count}`, kind: "led", tolerance: 0.03, material: "red", volts: 1.9 };
    if (u < 0.75) return { ...ends, designator: `C${count}`, kind: "capacitor", tolerance: 0 };
    const back = { from: ends.to, to: ends.from };
    return { ...back, designator: `ZD${count}`, kind: "zener", tolerance: 0.05, material: "silicon", volts: 3.3 };
  });
  return { ...circuit, parts };
}

/** A coil across the supply, or in another part's place, and a contact of it in one or two others'. */
function withRelay(circuit: Circuit, random: Random): Circuit {
  const supply = circuit.parts.find((p) => p.kind === "supply") as Extract<Part, { kind: "supply" }>;
  const volts = supply.volts as number;
  const loads = circuit.parts.filter((p) => p.kind !== "supply");
  const own = random.next() < 0.5 ? supply : loads[Math.floor(random.next() * loads.length)];
  const coil: Part = {
    designator: "K1",
    kind: "coil",
    from: own.from,
    to: own.to,
    tolerance: 0.1,
    resistance: { by: "rating", volts, watts: volts / 10 },
  };
  let count = 0;
  const parts = circuit.parts.map((part): Part => {
    if (part === own && own !== supply) return coil;
    if (part.kind === "supply" || random.next() > 0.4) return part;
    const { from, to } = part;
    count += 1;
    const rest = random.next() < 0.5 ? "no" : "nc";
    return { designator: `K1.${rest}${count}`, kind: "contact", from, to, tolerance: 0.5, ohms: 0.02 };
  });
  return { ...circuit, parts: own === supply ? [...parts, coil] : parts };
}

function drawState(circuit: Circuit, random: Random): Configuration {
  const part = circuit.parts[Math.floor(random.next() * circuit.parts.length)];
  const other = circuit.parts[Math.floor(random.next() * circuit.parts.length)];
  const u = random.next();
  if (part.kind === "switch") return { switches: { [part.designator]: part.position === "open" ? "closed" : "open" } };
  if (u < 0.25 && part.kind !== "supply") return { lifted: [part.designator] };
  if (u < 0.55) return { swapped: [part.designator] };
  if (u < 0.7) return { added: [{ from: part.from, to: part.to, ohms: 470 }] };
  if (u < 0.85)
    return {
      meters: [
        { through: part.designator, ohms: 2 },
        { from: other.from, to: other.to, ohms: 1e5 },
      ],
    };
  return part.kind === "resistor" ? { values: { [part.designator]: 220 } } : { swapped: [part.designator] };
}

function drawPoint(circuit: Circuit, random: Random): NumericReading {
  const part = circuit.parts[Math.floor(random.next() * circuit.parts.length)];
  const u = random.next();
  if (u < 0.7) return { quantity: "voltage", from: part.from === circuit.reference ? part.to : part.from, value: 0 };
  if (u < 0.85) return { quantity: "current", through: part.designator, value: 0 };
  return { quantity: "voltage", from: part.from, to: part.to, value: 0 };
}

/** From some reading on a known-good part, or one of another value, stands in a part's place; and some points are read again. */
function swapOn(points: NumericReading[], circuit: Circuit, random: Random) {
  let state: Configuration = {};
  for (let i = 1; i < points.length; i += 1) {
    const part = circuit.parts[Math.floor(random.next() * circuit.parts.length)];
    const u = random.next();
    if (u < 0.45) state = { ...state, swapped: [...(state.swapped ?? []), part.designator] };
    else if (u < 0.6 && part.kind === "resistor")
      state = { ...state, values: { ...state.values, [part.designator]: u < 0.52 ? 220 : ohmsOf(part) } };
    const where = random.next() < 0.5 ? points[i - 1] : points[i];
    points[i] = { ...where, state };
  }
}

const ohmsOf = (part: Part) => ("resistance" in part && part.resistance.by === "ohms" ? part.resistance.ohms : 100);

/** All volts are off by one factor. */
function readFalse(readings: Reading[], random: Random) {
  const factor = 1 + (random.next() < 0.5 ? -1 : 1) * 0.01 * 10 ** random.next();
  readings.forEach((r, i) => {
    if (r.quantity === "voltage") readings[i] = { ...r, value: Number((r.value * factor).toPrecision(6)) };
  });
}

/** Two readings next to each other were written down at each other's points. */
function exchange(readings: Reading[], random: Random) {
  const i = Math.floor(random.next() * (readings.length - 1));
  const [one, two] = [readings[i], readings[i + 1]] as NumericReading[];
  if (one.quantity !== two.quantity) return;
  const shown = ({ value, plusMinus, step }: NumericReading) => ({ value, plusMinus, ...(step ? { step } : {}) });
  readings[i] = { ...one, ...shown(two) };
  readings[i + 1] = { ...two, ...shown(one) };
}

/** No contact at one or two points. */
function zero(readings: Reading[], random: Random) {
  for (let n = 0; n < 2; n += 1) {
    const i = Math.floor(random.next() * readings.length);
    readings[i] = { ...readings[i], value: 0 } as Reading;
  }
}

/** The meter's own accuracy instead of written limits: one gain for all volts. */
function onRanges(readings: Reading[]) {
  const accuracy = { percent: 0.5, counts: 2, offset: 0.005 };
  readings.forEach((r, i) => {
    const { plusMinus: _, ...rest } = r as NumericReading;
    readings[i] = { ...rest, step: 0.01 } as NumericReading;
  });
  return { readings: readings.filter((r) => r.quantity === "voltage"), accuracy };
}

/** A lamp or a coil that shows nothing, or all it should. */
function looksAt(circuit: Circuit, isHealthy: boolean, random: Random): Reading[] {
  const elements = plainElements(circuit);
  const shown = elements.filter(({ part }) => part.kind === "lamp" || part.kind === "coil");
  return shown.slice(0, 2).map(({ part, name }): Reading => {
    const { watts } = plainLook(circuit, name, {}, false, [], { factor: {} });
    const works = watts > 0 && (isHealthy || random.next() < 0.4);
    const seen = part.kind === "lamp" ? (works ? "lit" : "dark") : works ? "pulls" : "silent";
    return { quantity: "observation", part: part.designator as NodeName, seen };
  });
}
