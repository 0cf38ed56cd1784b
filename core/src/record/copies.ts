import { z } from "zod";

/** Copies of the whole database that lie beside it, newest first. Times are ISO 8601 in UTC. */
export const CopyList = z.strictObject({
  copies: z.array(z.strictObject({ name: z.string(), bytes: z.number(), at: z.string() })),
  /** Rows that a bad disk damaged so that nothing can be made of them; they are kept. */
  apart: z.number().default(0),
});

/** What a backup that was put back holds, and the name of the copy of what it replaced. */
export const Restored = z.strictObject({
  counts: z.strictObject({ jobs: z.number(), readings: z.number(), circuits: z.number() }),
  kept: z.string(),
});
