import {
  buildNetwork,
  type Circuit,
  IDEAL_INPUT_OHMS,
  IDEAL_OHMS,
  isInstrumentOpen,
  isVoltmeter,
  type Part,
  UnknownValueError,
} from "../circuit/index.ts";
import type { MeterData, RangeData } from "../record/index.ts";
import { solveNetwork } from "../solve/index.ts";

/**
 * The circuit with the meters that are drawn in it as the meter in hand loads it: an ammeter has the burden, a voltmeter
 * the input of the range that its own figure is read on. What somebody wrote of one holds.
 */
export function withInstruments(circuit: Circuit, meter: MeterData): Circuit {
  const isOpen = (part: Part) => "ohms" in part && isInstrumentOpen(part);
  if (!circuit.parts.some(isOpen)) return circuit;
  const sizes = sizesIn({ ...circuit, parts: circuit.parts.map((p) => (isOpen(p) ? withOhms(p, ohmsWithout(p)) : p)) });
  const rangeFor = (ranges: readonly RangeData[], size: number) =>
    ranges.find((r) => r.span >= size) ?? ranges[ranges.length - 1];
  const parts = circuit.parts.map((part, k) => {
    if (!isOpen(part)) return part;
    const isVolts = isVoltmeter(part);
    const { ohms } = rangeFor(meter.ranges[isVolts ? "voltage" : "current"], sizes[k] ?? 0);
    return withOhms(part, isVolts ? Math.min(ohms, IDEAL_INPUT_OHMS) : Math.max(ohms, IDEAL_OHMS));
  });
  return { ...circuit, parts };
}

const ohmsWithout = (part: Part) => (isVoltmeter(part) ? IDEAL_INPUT_OHMS : IDEAL_OHMS);
const withOhms = (part: Part, ohms: number) => ({ ...part, ohms }) as Part;

/** Volts across each voltmeter, amperes through each other part, by its place; none where the circuit is not known so far. */
function sizesIn(circuit: Circuit): readonly number[] {
  try {
    const network = buildNetwork(circuit);
    const solved = solveNetwork(network);
    if (solved.kind !== "solved") return [];
    return circuit.parts.map((part) => {
      const k = network.branches.findIndex((b) => b.part.designator === part.designator);
      const { from, to } = network.branches[k];
      return Math.abs(isVoltmeter(part) ? solved.volts[from] - solved.volts[to] : solved.amps[k]);
    });
  } catch (error) {
    if (error instanceof UnknownValueError) return [];
    throw error;
  }
}
