import { z } from "zod";
import { JobState, TEXT_LIMITS } from "./job.ts";

/** Circuits kept by name, apart from any job. Times are ISO 8601 in UTC. */
const Name = z.string().trim().min(1, "a circuit in the library needs a name").max(TEXT_LIMITS.title);
const Notes = z.string().max(TEXT_LIMITS.complaint);
const TrailText = z.string().max(TEXT_LIMITS.trail);
const Revision = z.number().int().nonnegative();

export const LibrarySummary = z.strictObject({
  id: z.uuid(),
  name: z.string(),
  notes: z.string(),
  partCount: z.number().int(),
  revision: Revision,
  jobCount: z.number().int(),
  updatedAt: z.string(),
  deletedAt: z.string().nullable(),
});
export type LibrarySummary = z.infer<typeof LibrarySummary>;

export const LibraryList = z.strictObject({ circuits: z.array(LibrarySummary), total: z.number().int() });

export const LibraryCircuit = z.strictObject({
  ...LibrarySummary.shape,
  trail: z.string(),
  /** Latest first; the first is the one in force. */
  revisions: z.array(z.strictObject({ revision: Revision, trail: z.string(), createdAt: z.string() })),
  /** Jobs that were started from it. */
  jobs: z.array(z.strictObject({ id: z.uuid(), title: z.string(), state: JobState })),
});
export type LibraryCircuit = z.infer<typeof LibraryCircuit>;

export const NewLibraryCircuit = z.strictObject({
  /** The sender's, so that a repeat is harmless; left out, the server makes one. */
  id: z.uuid().optional(),
  name: Name,
  notes: Notes.default(""),
  trail: TrailText,
});
export type NewLibraryCircuit = z.input<typeof NewLibraryCircuit>;

/** `revision` is the one the change was made on; a changed trail becomes the next. */
export const LibraryChange = z.strictObject({
  revision: Revision,
  name: Name.optional(),
  notes: Notes.optional(),
  trail: TrailText.optional(),
});
export type LibraryChange = z.infer<typeof LibraryChange>;
