import type { Network } from "@hound/core/circuit";
import { meterData, type NumericReading } from "@hound/core/record";
import {
  baseOf,
  type Comparison,
  compareWith,
  fitOf,
  type Pair,
  type Signatures,
  signaturesOf,
  whatFollows,
  writeSupposed,
} from "@hound/core/whatif";
import { InputError } from "./failure.ts";
import { faultsGiven } from "./faults.ts";
import { readKnown } from "./known.ts";

/** `hound whatif`: the healthy circuit beside the one with faults, what would follow, and how it goes with the readings. */
export function whatIf(path: string, texts: readonly string[]): { report: object; comparison: Comparison } {
  const { network, circuit, file, readings, title } = readKnown(path);
  const supposed = faultsGiven(network, texts);
  const base = baseOf(network, file?.standing, meterData(file?.meter));
  const comparison = base.kind === "unsolved" ? base : compareWith(base, supposed);
  if (comparison.kind === "unsolved") throw new InputError(`${path}: ${comparison.at}: ${comparison.why}`);
  const fit = fitOf({ ...file, circuit, readings }, supposed);
  if (fit.kind === "problem") throw new InputError(`${path}: ${fit.message}`);
  const report = {
    title,
    faults: supposed.map((f) => writeSupposed(f, network)),
    nodes: comparison.nodes.map(({ name, volts, limits }) => ({ name, volts: told(volts), limits: finite(limits) })),
    parts: comparison.parts.map(({ name, volts, amps, ohms, watts }) => ({
      name,
      volts: told(volts),
      amps: told(amps),
      ohms: told(ohms),
      watts: told(watts),
    })),
    follows: whatFollows(network, supposed, file?.standing).gave,
    readings: fit.readings.map(({ index, value, plusMinus, limits, bits }) => ({
      index,
      value: finite(value),
      plusMinus: finite(plusMinus),
      limits: finite(limits),
      bits,
    })),
    bits: fit.bits,
  };
  return { report, comparison };
}

/** What floats or is open has no number. */
const finite = (value: number) => (Number.isFinite(value) ? value : null);
const told = ({ healthy, whatif }: Pair) => ({ healthy: finite(healthy), whatif: finite(whatif) });

/** `hound signatures`: what every single fault does to every test point, in limits. */
export function signatures(path: string): { report: object; found: Signatures; network: Network } {
  const { network, circuit, file, title } = readKnown(path);
  const found = signaturesOf({ ...file, circuit, readings: [] });
  if (found.kind === "problem") throw new InputError(`${path}: ${found.message}`);
  const report = {
    title,
    points: found.points.map(({ reading, healthy, tells }) => ({
      node: nodeOf(reading),
      ...healthy,
      tellsBits: tells,
    })),
    faults: found.rows.map(({ fault, share, group, values, deviations }) => ({
      fault: writeSupposed(fault, network),
      share,
      group,
      values: [...values].map(finite),
      limits: [...deviations].map(finite),
    })),
  };
  return { report, found, network };
}

const nodeOf = (reading: NumericReading) => (reading.quantity === "voltage" ? reading.from : "");
