import { createHash } from "node:crypto";

/**
 * Checksums of rows: a disk that changes a byte in a text goes unnoticed by the database's own checks. What may change
 * without a new checksum (when a job was touched last, whether it is deleted) is not in it.
 */
export const sumOf = {
  job: (r: Fields<"id" | "title" | "complaint" | "finding" | "state" | "settings" | "created_at">) =>
    sum(r.id, r.title, r.complaint, r.finding, r.state, r.settings, r.created_at),
  circuit: (r: Fields<"job_id" | "revision" | "trail" | "created_at">) =>
    sum(r.job_id, r.revision, r.trail, r.created_at),
  reading: (r: Fields<"id" | "job_id" | "place" | "data" | "revision" | "created_at">) =>
    sum(r.id, r.job_id, r.place, r.data, r.revision, r.created_at),
  libraryRevision: (r: Fields<"library_id" | "revision" | "trail" | "created_at">) =>
    sum(r.library_id, r.revision, r.trail, r.created_at),
} as const;

/** What a version's text is shown to begin with that is not what was stored. */
export const DAMAGED = "# damaged on the disk\n";

type Fields<K extends string> = Readonly<Record<K, unknown>>;

function sum(...parts: readonly unknown[]): string {
  return createHash("sha256").update(JSON.stringify(parts)).digest("hex").slice(0, 32);
}
