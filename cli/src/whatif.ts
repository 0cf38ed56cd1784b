import { meterData, type NumericReading } from "@hound/core/record";
import { baseOf, compareWith, fitOf, type Pair, signaturesOf, whatFollows, writeSupposed } from "@hound/core/whatif";
import Papa from "papaparse";
import { InputError } from "./failure.ts";
import { faultsGiven } from "./faults.ts";
import { readKnown } from "./known.ts";

/** `hound whatif`: the healthy circuit beside the one with faults, what would follow, and how it goes with the readings. */
export function whatIf(path: string, texts: readonly string[]): WhatIf {
  const { network, circuit, file, readings, title } = readKnown(path);
  const supposed = faultsGiven(network, texts);
  const base = baseOf(network, file?.standing, meterData(file?.meter));
  const compared = base.kind === "unsolved" ? base : compareWith(base, supposed);
  if (compared.kind === "unsolved") throw new InputError(`${path}: ${compared.at}: ${compared.why}`);
  const fit = fitOf({ ...file, circuit, readings }, supposed);
  if (fit.kind === "problem") throw new InputError(`${path}: ${fit.message}`);
  return {
    title,
    faults: supposed.map((f) => writeSupposed(f, network)),
    nodes: compared.nodes.map(({ name, volts, limits }) => ({ name, volts: told(volts), limits: finite(limits) })),
    parts: compared.parts.map(({ name, volts, amps, ohms, watts }) => ({
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
}

type Told = { readonly healthy: number | null; readonly whatif: number | null };

interface WhatIf {
  readonly title: string;
  readonly faults: readonly string[];
  readonly nodes: readonly { readonly name: string; readonly volts: Told; readonly limits: number | null }[];
  readonly parts: readonly ({ readonly name: string } & Readonly<Record<"volts" | "amps" | "ohms" | "watts", Told>>)[];
  readonly follows: readonly object[];
  readonly readings: readonly object[];
  readonly bits: number;
}

/** What floats or is open has no number. */
const finite = (value: number) => (Number.isFinite(value) ? value : null);
const told = ({ healthy, whatif }: Pair): Told => ({ healthy: finite(healthy), whatif: finite(whatif) });

/** One line for every quantity: of what, which, healthy, supposed, and the change; base SI units. */
export function whatIfCsv({ nodes, parts }: WhatIf): string {
  const row = (of: string, quantity: string, { healthy, whatif }: Told) => ({
    of,
    quantity,
    healthy,
    whatif,
    change: healthy === null || whatif === null ? null : whatif - healthy,
  });
  return Papa.unparse([
    ...nodes.map(({ name, volts }) => row(name, "node_volts", volts)),
    ...parts.flatMap((part) => (["volts", "amps", "ohms", "watts"] as const).map((q) => row(part.name, q, part[q]))),
  ]);
}

/** `hound signatures`: what every single fault does to every test point, in limits. */
export function signatures(path: string): SignatureTable {
  const { network, circuit, file, title } = readKnown(path);
  const found = signaturesOf({ ...file, circuit, readings: [] });
  if (found.kind === "problem") throw new InputError(`${path}: ${found.message}`);
  return {
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
}

interface SignatureTable {
  readonly title: string;
  readonly points: readonly { readonly node: string; readonly value: number; readonly plusMinus: number }[];
  readonly faults: readonly {
    readonly fault: string;
    readonly share: number;
    readonly group: number;
    readonly values: readonly (number | null)[];
    readonly limits: readonly (number | null)[];
  }[];
}

const nodeOf = (reading: NumericReading) => (reading.quantity === "voltage" ? reading.from : "");

/** Faults down, test points across, each cell the deviation from healthy in limits. */
export function signaturesCsv({ points, faults }: SignatureTable): string {
  return Papa.unparse({
    fields: ["fault", "share", "group", ...points.map((p) => p.node)],
    data: faults.map(({ fault, share, group, limits }) => [fault, share, group, ...limits]),
  });
}
