import type { Circuit } from "../../circuit/index.ts";
import { buildNetwork } from "../../circuit/index.ts";
import { bridgeCandidates, type Site } from "../../faults/index.ts";
import { prepare } from "../../rank/prepare.ts";
import { weighFaults } from "../../rank/ranking.ts";
import type { Resolution } from "../../rank/resolution.ts";
import { meterData, type NumericReading, type Priors } from "../../record/index.ts";
import { drawCircuit, FaultDrawer, type Random, takeReadings } from "../../simulate/index.ts";
import { referenceMass } from "./reference.ts";

export interface TestCase {
  readonly circuit: Circuit;
  readonly readings: readonly NumericReading[];
  readonly priors: Priors;
}

/** A random circuit with a fault from the priors and a few readings of it, mis-taken with a given probability. */
export function drawCase(random: Random, parts: number, readingCount: number, blunder: number): TestCase {
  for (;;) {
    const circuit = drawCircuit(parts, random);
    const network = buildNetwork(circuit);
    const priors: Priors = { healthy: 0.05, blunder: Math.max(0.01, blunder) };
    const bridges = bridgeCandidates(network);
    const prepared = prepare({ circuit, readings: [], priors });
    if (prepared.kind === "problem") continue;
    const faults = new FaultDrawer(prepared).draw(random);
    const points = Array.from({ length: readingCount }, () => drawPoint(circuit, random));
    const taken = takeReadings(
      network,
      faults,
      points,
      { meter: meterData({}), bridges, blunder, counts: 6000 },
      random,
    );
    if (taken) return { circuit, readings: taken.map((t) => t.reading), priors };
  }
}

function drawPoint(circuit: Circuit, random: Random): NumericReading {
  const part = circuit.parts[Math.floor(random.next() * circuit.parts.length)];
  const u = random.next();
  if (u < 0.7) return { quantity: "voltage", from: part.from === circuit.reference ? part.to : part.from, value: 0 };
  if (u < 0.85) return { quantity: "current", through: part.designator, value: 0 };
  return { quantity: "voltage", from: part.from, to: part.to, value: 0 };
}

export interface Comparison {
  /** Kullback–Leibler divergence of the engine's ranking from the reference, in nats. */
  readonly divergence: number;
  readonly sameFirst: boolean;
  /** Largest relative standard error among the references that carry weight. */
  readonly error: number;
  readonly compared: number;
  /** Share of each hypothesis that was compared, by the engine and by the reference. */
  readonly shares: readonly { readonly faults: readonly Site[]; readonly own: number; readonly reference: number }[];
}

/** Holds the engine's ranking of one case against importance sampling of every hypothesis it gives a say. */
export function compare(
  { circuit, readings, priors }: TestCase,
  samples: number,
  random: Random,
  resolution?: Resolution,
): Comparison {
  const steps = weighFaults({ circuit, readings, priors }, { resolution });
  let step = steps.next();
  while (!step.done) step = steps.next();
  if (step.value.kind !== "weighing") throw new Error(step.value.message);
  const { hypotheses, prepared } = step.value;
  const compared = hypotheses.filter((h) => h.probability > 2e-4);
  const references = compared.map((h) => referenceMass(prepared, readings, h, samples, random));
  const top = Math.max(...references.map((r) => r.logMass));
  const masses = references.map((r) => Math.exp(r.logMass - top));
  const total = masses.reduce((s, m) => s + m, 0);
  const own = compared.reduce((s, h) => s + h.probability, 0);
  let divergence = 0;
  let error = 0;
  compared.forEach((h, i) => {
    const p = masses[i] / total;
    if (p > 0) divergence += p * Math.log(p / (h.probability / own));
    if (p > 0.05) error = Math.max(error, references[i].error);
  });
  const first = masses.indexOf(Math.max(...masses));
  const tie = masses.filter((m) => m > 0.9 * masses[first]).length > 1;
  const shares = compared.map((h, i) => ({
    faults: h.hypothesis.sites,
    own: h.probability / own,
    reference: masses[i] / total,
  }));
  return { divergence, sameFirst: first === 0 || tie, error, compared: compared.length, shares };
}
