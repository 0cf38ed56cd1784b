import type { Circuit } from "../../circuit/index.ts";
import type { Configuration } from "../../configuration/index.ts";
import type { Resolution } from "../../rank/evidence/resolution.ts";
import { nameOfSite, weighToEnd } from "../../rank/index.ts";
import type { NumericReading, Priors, Reading, Situation } from "../../record/index.ts";
import { type PlainFault, plainElements, plainLook } from "./bench.ts";
import { plainRise } from "./evidence.ts";
import { type PlainSingle, plainNoticed, plainPrior, plainSingles } from "./prior.ts";
import { type Draws, type PlainCase, referenceEvidence } from "./reference.ts";

/** A case with its own plain truth: the meter with one range a function. */
export interface TestCase {
  readonly circuit: Circuit;
  readonly readings: readonly Reading[];
  readonly priors: Priors;
  readonly situation?: Situation;
  readonly accuracy?: PlainCase["accuracy"];
}

export const PLAIN_METER = { input: 1e7, burden: 1 } as const;
/** The same meter, as the engine has it. */
export const METER = { current: { burdenResistance: 1 } } as const;

export interface Comparison {
  /** Kullback–Leibler divergence of the engine's ranking from the reference, in nats. */
  readonly divergence: number;
  readonly sameFirst: boolean;
  /** Largest relative standard error among the references that carry weight. */
  readonly error: number;
  readonly compared: number;
  /** Share of each hypothesis that was compared, by the engine and by the reference. */
  readonly shares: readonly { readonly name: string; readonly own: number; readonly reference: number }[];
}

/**
 * Holds the engine's ranking of one case against importance sampling of every hypothesis it gives a say: priors, laws,
 * looks, consequences and slips all written again. The engine's cells say only where to draw samples.
 * @param least hypotheses below this share are left out of both
 */
export function compare(
  { circuit, readings, priors, situation, accuracy }: TestCase,
  samples: number,
  random: Draws,
  { resolution, least = 2e-4 }: { readonly resolution?: Resolution; readonly least?: number } = {},
): Comparison {
  const meter = accuracy ? meterOf(accuracy) : METER;
  const weighing = weighToEnd({ circuit, readings, priors, situation, meter }, { resolution });
  if (weighing.kind === "problem") throw new Error(weighing.message);
  const { hypotheses, prepared } = weighing;
  const states = readings.flatMap((r): Configuration[] => (r.state ? [r.state] : []));
  const singles = plainSingles(circuit, states, situation === "newBuild");
  const prior = plainPrior(singles, priors.healthy ?? 0.02);
  const isComplaint = situation === "complaint";
  const logShown = isComplaint ? shownOf(circuit, singles) : 0;
  const functions = new Set(readings.flatMap((r) => (r.quantity === "observation" ? [] : [r.quantity])));
  // A meter may be false on each function: one in two hundred.
  const logTrue = functions.size * Math.log(1 - 0.005);
  const given: PlainCase = {
    circuit,
    readings,
    meter: PLAIN_METER,
    blunder: priors.blunder ?? 0.01,
    spans: spansOf(circuit, readings),
    ...(accuracy ? { accuracy } : {}),
  };
  const compared = hypotheses.filter((h) => h.probability > least);
  const references = compared.map((h) => {
    const sites = h.hypothesis.sites;
    const own = sites.map((site): PlainSingle => {
      const name = nameOfSite(prepared, site);
      const found = singles.find((s) => s.name === name);
      if (!found) throw new Error(`the plain prior knows no ${name}`);
      return found;
    });
    const faultsAt = (at: readonly number[]): PlainFault[] => {
      let next = 0;
      return own.map((s) => s.faultAt(s.hasValue ? at[next++] : 0));
    };
    const falseOn = h.hypothesis.meter?.quantity;
    const isPair = own.length === 2;
    const [one, two] = own;
    const pairShare = isPair ? Math.exp(prior.pair(one, two) - prior.single(one)) : 0;
    // Nothing wrong keeps its share: what is left goes by whether it could have been noticed.
    const logFalse = (falseOn ? Math.log(0.005) : 0) + (falseOn && own.length === 0 ? 0 : logTrue);
    const faulty = own.length === 0 ? (falseOn ? 0 : prior.healthy) : prior.single(one) - logShown;
    const logPrior = faulty + logFalse;
    const logPriorAt = (faults: readonly PlainFault[]) => {
      const noticed = isComplaint && own.length > 0 ? Math.log(plainNoticed(circuit, faults)) : 0;
      if (!isPair) return noticed;
      const [cause] = faults;
      const rise = h.isConsequence ? plainRise(circuit, readings, [cause], two.owner) : 0;
      return noticed + Math.log(rise + pairShare);
    };
    const top = Math.max(...h.cells.map((c) => c.logMass));
    const cells = h.cells.map(({ lo, hi, logMass }) => ({ lo, hi, mass: Math.exp(logMass - top) }));
    const doubtful = h.detail?.best.likeliest.slice(0, 3) ?? [];
    const { log, error } = referenceEvidence(
      { ...given, falseOn },
      faultsAt,
      logPriorAt,
      { cells, doubtful },
      samples,
      random,
    );
    return { log: logPrior + log, error };
  });
  const top = Math.max(...references.map((r) => r.log));
  const masses = references.map((r) => Math.exp(r.log - top));
  const total = masses.reduce((s, m) => s + m, 0);
  const all = compared.reduce((s, h) => s + h.probability, 0);
  const shares = compared.map((h, i) => ({
    name: [
      h.hypothesis.sites.map((s) => nameOfSite(prepared, s)).join(" & ") || "nothing",
      ...(h.hypothesis.meter ? [`false ${h.hypothesis.meter.quantity}`] : []),
    ].join(", "),
    own: h.probability / all,
    reference: masses[i] / total,
  }));
  let divergence = 0;
  let error = 0;
  shares.forEach(({ own, reference }, i) => {
    if (reference > 0) divergence += reference * Math.log(reference / own);
    if (reference > 0.05) error = Math.max(error, references[i].error);
  });
  const first = masses.indexOf(Math.max(...masses));
  const isTie = masses.filter((m) => m > 0.9 * masses[first]).length > 1;
  return { divergence, sameFirst: first === 0 || isTie, error, compared: compared.length, shares };
}

/** Log of the share of all faults that is noticed; two go unnoticed where each does. */
function shownOf(circuit: Circuit, singles: readonly PlainSingle[]): number {
  const averages = singles.map((s) => {
    if (!s.hasValue) return plainNoticed(circuit, [s.faultAt(0)]);
    const N = 24;
    // Midpoints of stretches that are narrow where the weight rises.
    return Array.from({ length: N }, (_, k) => k).reduce((sum, k) => {
      const [from, to] = [(k / N) ** 2, ((k + 1) / N) ** 2];
      return sum + (to - from) * plainNoticed(circuit, [s.faultAt((from + to) / 2)]);
    }, 0);
  });
  const all = singles.reduce((sum, s) => sum + s.weight, 0);
  const one = singles.reduce((sum, s, i) => sum + (s.weight / all) * averages[i], 0);
  let pairs = 0;
  let hidden = 0;
  singles.forEach((a, i) => {
    singles.slice(0, i).forEach((b, k) => {
      if (a.owner === b.owner) return;
      pairs += a.weight * b.weight;
      hidden += a.weight * b.weight * (1 - averages[i]) * (1 - averages[k]);
    });
  });
  return Math.log(0.92 * one + 0.08 * (1 - hidden / pairs));
}

function meterOf({ percent, counts, offset }: NonNullable<PlainCase["accuracy"]>) {
  const accuracy = { percent, counts };
  const ranges = [{ span: 1000, resolution: 0.01 }];
  return {
    voltage: { accuracy, offset, ranges },
    current: { accuracy, offset, burdenResistance: 1, ranges },
    resistance: { accuracy, offset, ranges },
  };
}

/** ±1.5 Σ|E| for volts, three times the supply's current for amperes, 1.5 times all resistance for ohms; at least thrice the reading. */
function spansOf(circuit: Circuit, readings: readonly Reading[]): number[] {
  const elements = plainElements(circuit);
  const supplies = elements.filter((e) => e.part.kind === "supply");
  const volts = supplies.reduce((s, { part }) => s + Math.abs((part as { volts: number }).volts), 0) || 1;
  const looks = supplies.map((e) => plainLook(circuit, e.name, {}, false, [], { factor: {} }));
  const amps = Math.max(1e-3, ...looks.map((l) => Math.abs(l.amps)));
  const numeric = readings.filter((r): r is NumericReading => r.quantity !== "observation" && r.beyond === undefined);
  return numeric.map((r) => {
    if (r.quantity === "resistance") throw new Error("no plain span for ohms");
    return Math.max(r.quantity === "voltage" ? 3 * volts : 3 * amps, 3 * Math.abs(r.value));
  });
}
