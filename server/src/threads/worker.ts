import { fingerprintOf } from "@hound/core/circuit";
import { type Given, planCase, rankCase } from "@hound/core/diagnose";
import { type Exposure, exposureOf } from "@hound/core/faults";
import { type CaseFile, type Mistake, readCase, readTrail, type Trail } from "@hound/core/notation";
import type { School } from "@hound/core/plan";

export type Task =
  | { readonly kind: "rank"; readonly file: CaseFile; readonly min: number; readonly explain: boolean }
  | { readonly kind: "next"; readonly file: CaseFile; readonly school: School }
  | { readonly kind: "look"; readonly trail: string }
  | { readonly kind: "readCase"; readonly text: string };

/** What of a circuit the logbook keeps beside its text. */
export interface CircuitLook {
  readonly partCount: number;
  /** The same for the same parts; "" where it cannot be read. */
  readonly key: string;
  readonly name: string;
  /** Kind of each part, by designator. */
  readonly kinds: Readonly<Record<string, string>>;
  /** How many of each kind there are that can fail. */
  readonly exposure: Exposure;
}

/** What a case file says, or what is wrong with it. */
export interface CaseRead {
  readonly file: CaseFile | null;
  readonly look: CircuitLook;
  readonly mistakes: readonly Mistake[];
}

/** A circuit that cannot be diagnosed as it is written. */
export interface Unreadable {
  readonly kind: "unreadable";
  readonly mistakes: readonly Mistake[];
}

/** What each thread of a pool runs; short texts are read with it on the request thread, too. */
export default function work(task: Task): object {
  switch (task.kind) {
    case "look":
      return lookAt(readTrail(task.trail));
    case "readCase": {
      const { file, trail, mistakes } = readCase(task.text);
      return { file, look: lookAt(trail), mistakes } satisfies CaseRead;
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

/** An unfinished trail has the parts found so far. */
function lookAt(trail: Trail | null): CircuitLook {
  const partCount = trail?.places.size ?? 0;
  const circuit = trail?.circuit;
  if (!circuit) return { partCount, key: "", name: "", kinds: {}, exposure: {} };
  const kinds = Object.fromEntries(circuit.parts.map((p) => [p.designator, p.kind]));
  return { partCount, key: fingerprintOf(circuit), name: circuit.title, kinds, exposure: exposureOf(circuit) };
}
