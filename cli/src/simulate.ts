import { writeFileSync } from "node:fs";
import { buildNetwork, type Circuit, type Network } from "@hound/core/circuit";
import { bridgeCandidates, type FaultAt } from "@hound/core/faults";
import { withInstruments } from "@hound/core/measure";
import { readQuick, writeCase, writeTrail } from "@hound/core/notation";
import { prepare } from "@hound/core/rank";
import { meterData, type NumericReading, type Priors } from "@hound/core/record";
import { FaultDrawer, type Random, seededRandom, takeReadings } from "@hound/core/simulate";
import { InputError, UsageError } from "./failure.ts";
import { type BenchFaults, benchFaults } from "./faults.ts";
import { readFile } from "./files.ts";

export interface SimulateOptions {
  readonly seed: number;
  /** Points to read, such as `B`, `R3:A`, `B-D:ohm`; left out, every node's voltage. */
  readonly at?: string;
  readonly fault: readonly string[];
  readonly healthy: boolean;
  readonly blunder: number;
  readonly out: string;
  readonly truth?: string;
}

/** `hound simulate`: a seeded bench draws a fault and takes readings; the truth goes into a file of its own. */
export function simulate(path: string, options: SimulateOptions) {
  const contents = readFile(path);
  if (!contents.circuit) throw new InputError(`${path}: there is no circuit in this file`);
  const meter = meterData(contents.file?.meter);
  const circuit = withInstruments(contents.circuit, meter);
  const network = buildNetwork(circuit);
  const random = seededRandom(options.seed);
  const priors = contents.file?.priors;
  const isTold = options.healthy || options.fault.length > 0;
  const { faults, bridges }: BenchFaults = isTold
    ? benchFaults(network, options.healthy ? [] : options.fault)
    : { faults: drawn(circuit, priors, random), bridges: bridgeCandidates(network) };
  const points = (options.at ?? network.nodes.filter((n) => !n.includes(".") && n !== circuit.reference).join(","))
    .split(",")
    .map((point) => pointNamed(point.trim(), circuit));
  const taken = takeReadings(
    network,
    faults,
    points,
    { meter, bridges, blunder: options.blunder, counts: 6000 },
    random,
  );
  if (!taken) throw new InputError(`${path}: with this fault the circuit cannot be solved`);
  const file = {
    ...contents.file,
    format: "clever-hound-case" as const,
    version: 1 as const,
    title: contents.file?.title ?? circuit.title,
    circuit: contents.trail ?? writeTrail(circuit),
    readings: taken.map((t) => t.reading),
  };
  writeFileSync(options.out, writeCase(file));
  if (options.truth)
    writeFileSync(options.truth, `${JSON.stringify(truthOf(network, bridges, faults, taken), null, 2)}\n`);
}

function drawn(circuit: Circuit, priors: Priors | undefined, random: Random): FaultAt[] {
  const prepared = prepare({ circuit, readings: [], priors });
  if (prepared.kind === "problem") throw new InputError(prepared.message);
  return new FaultDrawer(prepared).draw(random);
}

function truthOf(
  network: Network,
  bridges: readonly (readonly [number, number])[],
  faults: readonly FaultAt[],
  taken: readonly { readonly slip: string | null }[],
): object {
  return {
    faults: faults.map(({ site, value }) =>
      site.branch < 0
        ? { nodes: bridges[site.bridge].map((n) => network.nodes[n]), mode: "bridged" }
        : { part: network.branches[site.branch].name, mode: site.mode, ...(site.value ? { value } : {}) },
    ),
    slips: taken.flatMap(({ slip }, index) => (slip ? [{ index, slip }] : [])),
  };
}

function pointNamed(point: string, circuit: Parameters<typeof readQuick>[1]): NumericReading {
  const [where, unit = "V"] = point.split(":");
  const read = readQuick(`${where} 1${unit}`, circuit);
  if (read.kind !== "reading" || read.reading.quantity === "observation") {
    throw new UsageError(`--at ${point}: ${read.kind === "mistake" ? read.message : "not a point one can measure at"}`);
  }
  const { typed: _typed, step: _step, ...reading } = read.reading;
  return reading as NumericReading;
}
