import { z } from "zod";

/** Copies of the whole database that lie beside it, newest first. Times are ISO 8601 in UTC. */
export const CopyList = z.strictObject({
  copies: z.array(z.strictObject({ name: z.string(), bytes: z.number(), at: z.string() })),
  /** Rows that a bad disk damaged so that nothing can be made of them; they are kept. */
  apart: z.number().default(0),
});

/** A browser that was let in from elsewhere. */
export const Paired = z.strictObject({
  id: z.string(),
  at: z.string(),
  /** Address that it came from. */
  from: z.string(),
  /** What it said of the machine that it runs on. */
  on: z.string(),
});
export type Paired = z.infer<typeof Paired>;
/** All of them, newest first; `own` is the one that asks. */
export const PairedBrowsers = z.strictObject({ list: z.array(Paired), own: z.string().nullable() });

/** How far a long piece of work is: jobs, or pages of the database; none of none before that is known. */
export const Progress = z.strictObject({ done: z.number(), of: z.number() });
export type Progress = z.infer<typeof Progress>;

/** What a backup that was put back holds, and the name of the copy of what it replaced. */
export const Restored = z.strictObject({
  counts: z.strictObject({ jobs: z.number(), readings: z.number(), circuits: z.number() }),
  kept: z.string(),
});
