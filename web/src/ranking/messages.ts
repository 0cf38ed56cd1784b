import type { Circuit } from "@hound/core/circuit";
import type { PointReach, SlipQuestion, ToldAt } from "@hound/core/coach";
import type { Configuration } from "@hound/core/configuration";
import type { Judgement, ProcedureStep } from "@hound/core/judgement";
import type { School, SuspectGroup } from "@hound/core/plan";
import type { Explanation, HabitShift, RankInput, Ranking, RankProblem } from "@hound/core/rank";
import type { Meter, NumericReading } from "@hound/core/record";

/** Something asked besides the ranking, of the readings that were last weighed to the end. */
export type BenchQuestion =
  /** What to expect at a point; where it was typed, what may be wrong with it. */
  | { readonly of: "point"; readonly point: NumericReading; readonly isTyped: boolean }
  /** The one measurement that proves what leads; the sequence for a part that stays dead. */
  | { readonly of: "proof" }
  | { readonly of: "deadLoad"; readonly part: string }
  /** What may be read at every point with one fault at most: of any circuit, whatever was weighed. */
  | { readonly of: "reaches"; readonly circuit: Circuit; readonly standing: Configuration; readonly meter: Meter };

export type BenchAnswer =
  | { readonly of: "point"; readonly told: ToldAt | null; readonly questions: readonly SlipQuestion[] }
  | { readonly of: "procedure"; readonly steps: readonly ProcedureStep[] }
  | { readonly of: "reaches"; readonly reaches: readonly PointReach[] };

export type ToWorker = ToRank | { readonly kind: "ask"; readonly number: number; readonly question: BenchQuestion };

/** `plan` asks for what to measure next as well, once the ranking is complete. */
export type ToRank = {
  readonly kind: "rank";
  readonly ticket: number;
  readonly input: RankInput;
  /** True for the input that was asked for last: what is weighed of it stands. */
  readonly isSame: boolean;
  readonly plan: boolean;
  /** How the circuit stands: what to measure next is measured so. */
  readonly standing: Configuration;
  readonly school: School;
};

/** Why the leading suspects stand where they do, and which of them cannot be told apart. */
export interface Insight {
  readonly explanations: readonly Explanation[];
  readonly groups: readonly SuspectGroup[];
  /** What the workshop's habits made of it; null where they made no difference. */
  readonly habits: HabitShift | null;
}

/** Several rankings come for one ticket: singles first, then two faults as they are weighed; the last has `progress` 1. */
export type FromWorker =
  | { readonly kind: "singles"; readonly ticket: number; readonly share: number }
  | { readonly kind: "ranked"; readonly ticket: number; readonly result: Ranking | RankProblem }
  /** What to do next by single faults, where two at once take long: all of the judgement but where the job stands holds. */
  | { readonly kind: "proposed"; readonly ticket: number; readonly judgement: Judgement }
  | { readonly kind: "judged"; readonly ticket: number; readonly judgement: Judgement }
  | { readonly kind: "explained"; readonly ticket: number; readonly insight: Insight }
  | { readonly kind: "answered"; readonly number: number; readonly answer: BenchAnswer | null };
