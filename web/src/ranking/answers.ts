import { deadLoad, toldAt, toldFrom, weighedAt } from "@hound/core/coach";
import type { Configuration } from "@hound/core/configuration";
import { leadingRepair, proofOf } from "@hound/core/judgement";
import { planMeasurements, type School } from "@hound/core/plan";
import type { RankInput, Weighing } from "@hound/core/rank";
import type { BenchAnswer, BenchQuestion } from "./messages.ts";

/** Readings that were weighed to the end, and what goes with them. */
export interface Weighed {
  readonly input: RankInput;
  readonly weighing: Weighing;
  readonly standing: Configuration;
  readonly school: School;
}

/** Measurements that a procedure may take its steps from. */
const ALL = 1000;

/** @returns null where it cannot be told: the circuit cannot be solved with a meter there */
export function answerTo(
  question: Exclude<BenchQuestion, { of: "reaches" }>,
  { input, weighing, standing, school }: Weighed,
): BenchAnswer | null {
  if (question.of === "point") {
    const { point, isTyped } = question;
    if (!isTyped) return { of: "point", told: toldAt(input, weighing, point), questions: [] };
    const found = weighedAt(input, weighing.hypotheses, weighing.prepared.network, point);
    return { of: "point", told: found && toldFrom(found.own, weighing, point), questions: found?.questions ?? [] };
  }
  const plan = planMeasurements(input, weighing, { standing, school, count: ALL });
  if (!plan) return null;
  if (question.of === "proof") {
    const lead = leadingRepair(plan);
    const steps = lead < 0 ? [] : proofOf(plan, input.readings, lead).steps;
    return { of: "procedure", steps };
  }
  return { of: "procedure", steps: deadLoad(weighing.prepared.network, plan, input.readings, question.part) };
}
