import type { PointReach } from "@hound/core/coach";
import { branchNow, type Configuration } from "@hound/core/configuration";
import type { NumericReading, Reading } from "@hound/core/record";
import { inHandWords, missedWords, questionWords, sumWords } from "../words/slips.ts";
import type { PointKnown } from "./usePoint.ts";

/** Something asked beside the line: words, and what the one key does. */
export interface LineQuestion {
  readonly key: string;
  readonly ask: string;
  readonly accept: string;
  /** What is recorded instead; null: nothing, it is taken again. */
  readonly instead: NumericReading | null;
}

/** What is to be asked about a reading before it is recorded, the most urgent first. */
export function lineQuestions(
  reading: Reading | null,
  { questions, sum }: PointKnown,
  { inHand }: Configuration,
  missed: PointReach | null = null,
): readonly LineQuestion[] {
  if (!reading) return [];
  const now = inHand ? branchNow(inHand) : "closed";
  const isOwn = reading.quantity === "current" && reading.through === inHand?.through;
  const branch =
    inHand && now !== "closed" && !isOwn ? [{ key: "inHand", ...inHandWords(inHand, now), instead: null }] : [];
  if (reading.quantity === "observation") return branch;
  const asked = questions.map(
    (question): LineQuestion => ({
      key: question.kind,
      ...questionWords(question, reading),
      instead: question.instead ?? null,
    }),
  );
  // A slip explains the sum that does not come out.
  const sums = sum && !questions.some((q) => q.instead) ? [{ key: "sum", ...sumWords(sum), instead: null }] : [];
  // What may explain it is asked first; without an explanation, that nothing does.
  const unlikely = missed && asked.length === 0 ? [{ key: "unlikely", ...missedWords(missed), instead: null }] : [];
  return [...branch, ...asked, ...unlikely, ...sums];
}
