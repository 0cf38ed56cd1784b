import type { GivenProof, ProcedureStep, RepairProof } from "@hound/core/judgement";
import { measurementWords } from "./measurements.ts";
import { predictedWords } from "./quantities.ts";
import { stepsWords } from "./repair.ts";

/** How a repair is proved, in a sentence: by what was done already, or by what would. */
export function proofWords({ repair, given, steps }: RepairProof): string {
  const done = given.length > 0 ? `Shown already: ${given.map(givenWords).join(" and ")}.` : "";
  if (steps.length > 0) return `${done} To prove it: ${steps.map(stepWords).join("; and ")}.`.trim();
  return done || `Nothing on offer proves it but ${stepsWords(repair)} changed and everything read again.`;
}

function givenWords({ step, how, index }: GivenProof): string {
  const what = "part" in step ? step.part : `${step.nodes[0]} to ${step.nodes[1]}`;
  const done = {
    swapped: "swapped and read again",
    lifted: "by itself, a lead lifted",
    cleared: "cleared and read again",
  };
  return `${what} ${done[how]} (reading ${index + 1})`;
}

/** `volts at D, 3.1 V ± 0.2 V if it is, 4.5 V ± 0.1 V if not`. */
function stepWords({ measurement, outcomes }: ProcedureStep): string {
  const { how, where } = measurementWords(measurement);
  const said = outcomes.flatMap(({ of }) => {
    if (of.kind !== "reads" || !("reading" in measurement)) return [];
    return [`${predictedWords(of, measurement.reading.quantity)} ${of.side === "suspect" ? "if it is" : "if not"}`];
  });
  const swap = measurement.kind === "swap" ? ["it works then, if it is"] : [];
  return [`${how} ${where}`, ...said, ...swap].join(", ");
}
