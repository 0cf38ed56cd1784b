import type { CircuitRevisions, Job, JobReading, Reading } from "@hound/core/record";
import type { Knex } from "knex";
import { z } from "zod";
import { jsonOf } from "../database/json.ts";
import { DAMAGED, sumOf } from "../database/sums.ts";
import { LogbookKeeper } from "../logbook/keeper.ts";
import { isHunt } from "../practice/repository.ts";
import type { CircuitLook } from "../threads/worker.ts";
import { ConventionStore } from "../workshop/conventions.ts";
import { BelievedStore } from "./believed.ts";
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

/** A reading as it is stored; null where the row is not what was stored. */
export interface StoredReading {
  readonly reading: JobReading | null;
  readonly deleted: boolean;
}

/** A job as it is stored: its circuits as `newestCircuits` has them. */
interface JobRows {
  readonly job: JobRow;
  readonly circuits: readonly CircuitRow[];
  readonly readings: readonly ReadingRow[];
}

/** What follows from a circuit's text: where a bad disk changed it, it is as if it was not known. */
const Kinds = z.record(z.string(), z.string()).catch({});
const Exposure = z.record(z.string(), z.number()).catch({});

/** Jobs with their circuit and readings: a few verbs over one aggregate. */
export class JobRepository {
  readonly history: History;
  readonly believed: BelievedStore;
  private readonly logbook: LogbookKeeper;

  /** @param who does what is done; null where nobody said */
  constructor(
    private readonly db: Knex,
    private readonly who: string | null = null,
  ) {
    this.history = new History(db, who);
    this.believed = new BelievedStore(db);
    this.logbook = new LogbookKeeper(db);
  }

  /** Ends a change: keeps what was believed until now, then as `finish`. */
  async changed(id: string): Promise<Job | null> {
    const rows = await this.rowsOf(id);
    // What a closing teaches was not believed before it.
    if (rows) await this.believed.keep(id, rows.circuits[0]?.key ?? "", rows.job.updated_at);
    return rows && this.record(rows);
  }

  /** Brings the logbook in step with a job. @returns the job; null where there is none */
  async finish(id: string): Promise<Job | null> {
    const rows = await this.rowsOf(id);
    return rows && this.record(rows);
  }

  private async record(rows: JobRows): Promise<Job> {
    const job = jobOf(rows.job, rows.circuits, rows.readings);
    const look = rows.circuits[0];
    const kinds = Kinds.parse(jsonOf(look?.kinds ?? "{}"));
    const exposure = Exposure.parse(jsonOf(look?.exposure ?? "{}"));
    const circuit = { key: look?.key ?? "", name: look?.name ?? "", kinds, exposure };
    // What is practised on is no work, and teaches the workshop nothing.
    if (await isHunt(this.db, job.id)) return job;
    const notes = await this.history.notesOf(job.id);
    await this.logbook.write({ job, circuit, partCount: look?.part_count ?? 0, notes });
    return job;
  }

  async find(id: string): Promise<Job | null> {
    const rows = await this.rowsOf(id);
    return rows && jobOf(rows.job, rows.circuits, rows.readings);
  }

  private async rowsOf(id: string): Promise<JobRows | null> {
    const job = await this.db<JobRow>("jobs").where({ id }).first();
    if (!job) return null;
    const readings = await this.db<ReadingRow>("readings")
      .where({ job_id: id })
      .whereNull("deleted_at")
      .orderBy("place");
    return { job, circuits: await this.newestCircuits(id), readings };
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

  async addCircuit(id: string, circuit: { trail: string; look: CircuitLook; revision: number }, at: string) {
    const { trail, look, revision } = circuit;
    const row = { job_id: id, revision, trail, created_at: at };
    const { partCount: part_count, key, name, kinds, exposure } = look;
    const known = { kinds: JSON.stringify(kinds), exposure: JSON.stringify(exposure) };
    const seen = { part_count, key, name, ...known, who: this.who };
    await this.db("circuits").insert({ ...row, ...seen, sum: sumOf.circuit(row) });
    await this.touch(id, at);
  }

  async circuits(id: string, limit: number): Promise<z.infer<typeof CircuitRevisions>> {
    const all = this.db<CircuitRow>("circuits").where({ job_id: id });
    const counted = await all.clone().count<{ n: number }[]>("* as n");
    const rows = await all.orderBy("revision", "desc").limit(limit);
    const revisions = rows.map((row) => ({
      revision: row.revision,
      trail: isWhole(row) ? row.trail : DAMAGED + row.trail,
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

  /** Whether the workshop's new jobs stand in a wet place. */
  async isWetHere(): Promise<boolean> {
    return (await new ConventionStore(this.db).read()).place === "wet";
  }

  /** Adds to the minutes that were spent in a stage. */
  async addMinutes(id: string, stage: string, minutes: number) {
    await this.db("spent")
      .insert({ job_id: id, stage, minutes })
      .onConflict(["job_id", "stage"])
      .merge({ minutes: this.db.raw("minutes + excluded.minutes") });
  }

  async minutesOf(id: string): Promise<Record<string, number>> {
    const rows = await this.db("spent").where({ job_id: id });
    return Object.fromEntries(rows.map((r: { stage: string; minutes: number }) => [r.stage, r.minutes]));
  }

  /** Takes away for good what was deleted, with all that belongs to it. @returns how many jobs */
  async empty(): Promise<number> {
    await this.db.raw("DELETE FROM words WHERE rowid IN (SELECT n FROM logbook WHERE deleted_at IS NOT NULL)");
    return this.db("jobs").whereNotNull("deleted_at").del();
  }

  /** Says when a job was changed last. */
  async touch(id: string, at: string) {
    await this.db("jobs").where({ id }).update({ updated_at: at });
  }
}
