import { z } from "zod";
import { Configuration } from "../configuration/index.ts";
import { Closing, Outcome, RepairWork } from "./closing.ts";
import { Meter } from "./meter.ts";
import { Priors, Situation } from "./priors.ts";
import { Reading } from "./reading.ts";

/** What travels between server and pages: jobs, their circuits and readings. Times are ISO 8601 in UTC. */

export const JOB_STATES = { new: "New", open: "Under way", solved: "Solved", givenUp: "Given up" } as const;
export const JobState = z.enum(["new", "open", "solved", "givenUp"]);
export type JobState = z.infer<typeof JobState>;

/** Whether a job is over, repaired or given up: nothing more is asked of it. */
export const isOver = (state: JobState): boolean => state === "solved" || state === "givenUp";

/** Longest texts the server takes, in characters. */
/** Readings that a job holds at most: of more nobody reads any, and every page of the job carries them. */
export const MOST_READINGS = 2000;
export const TEXT_LIMITS = { title: 200, complaint: 2000, trail: 100_000 } as const;

/** What a job sheet says besides, in the order it is asked. */
export const DETAILS = {
  number: "Job number",
  customer: "Customer",
  device: "Device",
  serial: "Serial number",
  date: "Date",
} as const;
const Detail = z.string().max(TEXT_LIMITS.title).optional();
export const Details = z.strictObject({
  number: Detail,
  customer: Detail,
  device: Detail,
  serial: Detail,
  date: Detail,
});
export type Details = z.infer<typeof Details>;

const Title = z.string().trim().min(1, "a job needs a title").max(TEXT_LIMITS.title);
const Complaint = z.string().max(TEXT_LIMITS.complaint);
const TrailText = z.string().max(TEXT_LIMITS.trail);
const Revision = z.number().int().nonnegative();
const Id = z.uuid();

/** A person's own figures of the circuit, as typed, by what they are of (`amps R1`, `ohms Rb`, `equation 1`); never weighed. */
export const Claims = z
  .record(z.string().max(80), z.string().max(120))
  .refine((claims) => Object.keys(claims).length <= 400, "at most 400 figures of one's own");
export type Claims = z.infer<typeof Claims>;

const Tags = z.array(z.string().trim().min(1).max(40)).max(20);
const Who = z.string().max(80).optional();

export const JobReading = z.strictObject({ id: Id, revision: Revision, reading: Reading, createdAt: z.string() });
export type JobReading = z.infer<typeof JobReading>;

export const JobSummary = z.strictObject({
  id: Id,
  title: z.string(),
  complaint: z.string(),
  state: JobState,
  updatedAt: z.string(),
  deletedAt: z.string().nullable(),
  partCount: z.number().int(),
  readingCount: z.number().int(),
  createdAt: z.string(),
  /** Which circuit it is about: the same key for the same parts; "" where there is none. */
  circuit: z.string(),
  circuitName: z.string(),
  tags: Tags,
  customer: z.string(),
  device: z.string(),
  /** How it ended, and what was found in words; null where it did not end. */
  outcome: Outcome.nullable(),
  finding: z.string(),
  minutes: z.number().nullable(),
  /** Where what was searched for stands, with the words marked by ‹ and ›; null where nothing was. */
  hit: z.string().nullable(),
});
export type JobSummary = z.infer<typeof JobSummary>;

/** Something of a job that is not as it was stored (a bad disk): what is left of it, while the rest goes on. */
export const Damaged = z.strictObject({
  what: z.enum(["fields", "circuit", "reading"]),
  /** Of the reading, or the circuit's revision. */
  id: z.string(),
  /** As it stands in the database. */
  text: z.string(),
});
export type Damaged = z.infer<typeof Damaged>;

export const Job = z.strictObject({
  id: Id,
  title: z.string(),
  complaint: z.string(),
  /** What it turned out to be. */
  finding: z.string(),
  details: Details.default({}),
  state: JobState,
  meter: Meter,
  priors: Priors,
  /** Whether something is known to be wrong, or a new build or a repair is checked. */
  situation: Situation,
  /** Damp floor, greenhouse, pump shaft: lower voltages are a shock hazard there. */
  isWet: z.boolean().default(false),
  /** How the circuit stands now, where that differs from the drawing: readings are taken so. */
  standing: Configuration,
  tags: Tags.default([]),
  claims: Claims.default({}),
  /** The repair under way, and how the job ended; null where there is none yet. */
  work: RepairWork.nullable().default(null),
  closing: Closing.nullable().default(null),
  /** Counts changes of what stands above. */
  revision: Revision,
  circuit: z.strictObject({ trail: z.string(), revision: Revision }),
  readings: z.array(JobReading),
  damaged: z.array(Damaged).default([]),
  createdAt: z.string(),
  updatedAt: z.string(),
  deletedAt: z.string().nullable(),
});
export type Job = z.infer<typeof Job>;

/** What a job has before anybody said otherwise. */
export const NEW_JOB_FIELDS = {
  finding: "",
  details: {},
  state: "new",
  meter: {},
  priors: {},
  situation: "unsaid",
  isWet: false,
  standing: {},
  tags: [],
  claims: {},
  work: null,
  closing: null,
} satisfies Partial<Job>;

/** As many of a list as were asked for, and how many there are. */
export const JobList = z.strictObject({ jobs: z.array(JobSummary), total: z.number().int() });

export const NewJob = z.strictObject({
  /** The sender's, so that a repeat is harmless; left out, the server makes one. */
  id: Id.optional(),
  title: Title,
  complaint: Complaint.default(""),
  trail: TrailText.default(""),
  /** The library's circuit that it starts from. */
  libraryId: Id.optional(),
});
export type NewJob = z.input<typeof NewJob>;

export const JobChange = z.strictObject({
  revision: Revision,
  title: Title.optional(),
  complaint: Complaint.optional(),
  finding: Complaint.optional(),
  details: Details.optional(),
  state: JobState.optional(),
  meter: Meter.optional(),
  priors: Priors.optional(),
  situation: Situation.optional(),
  isWet: z.boolean().optional(),
  standing: Configuration.optional(),
  tags: Tags.optional(),
  claims: Claims.optional(),
  work: RepairWork.nullable().optional(),
  closing: Closing.nullable().optional(),
});
export type JobChange = z.infer<typeof JobChange>;

export const CircuitChange = z.strictObject({ revision: Revision, trail: TrailText });
export type CircuitChange = z.infer<typeof CircuitChange>;

/** A new reading; the circuit's revision is the one it was typed against. The id is the sender's, so that a repeat is harmless. */
export const NewReading = z.strictObject({ id: Id, circuitRevision: Revision, reading: Reading });
export type NewReading = z.infer<typeof NewReading>;

/** A note in a job's log; the id is the sender's, so that a repeat is harmless. */
export const NewNote = z.strictObject({ id: Id, text: z.string().trim().min(1).max(TEXT_LIMITS.complaint) });

export const ReadingChange = z.strictObject({ revision: Revision, reading: Reading });
export type ReadingChange = z.infer<typeof ReadingChange>;

/** Newest first: as many as were asked for, and how many there are. */
export const CircuitRevisions = z.strictObject({
  revisions: z.array(z.strictObject({ revision: Revision, trail: z.string(), createdAt: z.string() })),
  total: z.number().int(),
});

/** The habits that counted for a job when it was changed, oldest first: an entry where they were others than before. */
export const Believed = z.strictObject({ believed: z.array(z.strictObject({ at: z.string(), habits: Priors })) });
export type Believed = z.infer<typeof Believed>;

export const JOB_FIELDS = [
  "title",
  "complaint",
  "finding",
  "details",
  "state",
  "meter",
  "priors",
  "situation",
  "isWet",
  "standing",
  "tags",
  "claims",
  "work",
  "closing",
] as const;
export type JobField = (typeof JOB_FIELDS)[number];

const at = z.string();
/** What was done to a job, and what it was before: nothing that stood there once is gone. */
export const HistoryEntry = z.discriminatedUnion("what", [
  z.strictObject({ what: z.literal("job"), at, done: z.enum(["made", "imported", "deleted", "restored"]), who: Who }),
  z.strictObject({
    what: z.literal("field"),
    at,
    who: Who,
    field: z.enum(JOB_FIELDS),
    before: z.unknown(),
    after: z.unknown(),
  }),
  z.strictObject({
    what: z.literal("reading"),
    at,
    who: Who,
    id: Id,
    done: z.enum(["taken", "corrected", "deleted", "restored"]),
    before: Reading.nullable(),
    after: Reading.nullable(),
  }),
  z.strictObject({ what: z.literal("circuit"), at, who: Who, revision: Revision }),
  /** What somebody wanted to say at that moment. */
  z.strictObject({ what: z.literal("note"), at, who: Who, id: Id, text: z.string() }),
  /** A photograph that was added or deleted; `text` is its caption, or its file's name. */
  z.strictObject({
    what: z.literal("picture"),
    at,
    who: Who,
    id: Id,
    done: z.enum(["added", "deleted"]),
    text: z.string(),
    turns: z.number().int(),
  }),
]);
export type HistoryEntry = z.infer<typeof HistoryEntry>;

/** Newest first: as many as were asked for, and how many there are. */
export const JobHistory = z.strictObject({ entries: z.array(HistoryEntry), total: z.number().int() });

/** RFC 9457. `current` is the stored version a stale write collided with. */
export const ProblemDetails = z.looseObject({
  type: z.string(),
  title: z.string(),
  status: z.number().int(),
  detail: z.string().optional(),
  errors: z.array(z.strictObject({ pointer: z.string(), detail: z.string() })).optional(),
  current: z.unknown().optional(),
});
export type ProblemDetails = z.infer<typeof ProblemDetails>;
