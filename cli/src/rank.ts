import { type Measurement, planMeasurements, type Verdict, verdictOf } from "@hound/core/plan";
import {
  explainer,
  type RankInput,
  type RankProblem,
  rankingOf,
  type Suspect,
  type Weighed,
  type Weighing,
  weighToEnd,
} from "@hound/core/rank";
import type { Configuration } from "@hound/core/record";
import { InputError } from "./failure.ts";
import { readFile } from "./files.ts";

/** Suspects below this share are not explained. */
const EXPLAINED = 1e-3;

/** `hound rank`: one object for a case; suspects below `min` are left out. */
export function rank(path: string, min: number, explain: boolean): object {
  const { input, title, standing } = inputOf(path);
  const weighing = weighToEnd(input);
  if (weighing.kind === "problem") return refuse(path, weighing);
  const ranking = rankingOf(weighing);
  const plan = planMeasurements(input, weighing, { standing });
  const explained = explain ? explanations(weighing, ranking.suspects) : [];
  return {
    title,
    ...(explain ? { healthy: ranking.healthy } : {}),
    suspects: ranking.suspects
      .map(({ faults, probability }, i) => ({ faults, probability, ...explained[i] }))
      .filter((s) => s.probability >= min),
    ...(plan ? { verdict: shownVerdict(verdictOf(weighing, plan)) } : {}),
    repairs: ranking.repairs.filter((r) => r.probability >= min),
    ...(ranking.unknowns.length > 0 ? { unknowns: ranking.unknowns } : {}),
    readings: ranking.readings.map(({ index, blunderProbability }) => ({ index, blunderProbability })),
  };
}

/** A measurement without its place in a list: the part, or the reading to be taken. */
export function whatOf(measurement: Measurement): object {
  return "reading" in measurement ? { ...measurement.reading, value: undefined } : { part: measurement.part };
}

/** A verdict as it is printed: measurements as `hound next` has them. */
export function shownVerdict(verdict: Verdict): object {
  const shown = (m: Measurement | null) => m && { kind: m.kind, ...whatOf(m), minutes: m.minutes };
  if (verdict.kind === "healthy")
    return { ...verdict, unseen: verdict.unseen.map((u) => ({ ...u, show: shown(u.show) })) };
  return verdict.kind === "stuck" ? { ...verdict, dismantle: shown(verdict.dismantle) } : verdict;
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

/** What a case file gives to rank. */
export function inputOf(path: string): { input: RankInput; title: string; standing?: Configuration } {
  const { circuit, readings, file } = readFile(path);
  if (!circuit) throw new InputError(`${path}: there is no circuit in this file`);
  return {
    input: {
      circuit,
      readings,
      meter: file?.meter,
      priors: file?.priors,
      situation: file?.situation,
      standing: file?.standing,
    },
    title: file?.title || circuit.title,
    standing: file?.standing,
  };
}

/** @throws InputError that names the file and the reading */
export function refuse(path: string, problem: RankProblem): never {
  const where = problem.index === undefined ? "" : `reading ${problem.index + 1}: `;
  throw new InputError(`${path}: ${where}${problem.message}`);
}
