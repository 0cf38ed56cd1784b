import { readTrail, writeReadings } from "@hound/core/notation";
import { Believed, HistoryEntry, Job, PictureWords, Reading } from "@hound/core/record";
import type { Knex } from "knex";
import { z } from "zod";
import { jsonOf } from "../database/json.ts";
import { sumOf } from "../database/sums.ts";
import { wordsOf } from "../pictures/store.ts";
import { type Reader, readHere } from "../threads/threads.ts";
import { BelievedStore } from "./believed.ts";
import { JobRepository } from "./repository.ts";
import {
  type CircuitRow,
  dataOf,
  isWhole,
  type JobFields,
  type JobRow,
  type ReadingRow,
  readingOf,
  rowOf,
} from "./rows.ts";

/** Whatever stands there: a column of a damaged row may hold anything. */
const kept = z.union([z.string(), z.number(), z.null()]);
/** A row whose checksum does not hold, as it stands on the disk. */
const DamagedRow = z.discriminatedUnion("table", [
  z.object({
    table: z.literal("jobs"),
    row: z.object({ title: kept, complaint: kept, finding: kept, state: kept, settings: kept }),
  }),
  z.object({
    table: z.literal("circuits"),
    row: z.object({ revision: kept, trail: kept, created_at: kept, who: kept }),
  }),
  z.object({
    table: z.literal("readings"),
    row: z.object({
      id: kept,
      place: kept,
      data: kept,
      revision: kept,
      created_at: kept,
      deleted_at: kept,
    }),
  }),
]);

/** Everything that is kept of a job but its pictures' bytes: what it was made of, and all that was done to it. */
export const ArchivedJob = z.looseObject({
  format: z.literal("clever-hound-job"),
  version: z.literal(1),
  job: Job,
  circuits: z.array(
    z.object({ revision: z.number().int(), trail: z.string(), createdAt: z.string(), who: z.string().nullable() }),
  ),
  readings: z.array(
    z.object({
      id: z.uuid(),
      place: z.number().int(),
      revision: z.number().int(),
      createdAt: z.string(),
      deletedAt: z.string().nullable(),
      reading: Reading,
    }),
  ),
  /** Rows that are not what was stored, as they stand on the disk: they are brought back as damaged as they are. */
  damaged: z.array(DamagedRow).default([]),
  history: z.array(HistoryEntry),
  believed: Believed.shape.believed.default([]),
  minutes: z.record(z.string(), z.number()),
  pictures: z.array(
    z.object({
      id: z.uuid(),
      name: z.string(),
      who: z.string().nullable(),
      createdAt: z.string(),
      deletedAt: z.string().nullable(),
      ...PictureWords.shape,
    }),
  ),
});
export type ArchivedJob = z.infer<typeof ArchivedJob>;

/** @returns null where there is no such job */
export async function archiveOf(db: Knex, id: string): Promise<ArchivedJob | null> {
  const job = await new JobRepository(db).find(id);
  if (!job) return null;
  const [row] = await db<JobRow>("jobs").where({ id });
  const circuits = await db<CircuitRow>("circuits").where({ job_id: id }).orderBy("revision");
  const readings = await db<ReadingRow>("readings").where({ job_id: id }).orderBy("place");
  const history = await db("history").where({ job_id: id }).orderBy("id");
  const pictures = await db("pictures")
    .where({ job_id: id })
    .select("id", "name", "who", "created_at", "deleted_at", "caption", "turns", "in_report")
    .orderBy("created_at");
  return {
    format: "clever-hound-job",
    version: 1,
    job: { ...job, damaged: [] },
    circuits: circuits
      .filter(isWhole)
      .map(({ revision, trail, created_at: createdAt, who }) => ({ revision, trail, createdAt, who })),
    readings: readings.flatMap((r) => {
      const reading = readingOf(r)?.reading;
      const { id: own, place, revision, created_at: createdAt, deleted_at: deletedAt } = r;
      return reading ? [{ id: own, place, revision, createdAt, deletedAt, reading }] : [];
    }),
    damaged: [
      ...(job.damaged.some((d) => d.what === "fields") ? [DamagedRow.parse({ table: "jobs", row })] : []),
      ...circuits.filter((c) => !isWhole(c)).map((c) => DamagedRow.parse({ table: "circuits", row: c })),
      ...readings.filter((r) => readingOf(r) === null).map((r) => DamagedRow.parse({ table: "readings", row: r })),
    ],
    history: history.flatMap((row) => {
      const entry = HistoryEntry.safeParse({
        ...(jsonOf(row.data) as { entry?: object } | null)?.entry,
        at: row.created_at,
      });
      return entry.success ? [entry.data] : [];
    }),
    believed: await new BelievedStore(db).of(id),
    minutes: await new JobRepository(db).minutesOf(id),
    pictures: pictures.map((row) => {
      const { id: own, name, who, created_at: createdAt, deleted_at: deletedAt } = row;
      return { id: own, name, who, createdAt, deletedAt, ...wordsOf(row) };
    }),
  };
}

/** Makes the job again, as it was: ids, times, versions and all. */
export async function bringBack(db: Knex, archived: ArchivedJob, reader: Reader = readHere) {
  const { job, circuits, readings, damaged, history, believed, minutes } = archived;
  const { id, createdAt: created_at, updatedAt: updated_at, deletedAt: deleted_at, revision } = job;
  const row = { id, ...rowOf(job as JobFields), created_at };
  await db("jobs").insert({ ...row, revision, updated_at, deleted_at, sum: sumOf.job(row) });
  for (const { revision: version, trail, createdAt, who } of circuits) {
    const { partCount: part_count, key, name, kinds, exposure } = await reader.look(trail);
    const own = { job_id: id, revision: version, trail, created_at: createdAt };
    const known = { part_count, key, name, kinds: JSON.stringify(kinds), exposure: JSON.stringify(exposure), who };
    await db("circuits").insert({ ...own, ...known, sum: sumOf.circuit(own) });
  }
  for (const { id: reading_id, place, revision: version, createdAt, deletedAt, reading } of readings) {
    const own = {
      id: reading_id,
      job_id: id,
      place,
      data: dataOf(reading),
      revision: version,
      created_at: createdAt,
    };
    await db("readings").insert({ ...own, deleted_at: deletedAt, sum: sumOf.reading(own) });
  }
  // Without a checksum it is never taken for whole.
  for (const { table, row: kept } of damaged) {
    if (table === "jobs")
      await db("jobs")
        .where({ id })
        .update({ ...kept, sum: null });
    else if (table === "circuits") await db(table).insert({ ...kept, part_count: 0, job_id: id, sum: null });
    else await db(table).insert({ ...kept, job_id: id, sum: null });
  }
  for (const { at, ...entry } of history)
    await db("history").insert({ job_id: id, data: JSON.stringify({ version: 1, entry }), created_at: at });
  for (const { at, habits } of believed)
    await db("believed").insert({ job_id: id, at, habits: JSON.stringify(habits) });
  for (const [stage, spent] of Object.entries(minutes)) await db("spent").insert({ job_id: id, stage, minutes: spent });
  await new JobRepository(db).finish(id);
}

/** The same job for other programs: its trail, and its readings as a table. */
export function openFilesOf({ job }: ArchivedJob): { readonly trail: string; readonly readings: string } {
  const { circuit } = readTrail(job.circuit.trail);
  const title = circuit?.title ? "" : `title ${job.title.replace(/\s+/g, " ")}\n`;
  return { trail: `${title}${job.circuit.trail}\n`, readings: writeReadings(job.readings.map((r) => r.reading)) };
}
