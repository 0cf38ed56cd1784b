import { randomUUID } from "node:crypto";
import { type CaseFile, readCase, readTrail } from "@hound/core/notation";
import type {
  CircuitChange,
  Job,
  JobChange,
  JobReading,
  JobSummary,
  NewJob,
  NewReading,
  ReadingChange,
} from "@hound/core/record";
import type { Knex } from "knex";
import { inTransaction } from "../database/transaction.ts";
import { Problem } from "../problems.ts";
import { type JobFilter, JobRepository } from "./repository.ts";

/** The work of the job endpoints; each verb is one transaction. */
export class JobService {
  constructor(
    private readonly db: Knex,
    private readonly now: () => Date,
  ) {}

  list(filter: JobFilter): Promise<{ jobs: JobSummary[]; total: number }> {
    return new JobRepository(this.db).list(filter);
  }

  async find(id: string): Promise<Job> {
    return found(await new JobRepository(this.db).find(id));
  }

  create({ title, complaint = "", trail = "", libraryId }: NewJob): Promise<Job> {
    return this.inTransaction(async (jobs, at) => {
      const id = randomUUID();
      const blank = { finding: "", state: "new", meter: {}, priors: {}, situation: "complaint", standing: {} } as const;
      await jobs.create(id, { title, complaint, ...blank }, at);
      if (libraryId !== undefined && !(await jobs.startedFrom(id, libraryId))) throw new Problem("circuit-not-found");
      await jobs.addCircuit(id, { trail, partCount: partCount(trail), revision: 0 }, at);
      return found(await jobs.find(id));
    });
  }

  change(id: string, { revision, ...change }: JobChange): Promise<Job> {
    return this.inTransaction(async (jobs, at) => {
      const job = alive(await jobs.find(id));
      if (job.revision !== revision) throw new Problem("stale-revision", { current: job });
      await jobs.update(id, { ...job, ...withoutUndefined(change) }, revision + 1, at);
      return found(await jobs.find(id));
    });
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

  changeCircuit(id: string, { revision, trail }: CircuitChange): Promise<Job> {
    return this.inTransaction(async (jobs, at) => {
      const job = alive(await jobs.find(id));
      if (job.circuit.revision !== revision) {
        // The same text stored twice is no conflict: the answer to the first may have been lost on its way.
        if (job.circuit.trail === trail) return job;
        throw new Problem("stale-revision", { current: job });
      }
      if (job.circuit.trail === trail) return job;
      await jobs.addCircuit(id, { trail, partCount: partCount(trail), revision: revision + 1 }, at);
      return found(await jobs.find(id));
    });
  }

  async circuits(id: string) {
    const jobs = new JobRepository(this.db);
    found(await jobs.find(id));
    return jobs.circuits(id);
  }

  addReading(jobId: string, { id, circuitRevision, reading }: NewReading): Promise<Job> {
    return this.inTransaction(async (jobs, at) => {
      const job = alive(await jobs.find(jobId));
      if (await jobs.findReading(jobId, id)) return job;
      if (await jobs.hasReading(id)) throw new Problem("id-in-use");
      if (job.circuit.revision !== circuitRevision) throw new Problem("stale-revision", { current: job });
      await jobs.addReading(jobId, id, { ...reading, takenAt: reading.takenAt ?? at }, at);
      if (job.state === "new") await jobs.update(jobId, { ...job, state: "open" }, job.revision + 1, at);
      return found(await jobs.find(jobId));
    });
  }

  changeReading(jobId: string, id: string, { revision, reading }: ReadingChange): Promise<Job> {
    return this.inTransaction(async (jobs, at) => {
      const job = alive(await jobs.find(jobId));
      const stored = await jobs.findReading(jobId, id);
      if (!stored || stored.deleted) throw new Problem("reading-not-found");
      if (stored.revision !== revision) throw new Problem("stale-revision", { current: job });
      await jobs.updateReading(jobId, id, reading, revision + 1, at);
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
      await jobs.markReadingDeleted(jobId, id, deleted ? at : null, at);
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
      circuit: job.circuit.trail,
      meter: job.meter,
      priors: job.priors,
      situation: job.situation,
      standing: job.standing,
      readings: job.readings.map((r: JobReading) => r.reading),
    };
  }

  /** Makes a job of a case file; a file with mistakes changes nothing and every mistake is told with its place. */
  importCase(text: string): Promise<Job> {
    const { file, mistakes } = readCase(text);
    if (!file) {
      throw new Problem("unreadable-case", {
        errors: mistakes.map((m) => ({ pointer: `line ${m.line}, column ${m.column}`, detail: m.message })),
      });
    }
    return this.inTransaction(async (jobs, at) => {
      const id = randomUUID();
      const text = (key: string) => (typeof file[key] === "string" ? file[key] : "");
      const solved = text("finding") !== "";
      await jobs.create(
        id,
        {
          title: file.title || "Imported case",
          complaint: text("complaint"),
          finding: text("finding"),
          state: solved ? "solved" : file.readings.length > 0 ? "open" : "new",
          meter: file.meter ?? {},
          priors: file.priors ?? {},
          situation: file.situation ?? "complaint",
          standing: file.standing ?? {},
        },
        at,
      );
      await jobs.addCircuit(id, { trail: file.circuit, partCount: partCount(file.circuit), revision: 0 }, at);
      for (const reading of file.readings) await jobs.addReading(id, randomUUID(), reading, at);
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

/** Parts of a trail; an unfinished trail has those found so far. */
function partCount(trail: string): number {
  return readTrail(trail).places.size;
}

function withoutUndefined<T extends object>(value: T): T {
  return Object.fromEntries(Object.entries(value).filter(([, v]) => v !== undefined)) as T;
}
