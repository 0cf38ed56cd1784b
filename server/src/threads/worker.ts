import { type Given, planCase, rankCase } from "@hound/core/diagnose";
import { type CaseFile, type Mistake, readCase, readTrail } from "@hound/core/notation";
import type { School } from "@hound/core/plan";

export type Task =
  | { readonly kind: "rank"; readonly file: CaseFile; readonly min: number; readonly explain: boolean }
  | { readonly kind: "next"; readonly file: CaseFile; readonly school: School }
  | { readonly kind: "countParts"; readonly trail: string }
  | { readonly kind: "readCase"; readonly text: string };

/** What a case file says, or what is wrong with it. */
export interface CaseRead {
  readonly file: CaseFile | null;
  readonly partCount: number;
  readonly mistakes: readonly Mistake[];
}

/** A circuit that cannot be diagnosed as it is written. */
export interface Unreadable {
  readonly kind: "unreadable";
  readonly mistakes: readonly Mistake[];
}

/** What each thread of a pool runs; short texts are read with it on the request thread, too. */
export default function work(task: Task): object | number {
  switch (task.kind) {
    case "countParts":
      // An unfinished trail has the parts found so far.
      return readTrail(task.trail).places.size;
    case "readCase": {
      const { file, trail, mistakes } = readCase(task.text);
      return { file, partCount: trail?.places.size ?? 0, mistakes } satisfies CaseRead;
    }
    default: {
      const { circuit, mistakes } = readTrail(task.file.circuit);
      const wrong = mistakes.filter((m) => m.severity === "mistake");
      if (!circuit || wrong.length > 0) return { kind: "unreadable", mistakes: wrong } satisfies Unreadable;
      const given: Given = { ...task.file, circuit };
      return task.kind === "rank" ? rankCase(given, task) : planCase(given, task.school);
    }
  }
}
