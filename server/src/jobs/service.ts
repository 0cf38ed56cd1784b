import { randomUUID } from "node:crypto";
import type { CaseFile } from "@hound/core/notation";
import type {
  CircuitChange,
  HistoryEntry,
  Job,
  JobChange,
  JobReading,
  JobSummary,
  NewJob,
  NewReading,
  ReadingChange,
} from "@hound/core/record";
import { NEW_JOB_FIELDS } from "@hound/core/record";
import type { Knex } from "knex";
import { inTransaction } from "../database/transaction.ts";
import { Problem } from "../problems.ts";
import { type Reader, readHere } from "../threads/threads.ts";
import { type JobFilter, JobRepository } from "./repository.ts";
import type { JobFields } from "./rows.ts";

/** The work of the job endpoints; each verb is one transaction. */
export class JobService {
  constructor(
    private readonly db: Knex,
    private readonly now: () => Date,
    private readonly reader: Reader = readHere,
  ) {}

  list(filter: JobFilter): Promise<{ jobs: JobSummary[]; total: number }> {
    return new JobRepository(this.db).list(filter);
  }

  async find(id: string): Promise<Job> {
    return found(await new JobRepository(this.db).find(id));
  }

  /** The same id twice is the same job: the answer to the first may have been lost on its way. */
  async create({ id = randomUUID(), title, complaint = "", trail = "", libraryId }: NewJob): Promise<Job> {
    const partCount = await this.reader.countParts(trail);
    return this.inTransaction(async (jobs, at) => {
      const made = await jobs.find(id);
      if (made) return made;
      await jobs.create(id, { title, complaint, ...NEW_JOB_FIELDS }, at);
      if (libraryId !== undefined && !(await jobs.startedFrom(id, libraryId))) throw new Problem("circuit-not-found");
      await jobs.addCircuit(id, { trail, partCount, revision: 0 }, at);
      await jobs.history.add(id, { what: "job", done: "made" }, at);
      return found(await jobs.find(id));
    });
  }

  change(id: string, { revision, ...change }: JobChange): Promise<Job> {
    return this.inTransaction(async (jobs, at) => {
      const job = alive(await jobs.find(id));
      if (job.revision !== revision) throw new Problem("stale-revision", { current: job });
      await jobs.update(job, { ...job, ...withoutUndefined(change) }, at);
      return found(await jobs.find(id));
    });
  }

  async history(id: string, limit: number): Promise<{ entries: HistoryEntry[]; total: number }> {
    const jobs = new JobRepository(this.db);
    found(await jobs.find(id));
    return jobs.history.of(id, limit);
  }

  remove(id: string): Promise<void> {
    return this.inTransaction(async (jobs, at) => {
      found(await jobs.find(id));
      await jobs.markDeleted(id, at, at);
    });
  }

  restore(id: string): Promise<Job> {
    return this.inTransaction(async (jobs, at) => {
      found(await jobs.find(id));
      await jobs.markDeleted(id, null, at);
      return found(await jobs.find(id));
    });
  }

  async changeCircuit(id: string, { revision, trail }: CircuitChange): Promise<Job> {
    const partCount = await this.reader.countParts(trail);
    return this.inTransaction(async (jobs, at) => {
      const job = alive(await jobs.find(id));
      if (job.circuit.revision !== revision) {
        // The same text stored twice is no conflict: the answer to the first may have been lost on its way.
        if (job.circuit.trail === trail) return job;
        throw new Problem("stale-revision", { current: job });
      }
      const isDamaged = job.damaged.some((d) => d.what === "circuit");
      if (job.circuit.trail === trail && !isDamaged) return job;
      await jobs.addCircuit(id, { trail, partCount, revision: revision + 1 }, at);
      return found(await jobs.find(id));
    });
  }

  async circuits(id: string, limit: number) {
    const jobs = new JobRepository(this.db);
    found(await jobs.find(id));
    return jobs.circuits(id, limit);
  }

  addReading(jobId: string, { id, circuitRevision, reading }: NewReading): Promise<Job> {
    return this.inTransaction(async (jobs, at) => {
      const job = alive(await jobs.find(jobId));
      if (await jobs.findReading(jobId, id)) return job;
      if (await jobs.hasReading(id)) throw new Problem("id-in-use");
      if (job.circuit.revision !== circuitRevision) throw new Problem("stale-revision", { current: job });
      await jobs.addReading(jobId, id, { ...reading, takenAt: reading.takenAt ?? at }, at);
      if (job.state === "new") await jobs.update(job, { ...job, state: "open" }, at);
      return found(await jobs.find(jobId));
    });
  }

  changeReading(jobId: string, id: string, { revision, reading }: ReadingChange): Promise<Job> {
    return this.inTransaction(async (jobs, at) => {
      const job = alive(await jobs.find(jobId));
      const stored = await jobs.findReading(jobId, id);
      if (!stored || stored.deleted) throw new Problem("reading-not-found");
      const isStale = stored.reading !== null && stored.reading.revision !== revision;
      if (isStale) throw new Problem("stale-revision", { current: job });
      await jobs.updateReading(jobId, id, reading, at);
      return found(await jobs.find(jobId));
    });
  }

  removeReading(jobId: string, id: string): Promise<Job> {
    return this.setReadingDeleted(jobId, id, true);
  }

  restoreReading(jobId: string, id: string): Promise<Job> {
    return this.setReadingDeleted(jobId, id, false);
  }

  private setReadingDeleted(jobId: string, id: string, deleted: boolean): Promise<Job> {
    return this.inTransaction(async (jobs, at) => {
      alive(await jobs.find(jobId));
      if (!(await jobs.findReading(jobId, id))) throw new Problem("reading-not-found");
      await jobs.markReadingDeleted(jobId, id, deleted, at);
      return found(await jobs.find(jobId));
    });
  }

  async exportCase(id: string): Promise<CaseFile> {
    const job = await this.find(id);
    return {
      format: "clever-hound-case",
      version: 1,
      title: job.title,
      complaint: job.complaint,
      finding: job.finding,
      details: job.details,
      circuit: job.circuit.trail,
      meter: job.meter,
      priors: job.priors,
      situation: job.situation,
      ...(job.isWet ? { isWet: true } : {}),
      standing: job.standing,
      readings: job.readings.map((r: JobReading) => r.reading),
    };
  }

  /** Makes a job of a case file; a file with mistakes changes nothing and every mistake is told with its place. */
  async importCase(text: string, id: string = randomUUID()): Promise<Job> {
    const { file, partCount, mistakes } = await this.reader.readCase(text);
    if (!file) {
      throw new Problem("unreadable-case", {
        errors: mistakes.map((m) => ({ pointer: `line ${m.line}, column ${m.column}`, detail: m.message })),
      });
    }
    return this.inTransaction(async (jobs, at) => {
      const made = await jobs.find(id);
      if (made) return made;
      const { complaint = "", finding = "", details = {}, meter = {}, priors = {} } = file;
      const { situation = "complaint", isWet = false, standing = {} } = file;
      const state = finding !== "" ? "solved" : file.readings.length > 0 ? "open" : "new";
      const title = file.title || "Imported case";
      const fields: JobFields = {
        title,
        complaint,
        finding,
        details,
        state,
        meter,
        priors,
        situation,
        isWet,
        standing,
      };
      await jobs.create(id, fields, at);
      await jobs.addCircuit(id, { trail: file.circuit, partCount, revision: 0 }, at);
      for (const reading of file.readings) await jobs.addReading(id, randomUUID(), reading, at);
      await jobs.history.add(id, { what: "job", done: "imported" }, at);
      return found(await jobs.find(id));
    });
  }

  private inTransaction<T>(work: (jobs: JobRepository, at: string) => Promise<T>): Promise<T> {
    return inTransaction(this.db, (trx) => work(new JobRepository(trx), this.now().toISOString()));
  }
}

function found(job: Job | null): Job {
  if (!job) throw new Problem("job-not-found");
  return job;
}

function alive(job: Job | null): Job {
  if (found(job).deletedAt !== null) throw new Problem("job-deleted");
  return found(job);
}

function withoutUndefined<T extends object>(value: T): T {
  return Object.fromEntries(Object.entries(value).filter(([, v]) => v !== undefined)) as T;
}
