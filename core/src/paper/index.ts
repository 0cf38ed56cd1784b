export type { Say } from "./drawn.ts";
export { drawExercise, type Exercise, PAPER_KINDS, PaperKind } from "./exercise.ts";
export { type Answer, type AnswerMark, markAnswer, type Question, type Wanted } from "./question.ts";
export {
  Attempt,
  AttemptList,
  MOST_EXERCISES,
  NewAttempt,
  PracticeSet,
  ResultsFile,
  resultsCsv,
  resultsOf,
  SetExercise,
  SetResult,
  ShownSet,
  ShownSets,
  shownSet,
} from "./set.ts";
export type { Tangle } from "./tangle.ts";
