import { buildNetwork, type Circuit, type Mode, type Network } from "../circuit/index.ts";
import type { Configuration } from "../configuration/index.ts";
import {
  bridgeCandidates,
  keyOfSite,
  likelierBy,
  type PriorData,
  priorData,
  type Site,
  type SiteOptions,
  sitesOf,
} from "../faults/index.ts";
import {
  buildProbes,
  corrected,
  correctionOf,
  type NodePair,
  type ProbeSet,
  withInstruments,
} from "../measure/index.ts";
import {
  type Meter,
  type MeterData,
  meterData,
  type NumericReading,
  type Priors,
  type Reading,
  type Situation,
} from "../record/index.ts";
import { troubleWith } from "./answer/trouble.ts";
import { takenTogether } from "./evidence/alike.ts";
import { Evidence } from "./evidence/evidence.ts";
import { logSumExp } from "./evidence/gaussian.ts";
import { Integrator } from "./evidence/integrator.ts";
import { type Observation, Observations, pointOf } from "./evidence/observations.ts";
import { readerOf } from "./evidence/reader.ts";
import type { Resolution } from "./evidence/resolution.ts";
import { spansOf } from "./evidence/spans.ts";
import { falseMetersOf } from "./hypotheses/falseMeter.ts";
import { Noticed } from "./hypotheses/noticed.ts";
import { Prior } from "./hypotheses/prior.ts";
import { type Settled, settleUnknowns } from "./hypotheses/unknowns.ts";
import type { Pairs } from "./prediction/change.ts";
import { Predictor } from "./prediction/predictor.ts";

export interface RankInput {
  readonly circuit: Circuit;
  readonly readings: readonly Reading[];
  readonly meter?: Meter;
  /** What was said of this job; it comes before habits. */
  readonly priors?: Priors;
  /** What closed jobs taught. */
  readonly habits?: Priors | undefined;
  /** Whether something is known to be wrong, or a new build or a repair is checked. */
  readonly situation?: Situation;
  /** How the circuit stands now, where that differs from the drawing. */
  readonly standing?: Configuration;
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
  /** Numeric readings, measured before censored; then observations. */
  readonly set: ProbeSet;
  /** Pairs of nodes that faults may join. */
  readonly pairs: Pairs;
  /** Number of numeric readings among the probes. */
  readonly numericCount: number;
  /** Where each of them stands among all readings given. */
  readonly places: readonly number[];
  /** The places of all that each stands for: of many of one point the mean is one. */
  readonly members: readonly (readonly number[])[];
  readonly priors: PriorData;
  readonly prior: Prior;
  /** The same of the observations made. */
  readonly lookPlaces: readonly number[];
  /** What would be believed without the habits that closed jobs taught; null where there are none. */
  readonly priorWithoutHabits: (() => Prior) | null;
  readonly meter: MeterData;
  readonly evidence: Evidence;
  readonly integrator: Integrator;
  /** What was seen, then what might be; null where there is nothing of either. */
  readonly observations: Observations | null;
  /** How many observations were made. */
  readonly toldCount: number;
}

/** A loose part's contact modes are this much likelier. */
const LOOSE = 10;
const CONTACT_MODES = new Set(["open", "high", "stuckOpen", "wiperOpen"]);

/**
 * Solves the healthy circuit in every setting that occurs and lays out what the hypotheses share. Values left unknown
 * are linearised where the readings make most sense, faults included.
 * @param beyond further points, predicted like readings but without a say
 * @param more what might be seen besides, without a say either
 * @param joined pairs of nodes that faults may join besides the candidates; they come last among the pairs
 */
export function prepare(
  asShown: RankInput,
  beyond: readonly NumericReading[] = [],
  resolution?: Resolution,
  more: readonly Observation[] = [],
  joined: readonly NodePair[] = [],
): Prepared | RankProblem {
  const data = meterData(asShown.meter);
  const input = {
    ...asShown,
    circuit: withInstruments(asShown.circuit, data),
    readings: asShown.readings.map((r) => corrected(r, data)),
  };
  const settled = settleUnknowns(input.circuit, input.readings, data);
  if (!settled) return prepareWith({ ...input, settled }, beyond, resolution, more, joined);
  const rounds = [settled.circuit, ...settled.others];
  const totals = rounds.map((circuit) => totalOf(prepareWith({ ...input, circuit, settled }, [], resolution)));
  const circuit = rounds[totals.indexOf(Math.max(...totals))];
  return prepareWith({ ...input, circuit, settled }, beyond, resolution, more, joined);
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
  more: readonly Observation[] = [],
  joined: readonly NodePair[] = [],
): Prepared | RankProblem {
  const { settled } = input;
  const trouble = troubleWith(input.readings);
  if (trouble) return { kind: "problem", what: "reading", ...trouble };
  const meter = meterData(input.meter);
  const priors = priorData(withHabits(input), input.situation);
  const network = buildNetwork(input.circuit);
  const numbered = input.readings.map((reading, place) => ({ reading, place }));
  const numeric = numbered
    .flatMap(({ reading, place }) => (reading.quantity === "observation" ? [] : [{ reading, place }]))
    .sort((a, b) => Number(a.reading.beyond !== undefined) - Number(b.reading.beyond !== undefined));
  const taken = takenTogether(numeric, meter);
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
  const told = input.readings.flatMap((r): Configuration[] => (r.state ? [r.state] : []));
  const states = input.standing ? [...told, input.standing] : told;
  const own = taken.map((t) => t.reading);
  const watched = [...seen.map((s) => s.reading), ...more];
  const looks = watched.map((look) => pointOf(look, branchNamed(look.part)?.name ?? ""));
  const measured = [...own, ...beyond];
  const loose = new Set(seen.flatMap(({ reading }) => (reading.seen === "loose" ? [reading.part] : [])));
  const unknown = new Set(settled?.estimates.map((e) => e.designator));
  const isNew = input.situation === "newBuild";
  const options = { states, isNew, isFitted: isNew || input.situation === "repaired", unknown };
  const priorFrom = (data: PriorData) => {
    const happened = happenedTo(network, bridges, data, options);
    const favoured = (site: Site) => {
      if (site.branch < 0) return happened(site);
      const name = network.branches[site.branch].part.designator;
      const isLoose = CONTACT_MODES.has(site.mode) && loose.has(name);
      return happened(site) * (data.opinions.get(name) ?? 1) * (isLoose ? LOOSE : 1);
    };
    return new Prior(network, bridges, data, options, favoured, noticed, meters);
  };
  const pairs = pairsFor(network, bridges, sitesOf(network, bridges, priors, options), joined);
  const noticed = priors.noticed ? Noticed.of(network, pairs, meter, priors.noticed) : null;
  const set = buildProbes(network, [...measured, ...looks], {
    meter,
    bridges: pairs.all,
    unloadedFrom: measured.length,
  });
  if (set.kind === "reading")
    return { kind: "problem", what: "reading", index: taken[set.index]?.place, message: set.why };
  if (set.kind === "unsolvable") {
    const at = network.branches[set.branch]?.name ?? "the circuit";
    return { kind: "problem", what: "circuit", message: `the circuit cannot be solved: see ${at} (${set.why})` };
  }
  if (!set.settings.every(({ ports }) => ports.q.every(Number.isFinite) && ports.x.every(Number.isFinite)))
    return {
      kind: "problem",
      what: "circuit",
      message: "a value in the circuit is too large or too small to compute with",
    };
  const isChecked = (reading: NumericReading) => correctionOf(reading, meter) !== null;
  const meters = priors.blunder > 0 ? falseMetersOf(set.probes.slice(0, own.length), meter, isChecked) : [];
  const prior = priorFrom(priors);
  const predictor = new Predictor(set, meter, measured.length, pairs);
  const spans = spansOf(set);
  const places = taken.map((t) => t.place);
  const readers = set.probes.slice(0, own.length).map((p, i) => readerOf(p, meter, spans[i], places[i]));
  const evidence = new Evidence(readers, priors);
  const observations = watched.length > 0 ? new Observations(set, measured.length, watched, priors, seen.length) : null;
  const integrator = new Integrator(predictor, evidence, observations, resolution, noticed);
  return {
    kind: "prepared",
    network: set.network,
    settled,
    set,
    pairs,
    numericCount: own.length,
    places,
    members: taken.map((t) => t.places),
    lookPlaces: seen.map((s) => s.place),
    priors,
    prior,
    priorWithoutHabits: input.habits ? () => priorFrom(priorData(input.priors, input.situation)) : null,
    meter,
    evidence,
    integrator,
    observations,
    toldCount: seen.length,
  };
}

/** What was said of the job comes before what closed jobs taught, kind by kind. */
function withHabits({ habits, priors }: RankInput): Priors | undefined {
  if (!habits) return priors;
  const rates = { ...habits.rates, ...priors?.rates };
  const modes = { ...habits.modes, ...priors?.modes };
  return { ...habits, ...priors, rates, modes };
}

/** How much likelier each site is for what closed jobs say of this very circuit. */
function happenedTo(
  network: Network,
  bridges: readonly NodePair[],
  priors: PriorData,
  options: SiteOptions,
): (site: Site) => number {
  if (priors.failed.size === 0) return () => 1;
  const sites = sitesOf(network, bridges, priors, options);
  const all = sites.reduce((sum, s) => sum + s.weight, 0);
  const times = sites.map((s) => (s.moved ? 0 : (priors.failed.get(nameOfFailure(network, bridges, s)) ?? 0)));
  const factors = likelierBy(
    sites.map((s) => s.weight / all),
    times,
  );
  const known = new Map(sites.map((s, i) => [keyOfSite(s), factors[i]]));
  return (site) => known.get(keyOfSite(site)) ?? 1;
}

function nameOfFailure({ nodes, branches }: Network, bridges: readonly NodePair[], site: Site): string {
  if (site.branch >= 0) return `${branches[site.branch].name} ${site.mode === "wiperOpen" ? "open" : site.mode}`;
  const names = bridges[site.bridge].map((n) => nodes[n]).sort();
  return `${names.join("~")} bridged`;
}

const CLOSING: ReadonlySet<Mode> = new Set(["short", "leaky"]);

/** Candidate bridges, the ends of switches that were open somewhere, where misplaced leads put their parts; then others. */
function pairsFor(
  network: Network,
  bridges: readonly NodePair[],
  sites: readonly Site[],
  joined: readonly NodePair[],
): Pairs {
  const all = [...bridges];
  const closers = new Map<number, number>();
  const moved = new Map<string, number>();
  for (const site of sites) {
    const own = network.branches[site.branch];
    // What is open as drawn, or was somewhere, and is closed by its fault: a switch, a capacitor.
    const closes = site.mode === "stuckClosed" || (own?.law.kind === "open" && CLOSING.has(site.mode));
    if (closes && !closers.has(site.branch)) {
      const { from, to } = own;
      closers.set(site.branch, all.push([from, to]) - 1);
    } else if (site.moved) moved.set(keyOfSite(site), all.push(site.moved.pair) - 1);
  }
  all.push(...joined);
  return { all, closers, moved };
}
