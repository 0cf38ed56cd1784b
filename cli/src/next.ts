import { planMeasurements, readingsToSettle, type Suggestion, verdictOf } from "@hound/core/plan";
import { type RankInput, weighToEnd } from "@hound/core/rank";
import { seededRandom } from "@hound/core/simulate";
import { InputError } from "./failure.ts";
import { inputOf, refuse, shownVerdict, whatOf } from "./rank.ts";

/** Continuations are simulated with the same seed every time. */
const SEED = 1;

/** `hound next`: measurements worth taking, best first, with what they are expected to tell. */
export function next(path: string, school: string): object {
  const { input, title, standing } = inputOf(path);
  const weighing = weighToEnd(input);
  if (weighing.kind === "problem") return refuse(path, weighing);
  const plan = planMeasurements(input as RankInput, weighing, { school: school as "information", standing });
  if (!plan) throw new InputError(`${path}: the circuit cannot be solved with a meter on it`);
  return {
    title,
    verdict: shownVerdict(verdictOf(weighing, plan)),
    entropyBits: plan.entropyBits,
    readingsToSettle: readingsToSettle(plan, seededRandom(SEED)),
    measurements: plan.suggestions.map(lineOf),
    groups: plan.groups.filter((g) => g.members.length > 1 && g.probability >= 1e-3),
  };
}

function lineOf({ measurement, informationBits, settles, predictions, looks }: Suggestion): object {
  const { kind, minutes } = measurement;
  return { kind, ...whatOf(measurement), informationBits, settles, minutes, predictions, ...(looks ? { looks } : {}) };
}
