import type { Circuit } from "../circuit/index.ts";
import { judge, type RepairProof, type Verdict } from "../judgement/index.ts";
import type { CaseFile } from "../notation/index.ts";
import { type Measurement, planMeasurements, type School, type Suggestion } from "../plan/index.ts";
import {
  explainer,
  type RankInput,
  type RankProblem,
  rankingOf,
  type Suspect,
  type Weighed,
  type Weighing,
  weighToEnd,
} from "../rank/index.ts";
import { seededRandom } from "../simulate/index.ts";

/** What is diagnosed: a circuit that was read, and what goes with it. */
export interface Given
  extends Pick<Partial<CaseFile>, "readings" | "meter" | "priors" | "habits" | "situation" | "standing" | "title"> {
  readonly circuit: Circuit;
}

export interface RankWishes {
  /** Suspects and repairs below this probability are left out. */
  readonly min: number;
  /** With predictions, bits of evidence and overloads of each suspect that matters. */
  readonly explain: boolean;
}

/** Suspects below this share are not explained. */
const EXPLAINED = 1e-3;
/** Continuations are simulated with the same seed every time. */
const SEED = 1;

/** What is most probably wrong, as plain data; what cannot be computed is a problem that says where. */
export function rankCase(given: Given, { min, explain }: RankWishes): object | RankProblem {
  const input = inputOf(given);
  const weighing = weighToEnd(input);
  if (weighing.kind === "problem") return weighing;
  const ranking = rankingOf(weighing);
  const plan = planMeasurements(input, weighing);
  const judged = plan && judge(input, weighing, plan, seededRandom(SEED));
  const explained = explain ? explanations(weighing, ranking.suspects) : [];
  return {
    title: given.title || given.circuit.title,
    ...(explain ? { healthy: ranking.healthy } : {}),
    suspects: ranking.suspects
      .map(({ faults, meter, probability }, i) => ({
        // A meter that reads false is a suspect like a part.
        faults: meter ? [...faults, falseMeter(meter)] : faults,
        probability,
        ...explained[i],
      }))
      .filter((s) => s.probability >= min),
    ...(judged ? { verdict: shownVerdict(judged.verdict) } : {}),
    repairs: ranking.repairs
      .filter((r) => r.probability >= min)
      .map(({ repair, probability, alone }) => ({ repair, probability, alone })),
    ...(judged && explain ? { proofs: judged.proofs.map(shownProof) } : {}),
    ...(ranking.unknowns.length > 0 ? { unknowns: ranking.unknowns } : {}),
    ...(ranking.leadsForgotten > 0.5 ? { leadsForgotten: ranking.leadsForgotten } : {}),
    readings: ranking.readings.map(({ index, blunderProbability }) => ({ index, blunderProbability })),
  };
}

function falseMeter({ meter, ...rest }: NonNullable<Suspect["meter"]>): object {
  return { meter: meter || "in hand", mode: "false", ...rest };
}

/** What to measure next, best first, as plain data. */
export function planCase(given: Given, school: School): object | RankProblem {
  const input = inputOf(given);
  const weighing = weighToEnd(input);
  if (weighing.kind === "problem") return weighing;
  const plan = planMeasurements(input, weighing, { school });
  if (!plan) return { kind: "problem", what: "circuit", message: "the circuit cannot be solved with a meter on it" };
  const { verdict, toSettle, next } = judge(input, weighing, plan, seededRandom(SEED));
  return {
    title: given.title || given.circuit.title,
    verdict: shownVerdict(verdict),
    entropyBits: plan.entropyBits,
    readingsToSettle: toSettle,
    measurements: next.map(lineOf),
    groups: plan.groups.filter((g) => g.members.length > 1 && g.probability >= 1e-3),
  };
}

function inputOf({ circuit, readings = [], meter, priors, habits, situation, standing }: Given): RankInput {
  return { circuit, readings, meter, priors, ...(habits ? { habits } : {}), situation, standing };
}

/** A measurement without its place in a list: the part, or the reading to be taken. */
function whatOf(measurement: Measurement): object {
  if (!("reading" in measurement)) return { part: measurement.part };
  const { value: _, ...place } = measurement.reading;
  return place;
}

function lineOf({ measurement, informationBits, settles, predictions, looks }: Suggestion): object {
  const { kind, minutes } = measurement;
  return { kind, ...whatOf(measurement), informationBits, settles, minutes, predictions, ...(looks ? { looks } : {}) };
}

function shownVerdict(verdict: Verdict): object {
  const shown = (m: Measurement | null) => m && { kind: m.kind, ...whatOf(m), minutes: m.minutes };
  if (verdict.kind === "healthy")
    return { ...verdict, unseen: verdict.unseen.map((u) => ({ ...u, show: shown(u.show) })) };
  return verdict.kind === "stuck" ? { ...verdict, dismantle: shown(verdict.dismantle) } : verdict;
}

/** How a repair is proved: by which readings it is, and in which steps it would be. */
function shownProof({ repair, given, steps }: RepairProof): object {
  return {
    repair,
    given: given.map(({ how, index }) => ({ how, index })),
    steps: steps.map(({ measurement: m }) => ({ kind: m.kind, ...whatOf(m), minutes: m.minutes })),
  };
}

/** Of each suspect that matters: what it predicts, which reading speaks for it or against it, what it overloads. */
function explanations(weighing: Weighing, suspects: readonly Suspect[]): object[] {
  const one = explainer(weighing);
  const bitsOf = (h: Weighed) => {
    const found = one?.(h);
    return found && { bits: found.bits, restBits: found.rest, totalBits: found.total };
  };
  return suspects.map(({ consequence, predictions, overloads, probability }, i) =>
    probability < EXPLAINED
      ? {}
      : { ...(consequence ? { consequence } : {}), predictions, ...bitsOf(weighing.hypotheses[i]), overloads },
  );
}
