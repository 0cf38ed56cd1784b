import { Job, NEW_JOB_FIELDS, NewJob, Reading } from "@hound/core/record";
import { z } from "zod";
import type { Draft } from "./ops.ts";

/** Version of what is kept on a device; each step brings what the one before it wrote one further. */
const UPGRADES: readonly ((kept: Kept) => Kept)[] = [
  // Before drafts had a version their jobs may lack fields that came later.
  (kept) => ({ ...kept, base: { ...NEW_JOB_FIELDS, ...(kept.base as object) } }),
];
export const VERSION = UPGRADES.length;

type Kept = Readonly<Record<string, unknown>>;

const id = z.string();
const Op = z.discriminatedUnion("op", [
  z.object({ op: z.literal("add"), id, reading: Reading }),
  z.object({ op: z.literal("change"), id, reading: Reading, before: Reading }),
  z.object({ op: z.enum(["remove", "restore"]), id, reading: Reading }),
  z.object({ op: z.literal("set"), id, fields: z.looseObject({}) }),
  z.object({ op: z.literal("store"), id, text: z.string() }),
  z.object({ op: z.literal("drop"), id }),
]);
const why = z.string();
const Refused = z.discriminatedUnion("what", [
  z.object({ what: z.literal("op"), op: Op, why }),
  z.object({ what: z.literal("circuit"), text: z.string(), why }),
  z.object({ what: z.literal("job"), why }),
]);
const Written = z.object({
  version: z.literal(VERSION),
  // Another version of this program may know more of a job.
  base: z.looseObject(Job.shape),
  start: NewJob.nullable(),
  text: z.string(),
  pending: z.array(Op),
  refused: z.array(Refused),
});

/** A draft as it is kept on a device. */
export function writeDraft(draft: Draft): object {
  return { version: VERSION, ...draft };
}

/** What was kept on a device, by this version or an older one; null where it is no draft that this one knows. */
export function readDraft(kept: unknown): Draft | null {
  if (typeof kept !== "object" || kept === null) return null;
  const from = (kept as Kept).version ?? 0;
  if (typeof from !== "number" || from > VERSION) return null;
  const now = UPGRADES.slice(from).reduce((draft, upgrade) => upgrade(draft), kept as Kept);
  const read = Written.safeParse({ ...now, version: VERSION });
  if (!read.success) return null;
  const { version: _, ...draft } = read.data;
  return draft as Draft;
}
