import { buildNetwork, type Circuit, type Network } from "../circuit/index.ts";
import { bridgeCandidates, type PriorData, priorData, type Site } from "../faults/index.ts";
import { buildProbes, type ProbeSet } from "../measure/index.ts";
import {
  type Meter,
  type MeterData,
  meterData,
  type NumericReading,
  type Priors,
  type Reading,
} from "../record/index.ts";
import { Evidence } from "./evidence.ts";
import { logSumExp } from "./gaussian.ts";
import { Prior } from "./hypotheses.ts";
import { Integrator } from "./integrator.ts";
import { Observations, pointOf } from "./observations.ts";
import { Predictor } from "./predictor.ts";
import type { Resolution } from "./resolution.ts";
import { spansOf } from "./spans.ts";
import { type Settled, settleUnknowns } from "./unknowns.ts";

export interface RankInput {
  readonly circuit: Circuit;
  readonly readings: readonly Reading[];
  readonly meter?: Meter;
  readonly priors?: Priors;
}

export type RankProblem = {
  readonly kind: "problem";
  readonly what: "circuit" | "reading";
  /** The reading it is about, where it is about one. */
  readonly index?: number;
  readonly message: string;
};

/** Everything a ranking works with. */
export interface Prepared {
  readonly kind: "prepared";
  readonly network: Network;
  /** What was found of values that the circuit leaves open; null where it leaves none. */
  readonly settled: Settled | null;
  /** Numeric readings, measured before censored; then observations; then the unloaded circuit itself. */
  readonly set: ProbeSet;
  /** Number of numeric readings among the probes. */
  readonly numericCount: number;
  /** Where each of them stands among all readings given. */
  readonly places: readonly number[];
  readonly priors: PriorData;
  readonly prior: Prior;
  readonly meter: MeterData;
  readonly evidence: Evidence;
  readonly integrator: Integrator;
}

/** A loose part's contact modes are this much likelier. */
const LOOSE = 10;
const CONTACT_MODES = new Set(["open", "high", "stuckOpen", "wiperOpen"]);

/**
 * Solves the healthy circuit in every setting that occurs and lays out what the hypotheses share. Values left unknown
 * are linearised where the readings make most sense, faults included.
 * @param beyond further points, predicted like readings but without a say
 */
export function prepare(
  input: RankInput,
  beyond: readonly NumericReading[] = [],
  resolution?: Resolution,
): Prepared | RankProblem {
  const settled = settleUnknowns(input.circuit, input.readings, meterData(input.meter));
  if (!settled) return prepareWith({ ...input, settled }, beyond, resolution);
  const rounds = [settled.circuit, ...settled.others];
  const totals = rounds.map((circuit) => totalOf(prepareWith({ ...input, circuit, settled }, [], resolution)));
  const circuit = rounds[totals.indexOf(Math.max(...totals))];
  return prepareWith({ ...input, circuit, settled }, beyond, resolution);
}

/** Log of all mass of at most one fault: how much sense the readings make with unknowns near their values here. */
function totalOf(prepared: Prepared | RankProblem): number {
  if (prepared.kind === "problem") return Number.NEGATIVE_INFINITY;
  const { prior, integrator } = prepared;
  let total = integrator.integrate(prior.healthy, Number.NEGATIVE_INFINITY).logMass;
  const { singles } = prior;
  for (const one of singles) total = logSumExp([total, integrator.integrate(one, total, singles.length).logMass]);
  return total;
}

function prepareWith(
  input: RankInput & { readonly settled: Settled | null },
  beyond: readonly NumericReading[],
  resolution?: Resolution,
): Prepared | RankProblem {
  const { settled } = input;
  const meter = meterData(input.meter);
  const priors = priorData(input.priors);
  const network = buildNetwork(input.circuit);
  const numbered = input.readings.map((reading, place) => ({ reading, place }));
  const numeric = numbered
    .flatMap(({ reading, place }) => (reading.quantity === "observation" ? [] : [{ reading, place }]))
    .sort((a, b) => Number(a.reading.beyond !== undefined) - Number(b.reading.beyond !== undefined));
  const seen = numbered.flatMap(({ reading, place }) =>
    reading.quantity === "observation" ? [{ reading, place }] : [],
  );
  const branchNamed = (part: string) => network.branches.find((b) => b.name === part || b.part.designator === part);
  const lost = seen.find(({ reading }) => branchNamed(reading.part) === undefined);
  if (lost) {
    const message = `there is no part ${lost.reading.part} in this circuit`;
    return { kind: "problem", what: "reading", index: lost.place, message };
  }
  const bridges = priors.rates.bridge > 0 ? bridgeCandidates(network) : [];
  const own = numeric.map((n) => n.reading);
  const looks = seen.map(({ reading }) => pointOf(reading, branchNamed(reading.part)?.name ?? ""));
  const base: NumericReading = { quantity: "current", through: network.branches[0].name, value: 0 };
  const measured = [...own, ...beyond];
  const set = buildProbes(network, [...measured, ...looks, base], { meter, bridges, unloadedFrom: measured.length });
  if (set.kind === "reading")
    return { kind: "problem", what: "reading", index: numeric[set.index]?.place, message: set.why };
  if (set.kind === "unsolvable") {
    const at = network.branches[set.branch]?.name ?? "the circuit";
    return { kind: "problem", what: "circuit", message: `the circuit cannot be solved: see ${at} (${set.why})` };
  }
  const loose = new Set(seen.flatMap(({ reading }) => (reading.seen === "loose" ? [reading.part] : [])));
  const favoured = ({ branch, mode }: Site) =>
    branch >= 0 && CONTACT_MODES.has(mode) && loose.has(network.branches[branch].part.designator) ? LOOSE : 1;
  const prior = new Prior(network, bridges, priors, favoured);
  const predictor = new Predictor(set, meter, measured.length);
  const evidence = new Evidence(set.probes.slice(0, own.length), spansOf(set), priors);
  const watched = seen.map((s) => s.reading);
  const observations = watched.length > 0 ? new Observations(set, measured.length, watched, priors) : null;
  const integrator = new Integrator(predictor, evidence, observations, resolution);
  const places = numeric.map((n) => n.place);
  return {
    kind: "prepared",
    network,
    settled,
    set,
    numericCount: own.length,
    places,
    priors,
    prior,
    meter,
    evidence,
    integrator,
  };
}
