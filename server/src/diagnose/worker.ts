import { type Given, planCase, rankCase } from "@hound/core/diagnose";
import type { School } from "@hound/core/plan";

export type Task =
  | { readonly kind: "rank"; readonly given: Given; readonly min: number; readonly explain: boolean }
  | { readonly kind: "next"; readonly given: Given; readonly school: School };

/** What each thread of the pool runs. */
export default function diagnose(task: Task): object {
  return task.kind === "rank" ? rankCase(task.given, task) : planCase(task.given, task.school);
}
