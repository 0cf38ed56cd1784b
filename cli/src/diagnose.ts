import { type Given, planCase, rankCase } from "@hound/core/diagnose";
import type { School } from "@hound/core/plan";
import type { RankProblem } from "@hound/core/rank";
import { InputError } from "./failure.ts";
import { readFile } from "./files.ts";

/** One case to be diagnosed, as it goes to a worker. */
export type Task =
  | { readonly kind: "rank"; readonly path: string; readonly min: number; readonly explain: boolean }
  | { readonly kind: "next"; readonly path: string; readonly school: School };

export type Outcome =
  | { readonly kind: "done"; readonly answer: object }
  | { readonly kind: "wrong"; readonly message: string };

/** Diagnoses one case file; what is wrong with it is a value that names the file and the reading. */
export function diagnose(task: Task): Outcome {
  try {
    const { path } = task;
    const { circuit, file } = readFile(path);
    if (!circuit) throw new InputError(`${path}: there is no circuit in this file`);
    const given: Given = { ...file, circuit };
    const answer = task.kind === "rank" ? rankCase(given, task) : planCase(given, task.school);
    if (!isProblem(answer)) return { kind: "done", answer };
    const where = answer.index === undefined ? "" : `reading ${answer.index + 1}: `;
    return { kind: "wrong", message: `${path}: ${where}${answer.message}` };
  } catch (error) {
    if (error instanceof InputError) return { kind: "wrong", message: error.message };
    throw error;
  }
}

function isProblem(answer: object): answer is RankProblem {
  return "kind" in answer && answer.kind === "problem";
}
