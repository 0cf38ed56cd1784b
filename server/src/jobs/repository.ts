import {
  Configuration,
  Job,
  type JobReading,
  type JobState,
  type JobSummary,
  Meter,
  Priors,
  Reading,
  Situation,
} from "@hound/core/record";
import type { Knex } from "knex";
import { z } from "zod";

/** Meter and habits of a job, and how its circuit stands; stored as JSON with the version of its shape. */
const Settings = z.object({
  version: z.literal(1),
  meter: Meter,
  priors: Priors,
  situation: Situation.default("complaint"),
  standing: Configuration.default({}),
});
const StoredReading = z.object({ version: z.literal(1), reading: Reading });

interface JobRow {
  id: string;
  title: string;
  complaint: string;
  finding: string;
  state: string;
  settings: string;
  revision: number;
  created_at: string;
  updated_at: string;
  deleted_at: string | null;
}

interface ReadingRow {
  id: string;
  job_id: string;
  data: string;
  revision: number;
  created_at: string;
  deleted_at: string | null;
}

export interface JobFilter {
  readonly search: string;
  readonly state: JobState | null;
  readonly deleted: boolean;
  /** At most so many, the newest first. */
  readonly limit: number;
}

/** What of a job changes together under its own revision. */
export interface JobFields {
  readonly title: string;
  readonly complaint: string;
  readonly finding: string;
  readonly state: JobState;
  readonly meter: Meter;
  readonly priors: Priors;
  readonly situation: Situation;
  readonly standing: Configuration;
}

/** Jobs with their circuit and readings: a few verbs over one aggregate. Stored rows that do not parse are errors. */
export class JobRepository {
  constructor(private readonly db: Knex) {}

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
      state: row.state as JobState,
      updatedAt: row.updated_at,
      deletedAt: row.deleted_at,
      partCount: row.part_count ?? 0,
      readingCount: row.reading_count,
    }));
    return { jobs, total: Number(counted?.total ?? jobs.length) };
  }

  async find(id: string): Promise<Job | null> {
    const row = await this.db<JobRow>("jobs").where({ id }).first();
    if (!row) return null;
    const circuit = await this.db("circuits").where({ job_id: id }).orderBy("revision", "desc").first();
    const readings = await this.db<ReadingRow>("readings")
      .where({ job_id: id })
      .whereNull("deleted_at")
      .orderBy("place");
    const { meter, priors, situation, standing } = Settings.parse(JSON.parse(row.settings));
    return Job.parse({
      id,
      title: row.title,
      complaint: row.complaint,
      finding: row.finding,
      state: row.state,
      meter,
      priors,
      situation,
      standing,
      revision: row.revision,
      circuit: { trail: circuit.trail, revision: circuit.revision },
      readings: readings.map(readingOf),
      createdAt: row.created_at,
      updatedAt: row.updated_at,
      deletedAt: row.deleted_at,
    });
  }

  async create(id: string, fields: JobFields, at: string) {
    await this.db("jobs").insert({
      id,
      ...rowOf(fields),
      revision: 0,
      created_at: at,
      updated_at: at,
      deleted_at: null,
    });
  }

  /** Remembers the library's circuit that a job was started from. @returns false where there is no such circuit */
  async startedFrom(id: string, libraryId: string): Promise<boolean> {
    if (!(await this.db("library").where({ id: libraryId }).first())) return false;
    await this.db("jobs").where({ id }).update({ library_id: libraryId });
    return true;
  }

  async update(id: string, fields: JobFields, revision: number, at: string) {
    await this.db("jobs")
      .where({ id })
      .update({ ...rowOf(fields), revision, updated_at: at });
  }

  async markDeleted(id: string, at: string | null, now: string) {
    await this.db("jobs").where({ id }).update({ deleted_at: at, updated_at: now });
  }

  async addCircuit(id: string, circuit: { trail: string; partCount: number; revision: number }, at: string) {
    const { trail, partCount, revision } = circuit;
    await this.db("circuits").insert({ job_id: id, revision, trail, part_count: partCount, created_at: at });
    await this.db("jobs").where({ id }).update({ updated_at: at });
  }

  async circuits(id: string): Promise<{ revision: number; trail: string; createdAt: string }[]> {
    const rows = await this.db("circuits").where({ job_id: id }).orderBy("revision", "desc");
    return rows.map((row) => ({ revision: row.revision, trail: row.trail, createdAt: row.created_at }));
  }

  async findReading(jobId: string, id: string): Promise<(JobReading & { deleted: boolean }) | null> {
    const row = await this.db<ReadingRow>("readings").where({ id, job_id: jobId }).first();
    return row ? { ...readingOf(row), deleted: row.deleted_at !== null } : null;
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
    await this.db("readings").insert({
      id,
      job_id: jobId,
      place: (last?.place ?? 0) + 1,
      data: JSON.stringify({ version: 1, reading }),
      revision: 0,
      created_at: at,
      deleted_at: null,
    });
    await this.db("jobs").where({ id: jobId }).update({ updated_at: at });
  }

  async updateReading(jobId: string, id: string, reading: Reading, revision: number, at: string) {
    await this.db("readings")
      .where({ id })
      .update({ data: JSON.stringify({ version: 1, reading }), revision });
    await this.db("jobs").where({ id: jobId }).update({ updated_at: at });
  }

  async markReadingDeleted(jobId: string, id: string, deletedAt: string | null, at: string) {
    await this.db("readings").where({ id }).update({ deleted_at: deletedAt });
    await this.db("jobs").where({ id: jobId }).update({ updated_at: at });
  }
}

function rowOf({ title, complaint, finding, state, meter, priors, situation, standing }: JobFields) {
  const stored = { version: 1, meter, priors, situation, standing };
  return { title, complaint, finding, state, settings: JSON.stringify(stored) };
}

function readingOf(row: ReadingRow): JobReading {
  const { reading } = StoredReading.parse(JSON.parse(row.data));
  return { id: row.id, revision: row.revision, reading, createdAt: row.created_at };
}
