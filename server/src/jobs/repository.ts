import {
  type CircuitRevisions,
  JOB_STATES,
  type Job,
  type JobReading,
  type JobState,
  type JobSummary,
  type Reading,
} from "@hound/core/record";
import type { Knex } from "knex";
import type { z } from "zod";
import { sumOf } from "../database/sums.ts";
import { History } from "./history.ts";
import {
  type CircuitRow,
  dataOf,
  isWhole,
  type JobFields,
  type JobRow,
  jobOf,
  type ReadingRow,
  readingOf,
  rowOf,
} from "./rows.ts";

export interface JobFilter {
  readonly search: string;
  readonly state: JobState | null;
  readonly deleted: boolean;
  /** At most so many, the newest first. */
  readonly limit: number;
}

/** A reading as it is stored; null where the row is not what was stored. */
export interface StoredReading {
  readonly reading: JobReading | null;
  readonly deleted: boolean;
}

/** Jobs with their circuit and readings: a few verbs over one aggregate. */
export class JobRepository {
  readonly history: History;

  constructor(private readonly db: Knex) {
    this.history = new History(db);
  }

  async list({ search, state, deleted, limit }: JobFilter): Promise<{ jobs: JobSummary[]; total: number }> {
    const query = this.db<JobRow>("jobs")
      .select(
        "id",
        "title",
        "complaint",
        "state",
        "updated_at",
        "deleted_at",
        this.db.raw(
          "(select part_count from circuits c where c.job_id = jobs.id order by revision desc limit 1) as part_count",
        ),
        this.db.raw(
          "(select count(*) from readings r where r.job_id = jobs.id and r.deleted_at is null) as reading_count",
        ),
      )
      .orderBy("updated_at", "desc");
    if (deleted) query.whereNotNull("deleted_at");
    else query.whereNull("deleted_at");
    if (state) query.where("state", state);
    for (const word of search.split(/\s+/).filter((w) => w !== "")) {
      const like = `%${word.replace(/[\\%_]/g, "\\$&")}%`;
      query.where((q) => {
        for (const column of ["title", "complaint", "finding"]) q.orWhereRaw(`${column} like ? escape '\\'`, [like]);
      });
    }
    const counted = await this.db.count("* as total").from(query.clone().clearOrder().as("found")).first();
    const rows = (await query.limit(limit)) as unknown as (JobRow & {
      part_count: number | null;
      reading_count: number;
    })[];
    const jobs = rows.map((row) => ({
      id: row.id,
      title: row.title,
      complaint: row.complaint,
      state: (row.state in JOB_STATES ? row.state : "open") as JobState,
      updatedAt: row.updated_at,
      deletedAt: row.deleted_at,
      partCount: Number(row.part_count ?? 0),
      readingCount: row.reading_count,
    }));
    return { jobs, total: Number(counted?.total ?? jobs.length) };
  }

  async find(id: string): Promise<Job | null> {
    const row = await this.db<JobRow>("jobs").where({ id }).first();
    if (!row) return null;
    const readings = await this.db<ReadingRow>("readings")
      .where({ job_id: id })
      .whereNull("deleted_at")
      .orderBy("place");
    return jobOf(row, await this.newestCircuits(id), readings);
  }

  /** The newest; where that is not what was stored, those before it as well, down to one that is. */
  private async newestCircuits(id: string): Promise<CircuitRow[]> {
    const newest = this.db<CircuitRow>("circuits").where({ job_id: id }).orderBy("revision", "desc");
    const first = await newest.clone().limit(1);
    return first.some((c) => !isWhole(c)) ? await newest : first;
  }

  async create(id: string, fields: JobFields, at: string) {
    const row = { id, ...rowOf(fields), created_at: at };
    await this.db("jobs").insert({ ...row, revision: 0, updated_at: at, deleted_at: null, sum: sumOf.job(row) });
  }

  /** Remembers the library's circuit that a job was started from. @returns false where there is no such circuit */
  async startedFrom(id: string, libraryId: string): Promise<boolean> {
    if (!(await this.db("library").where({ id: libraryId }).first())) return false;
    await this.db("jobs").where({ id }).update({ library_id: libraryId });
    return true;
  }

  async update(job: Job, fields: JobFields, at: string) {
    const row = { id: job.id, ...rowOf(fields), created_at: job.createdAt };
    await this.db("jobs")
      .where({ id: job.id })
      .update({ ...row, revision: job.revision + 1, updated_at: at, sum: sumOf.job(row) });
    await this.history.addFields(job.id, job, fields, at);
  }

  async markDeleted(id: string, at: string | null, now: string) {
    await this.db("jobs").where({ id }).update({ deleted_at: at, updated_at: now });
    await this.history.add(id, { what: "job", done: at === null ? "restored" : "deleted" }, now);
  }

  async addCircuit(id: string, circuit: { trail: string; partCount: number; revision: number }, at: string) {
    const { trail, partCount, revision } = circuit;
    const row = { job_id: id, revision, trail, created_at: at };
    await this.db("circuits").insert({ ...row, part_count: partCount, sum: sumOf.circuit(row) });
    await this.touch(id, at);
  }

  async circuits(id: string, limit: number): Promise<z.infer<typeof CircuitRevisions>> {
    const all = this.db<CircuitRow>("circuits").where({ job_id: id });
    const counted = await all.clone().count<{ n: number }[]>("* as n");
    const rows = await all.orderBy("revision", "desc").limit(limit);
    const revisions = rows.map((row) => ({
      revision: row.revision,
      trail: isWhole(row) ? row.trail : `# damaged on the disk\n${row.trail}`,
      createdAt: String(row.created_at),
    }));
    return { revisions, total: Number(counted[0].n) };
  }

  async findReading(jobId: string, id: string): Promise<StoredReading | null> {
    const row = await this.db<ReadingRow>("readings").where({ id, job_id: jobId }).first();
    return row ? { reading: readingOf(row), deleted: row.deleted_at !== null } : null;
  }

  /** Whether any job has, or had, a reading of this id. */
  async hasReading(id: string): Promise<boolean> {
    return (await this.db("readings").where({ id }).first("id")) !== undefined;
  }

  async addReading(jobId: string, id: string, reading: Reading, at: string) {
    const last = await this.db("readings")
      .where({ job_id: jobId })
      .max<{ place: number | null }>("place as place")
      .first();
    const row = {
      id,
      job_id: jobId,
      place: (last?.place ?? 0) + 1,
      data: dataOf(reading),
      revision: 0,
      created_at: at,
    };
    await this.db("readings").insert({ ...row, deleted_at: null, sum: sumOf.reading(row) });
    await this.touch(jobId, at);
  }

  async updateReading(jobId: string, id: string, reading: Reading, at: string) {
    const before = await this.db<ReadingRow>("readings").where({ id }).first();
    if (!before) return;
    const row = { ...before, data: dataOf(reading), revision: before.revision + 1 };
    await this.db("readings")
      .where({ id })
      .update({ data: row.data, revision: row.revision, sum: sumOf.reading(row) });
    const was = readingOf(before)?.reading ?? null;
    await this.history.add(jobId, { what: "reading", id, done: "corrected", before: was, after: reading }, at);
    await this.touch(jobId, at);
  }

  async markReadingDeleted(jobId: string, id: string, isDeleted: boolean, at: string) {
    const row = await this.db<ReadingRow>("readings").where({ id }).first();
    if (!row || (row.deleted_at !== null) === isDeleted) return;
    await this.db("readings")
      .where({ id })
      .update({ deleted_at: isDeleted ? at : null });
    const reading = readingOf(row)?.reading ?? null;
    const [before, after] = isDeleted ? [reading, null] : [null, reading];
    await this.history.add(jobId, { what: "reading", id, done: isDeleted ? "deleted" : "restored", before, after }, at);
    await this.touch(jobId, at);
  }

  private async touch(id: string, at: string) {
    await this.db("jobs").where({ id }).update({ updated_at: at });
  }
}
