import { z } from "zod";
import { KIND_NAMES, type Kind, MODES } from "../circuit/index.ts";
import { Closing, type Outcome } from "./closing.ts";
import type { JobState } from "./job.ts";

/** What the logbook knows over all jobs: search, what fails here, habits, people, pictures. Times are ISO 8601 in UTC. */

export const SORTS = { touched: "Changed last", begun: "Begun last", title: "Title", minutes: "Minutes" } as const;
export const Sort = z.enum(["touched", "begun", "title", "minutes"]);
export type Sort = z.infer<typeof Sort>;

/** Which jobs are asked for; what is left out does not matter. */
export interface LogbookFilter {
  readonly search: string;
  readonly state?: JobState | undefined;
  readonly outcome?: Outcome | undefined;
  /** A circuit's key, and a part that was found faulty. */
  readonly circuit?: string | undefined;
  readonly part?: string | undefined;
  readonly tag?: string | undefined;
  /** Changed from this day to that one, as `2026-03-31`. */
  readonly from?: string | undefined;
  readonly to?: string | undefined;
  readonly sort: Sort;
  readonly deleted: boolean;
}

const count = z.number().int().nonnegative();
const kind = z.union([z.enum(KIND_NAMES as [Kind, ...Kind[]]), z.literal("bridge")]);
/** How often, of so many: with the interval (95 %, Wilson) in which the rate lies. */
export const Rate = z.strictObject({ times: count, of: count, low: z.number(), high: z.number() });
export type Rate = z.infer<typeof Rate>;

export const FailureOfCircuit = z.strictObject({
  circuit: z.string(),
  name: z.string(),
  /** Jobs closed with something found. */
  jobs: count,
  parts: z.array(z.strictObject({ part: z.string(), mode: z.enum(MODES), rate: Rate })),
  minutes: z.number().nullable(),
});

/** What fails here: over all closed jobs that are not deleted. */
export const Statistics = z.strictObject({
  closed: count,
  outcomes: z.strictObject({ found: count, nothing: count, givenUp: count }),
  circuits: z.array(FailureOfCircuit),
  /** How many circuits there are besides those listed. */
  moreCircuits: count,
  kinds: z.array(
    z.strictObject({ kind, rate: Rate, modes: z.array(z.strictObject({ mode: z.enum(MODES), rate: Rate })) }),
  ),
  /** Half took less. */
  minutes: z.strictObject({ median: z.number().nullable(), counted: count }),
  /** What led when it was decided was what was found. */
  firstRight: Rate,
  /** Repairs by the probability that was said of them: how often each was true. */
  calibration: z.array(z.strictObject({ said: z.number(), rate: Rate })),
});
export type Statistics = z.infer<typeof Statistics>;

/** How often something was the fault. */
export const FaultCount = z.strictObject({ kind, mode: z.enum(MODES), count: z.number() });
export type FaultCount = z.infer<typeof FaultCount>;
export const PartCount = z.strictObject({ part: z.string().max(40), mode: z.enum(MODES), count: z.number() });
export type PartCount = z.infer<typeof PartCount>;

/** How many of each kind were to be expected, by the tables. */
const Expected = z.record(z.string(), z.number());

/** How many changes of the habits are remembered by their ids. */
const REMEMBERED = 100;

/** What closed jobs taught, and what somebody made of it. */
export const HabitSettings = z.strictObject({
  revision: count,
  isOn: z.boolean().default(true),
  /** Only jobs closed from then on count; null: all. */
  since: z.string().nullable().default(null),
  /** Added to what was counted, by hand; below nothing counts as nothing. */
  adjust: z.array(FaultCount).max(500).default([]),
  /** Ids of the latest changes: one that is sent again is done already. */
  changes: z.array(z.uuid()).max(REMEMBERED).default([]),
});
export type HabitSettings = z.infer<typeof HabitSettings>;

/** One change of the habits: others that are made meanwhile stay. */
export const HabitChange = z.strictObject({
  id: z.uuid(),
  isOn: z.boolean().optional(),
  since: z.string().nullable().optional(),
  /** One fault more or less, by hand. */
  adjust: z.strictObject({ kind, mode: z.enum(MODES), by: z.number().int().min(-1000).max(1000) }).optional(),
  /** What was added by hand goes first. */
  isCleared: z.boolean().optional(),
});
export type HabitChange = z.infer<typeof HabitChange>;

/** The habits after a change; the same where it was made already. */
export function withHabitChange(settings: HabitSettings, change: HabitChange): HabitSettings {
  if (settings.changes.includes(change.id)) return settings;
  const { isOn = settings.isOn, since = settings.since, adjust: one, isCleared = false } = change;
  const before = isCleared ? [] : settings.adjust;
  const isIt = (a: FaultCount) => one !== undefined && a.kind === one.kind && a.mode === one.mode;
  const count = (before.find(isIt)?.count ?? 0) + (one?.by ?? 0);
  const adjust = [
    ...before.filter((a) => !isIt(a)),
    ...(one && count !== 0 ? [{ kind: one.kind, mode: one.mode, count }] : []),
  ];
  const changes = [...settings.changes, change.id].slice(-REMEMBERED);
  return { revision: settings.revision + 1, isOn, since, adjust, changes };
}

export const Habits = z.strictObject({
  settings: HabitSettings,
  /** Jobs that were counted. */
  jobs: count,
  kinds: z.array(FaultCount),
  expected: Expected,
  /** By circuit; a circuit's own count among the kinds as well. */
  circuits: z.array(
    z.strictObject({
      circuit: z.string(),
      name: z.string(),
      jobs: count,
      kinds: z.array(FaultCount),
      expected: Expected,
      parts: z.array(PartCount),
    }),
  ),
});
export type Habits = z.infer<typeof Habits>;

/** A person is a name. */
export const PersonName = z.string().trim().min(1).max(80);
export const People = z.strictObject({ names: z.array(PersonName).max(500) });
/** Who comes and who goes: two who change the list at once do not lose each other's. */
export const PeopleChange = z.strictObject({ add: PersonName.optional(), remove: PersonName.optional() });
export type PeopleChange = z.infer<typeof PeopleChange>;

/** Lines over a report: the workshop's own name and address, and what stands below. */
export const Letterhead = z.strictObject({
  head: z.string().max(1000).default(""),
  foot: z.string().max(1000).default(""),
});
export type Letterhead = z.infer<typeof Letterhead>;
/** Some of it; the rest stays. */
export const LetterheadChange = z.strictObject({
  head: Letterhead.shape.head.unwrap().optional(),
  foot: Letterhead.shape.foot.unwrap().optional(),
});
export type LetterheadChange = z.infer<typeof LetterheadChange>;

/** What a person says of a picture: its caption, how many quarter turns clockwise it is shown with, and whether it stands on the report. */
export const PictureWords = z.strictObject({
  caption: z.string().max(300).default(""),
  turns: z.number().int().min(0).max(3).default(0),
  inReport: z.boolean().default(true),
});
export type PictureWords = z.infer<typeof PictureWords>;
/** Some of it; the rest stays. */
export const PictureChange = z.strictObject({
  caption: PictureWords.shape.caption.unwrap().optional(),
  turns: PictureWords.shape.turns.unwrap().optional(),
  inReport: z.boolean().optional(),
});
export type PictureChange = z.infer<typeof PictureChange>;

/** A picture of a job, without its bytes. */
export const Picture = PictureWords.extend({
  id: z.uuid(),
  name: z.string(),
  width: count,
  height: count,
  bytes: count,
  who: z.string().nullable(),
  createdAt: z.string(),
  deletedAt: z.string().nullable(),
});
export type Picture = z.infer<typeof Picture>;
export const PictureList = z.strictObject({ pictures: z.array(Picture) });
/** The largest picture that is taken, in bytes, and what kinds. */
export const PICTURE_LIMITS = { bytes: 20_000_000, types: ["image/jpeg", "image/png", "image/webp"] } as const;

/** Minutes that somebody spent in the stages of a job. */
export const Spent = Closing.shape.stages;
