import { z } from "zod";
import { writeTable } from "../notation/index.ts";
import { type HuntSummary, NewHunt } from "../practice/index.ts";
import { PaperKind } from "./exercise.ts";

/** Exercises that one set may have. */
export const MOST_EXERCISES = 60;

const Seed = z.number().int().nonnegative().max(0xffffffff);
const Title = NewHunt.shape.title;

/** One exercise of a set: a hunt, or one on paper; of a circuit that it names, or drawn by its seed. */
export const SetExercise = z.discriminatedUnion("what", [
  NewHunt.omit({ id: true, set: true }).extend({ what: z.literal("hunt"), seed: Seed }),
  z.strictObject({
    what: z.literal("paper"),
    title: Title,
    kind: PaperKind,
    seed: Seed,
    /** Null: drawn by the seed. */
    trail: z.string().max(20_000).nullable(),
  }),
]);
export type SetExercise = z.infer<typeof SetExercise>;

/** What a teacher hands out: the same circuits, the same faults and the same help for everybody. */
export const PracticeSet = z.strictObject({
  format: z.literal("clever-hound-set"),
  version: z.literal(1),
  name: z.string().trim().min(1).max(200),
  about: z.string().max(2000).default(""),
  exercises: z.array(SetExercise).min(1).max(MOST_EXERCISES),
});
export type PracticeSet = z.infer<typeof PracticeSet>;

/** A set as learners have it: without the seeds of its hunts, from which what is hidden could be told. */
export const ShownSet = z.strictObject({
  id: z.uuid(),
  name: z.string(),
  about: z.string(),
  exercises: z.array(
    z.discriminatedUnion("what", [
      z.strictObject({ what: z.literal("hunt"), title: z.string() }),
      z.strictObject({
        what: z.literal("paper"),
        title: z.string(),
        kind: PaperKind,
        seed: Seed,
        trail: z.string().nullable(),
      }),
    ]),
  ),
});
export type ShownSet = z.infer<typeof ShownSet>;
export const ShownSets = z.strictObject({ sets: z.array(ShownSet) });

export function shownSet(id: string, { name, about, exercises }: PracticeSet): ShownSet {
  const shown = exercises.map((e) =>
    e.what === "hunt"
      ? { what: e.what, title: e.title }
      : { what: e.what, title: e.title, kind: e.kind, seed: e.seed, trail: e.trail },
  );
  return { id, name, about, exercises: shown };
}

/** An exercise on paper that was done. */
export const Attempt = z.strictObject({
  id: z.uuid(),
  kind: PaperKind,
  title: Title,
  seed: Seed,
  trail: z.string().max(20_000).nullable(),
  /** How much of it was right at the first go. */
  share: z.number().min(0).max(1),
  questions: z.number().int().min(1).max(500),
  set: NewHunt.shape.set,
  who: z.string().max(200),
  createdAt: z.string(),
});
export type Attempt = z.infer<typeof Attempt>;
export const NewAttempt = Attempt.omit({ who: true, createdAt: true });
export type NewAttempt = z.infer<typeof NewAttempt>;
export const AttemptList = z.strictObject({ attempts: z.array(Attempt) });

/** One result of a learner, as it goes to whoever made the set. */
export const SetResult = z.strictObject({
  who: z.string(),
  /** From 1. */
  exercise: z.number().int(),
  title: z.string(),
  what: z.enum(["hunt", "paper"]),
  /** Named at all; of paper, all right. */
  isDone: z.boolean(),
  /** Of paper, how much was right; of a hunt, 1 where it was named rightly at once. */
  share: z.number(),
  minutes: z.number().nullable(),
  best: z.number().nullable(),
  wrongNames: z.number().int().nullable(),
  unsafe: z.number().int().nullable(),
  at: z.string(),
});
export type SetResult = z.infer<typeof SetResult>;

export const ResultsFile = z.strictObject({
  format: z.literal("clever-hound-results"),
  version: z.literal(1),
  set: z.string(),
  results: z.array(SetResult).max(10_000),
});
export type ResultsFile = z.infer<typeof ResultsFile>;

/** What was done of a set, by whomever, in the order of its exercises. */
export function resultsOf(name: string, hunts: readonly HuntSummary[], attempts: readonly Attempt[]): SetResult[] {
  const own = hunts.flatMap((h): SetResult[] => {
    if (h.set?.name !== name || h.state === "open") return [];
    const wrong = h.namings.filter((n) => n.right < 1).length;
    const isFound = h.state === "found";
    return [
      {
        ...{ who: h.who, exercise: h.set.exercise, title: h.title, what: "hunt", isDone: isFound },
        ...{ share: isFound && wrong === 0 ? 1 : 0, minutes: h.minutes, best: h.best?.minutes ?? null },
        ...{ wrongNames: wrong, unsafe: h.unsafe, at: h.createdAt },
      },
    ];
  });
  const paper = attempts.flatMap((a): SetResult[] => {
    if (a.set?.name !== name) return [];
    return [
      {
        ...{ who: a.who, exercise: a.set.exercise, title: a.title, what: "paper", isDone: a.share === 1 },
        ...{ share: a.share, minutes: null, best: null, wrongNames: null, unsafe: null, at: a.createdAt },
      },
    ];
  });
  return [...own, ...paper].sort((a, b) => a.exercise - b.exercise || a.who.localeCompare(b.who));
}

const HEADS = {
  who: "learner",
  exercise: "exercise",
  title: "title",
  what: "kind",
  isDone: "done",
  share: "right",
  minutes: "minutes",
  best: "best minutes",
  wrongNames: "wrong names",
  unsafe: "unsafe acts",
  at: "at",
} as const satisfies Record<keyof SetResult, string>;

/** Results of several learners as a table for spreadsheets. */
export function resultsCsv(results: readonly SetResult[]): string {
  const keys = Object.keys(HEADS) as (keyof SetResult)[];
  const rows = results.map((r) => Object.fromEntries(keys.map((k) => [HEADS[k], shownIn(r[k])])));
  return writeTable(Object.values(HEADS), rows);
}

function shownIn(value: SetResult[keyof SetResult]): string | number {
  if (typeof value === "boolean") return value ? "yes" : "no";
  return typeof value === "number" ? Number(value.toFixed(4)) : (value ?? "");
}
