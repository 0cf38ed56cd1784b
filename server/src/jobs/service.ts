import { randomUUID } from "node:crypto";
import type { CaseFile } from "@hound/core/notation";
import type {
  Believed,
  CircuitChange,
  HistoryEntry,
  Job,
  JobChange,
  JobReading,
  NewJob,
  NewReading,
  ReadingChange,
} from "@hound/core/record";
import { Closing, MOST_READINGS, NEW_JOB_FIELDS } from "@hound/core/record";
import type { Knex } from "knex";
import { inTransaction } from "../database/transaction.ts";
import { unsoundAt } from "../http/sound.ts";
import { habitsFor } from "../logbook/habits.ts";
import { Problem } from "../problems.ts";
import { type Reader, readHere } from "../threads/threads.ts";
import { JobRepository } from "./repository.ts";
import type { JobFields } from "./rows.ts";

/** The work of the job endpoints; each verb is one transaction. */
export class JobService {
  constructor(
    private readonly db: Knex,
    private readonly now: () => Date,
    private readonly reader: Reader = readHere,
    private readonly who: string | null = null,
  ) {}

  /** The same work, done by somebody. */
  as(who: string | null): JobService {
    return new JobService(this.db, this.now, this.reader, who);
  }

  async find(id: string): Promise<Job> {
    return found(await new JobRepository(this.db).find(id));
  }

  /** The same id twice is the same job: the answer to the first may have been lost on its way. */
  async create({ id = randomUUID(), title, complaint = "", trail = "", libraryId }: NewJob): Promise<Job> {
    const look = await this.reader.look(trail);
    return this.inTransaction(async (jobs, at) => {
      const made = await jobs.find(id);
      if (made) return made;
      await jobs.create(id, { title, complaint, ...NEW_JOB_FIELDS, isWet: await jobs.isWetHere() }, at);
      if (libraryId !== undefined && !(await jobs.startedFrom(id, libraryId))) throw new Problem("circuit-not-found");
      await jobs.addCircuit(id, { trail, look, revision: 0 }, at);
      await jobs.history.add(id, { what: "job", done: "made" }, at);
      return found(await jobs.changed(id));
    });
  }

  change(id: string, { revision, ...change }: JobChange): Promise<Job> {
    return this.inTransaction(async (jobs, at) => {
      const job = alive(await jobs.find(id));
      if (job.revision !== revision) throw new Problem("stale-revision", { current: job });
      await jobs.update(job, { ...job, ...withoutUndefined(change) }, at);
      return found(await jobs.changed(id));
    });
  }

  /** Of what was changed before habits were kept: what jobs that had been closed by the first moment teach. */
  async believed(id: string): Promise<Believed> {
    const jobs = new JobRepository(this.db);
    const { createdAt, circuit } = found(await jobs.find(id));
    const kept = await jobs.believed.of(id);
    if (kept[0] && kept[0].at <= createdAt) return { believed: kept };
    const { key } = await this.reader.look(circuit.trail);
    const habits = (await habitsFor(this.db, key, createdAt)) ?? {};
    return { believed: [{ at: createdAt, habits }, ...kept] };
  }

  async history(id: string, limit: number): Promise<{ entries: HistoryEntry[]; total: number }> {
    const jobs = new JobRepository(this.db);
    found(await jobs.find(id));
    return jobs.history.of(id, limit);
  }

  /** A note in the log; the same id twice is the same note. */
  addNote(id: string, { id: noteId, text }: { readonly id: string; readonly text: string }): Promise<Job> {
    return this.inTransaction(async (jobs, at) => {
      alive(await jobs.find(id));
      if (!(await jobs.history.hasNote(id, noteId))) {
        await jobs.history.add(id, { what: "note", id: noteId, text }, at);
        await jobs.touch(id, at);
      }
      return found(await jobs.changed(id));
    });
  }

  addMinutes(id: string, stage: string, minutes: number): Promise<void> {
    return this.inTransaction(async (jobs) => {
      found(await jobs.find(id));
      await jobs.addMinutes(id, stage, minutes);
    });
  }

  async minutes(id: string): Promise<Record<string, number>> {
    return new JobRepository(this.db).minutesOf(id);
  }

  /** Lets deleted jobs go for good. */
  empty(): Promise<number> {
    return this.inTransaction((jobs) => jobs.empty());
  }

  remove(id: string): Promise<void> {
    return this.inTransaction(async (jobs, at) => {
      found(await jobs.find(id));
      await jobs.markDeleted(id, at, at);
      await jobs.changed(id);
    });
  }

  restore(id: string): Promise<Job> {
    return this.inTransaction(async (jobs, at) => {
      found(await jobs.find(id));
      await jobs.markDeleted(id, null, at);
      return found(await jobs.changed(id));
    });
  }

  async changeCircuit(id: string, { revision, trail }: CircuitChange): Promise<Job> {
    const look = await this.reader.look(trail);
    return this.inTransaction(async (jobs, at) => {
      const job = alive(await jobs.find(id));
      if (job.circuit.revision !== revision) {
        // The same text stored twice is no conflict: the answer to the first may have been lost on its way.
        if (job.circuit.trail === trail) return job;
        throw new Problem("stale-revision", { current: job });
      }
      const isDamaged = job.damaged.some((d) => d.what === "circuit");
      if (job.circuit.trail === trail && !isDamaged) return job;
      await jobs.addCircuit(id, { trail, look, revision: revision + 1 }, at);
      return found(await jobs.changed(id));
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
      if (job.readings.length >= MOST_READINGS) throw new Problem("too-many-readings");
      await jobs.addReading(jobId, id, { ...reading, takenAt: reading.takenAt ?? at }, at);
      if (job.state === "new") await jobs.update(job, { ...job, state: "open" }, at);
      return found(await jobs.changed(jobId));
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
      return found(await jobs.changed(jobId));
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
      return found(await jobs.changed(jobId));
    });
  }

  async exportCase(id: string): Promise<CaseFile> {
    const job = await this.find(id);
    const { key } = await this.reader.look(job.circuit.trail);
    const habits = key === "" ? null : await habitsFor(this.db, key);
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
      ...(habits ? { habits } : {}),
      situation: job.situation,
      ...(job.isWet ? { isWet: true } : {}),
      standing: job.standing,
      ...(job.tags.length > 0 ? { tags: job.tags } : {}),
      ...(Object.keys(job.claims).length > 0 ? { claims: job.claims } : {}),
      ...(job.work ? { work: job.work } : {}),
      ...(job.closing ? { closing: job.closing, repair: job.closing.faults } : {}),
      readings: job.readings.map((r: JobReading) => r.reading),
    };
  }

  /** Makes a job of a case file; a file with mistakes changes nothing and every mistake is told with its place. */
  async importCase(text: string, id: string = randomUUID()): Promise<Job> {
    const { file, look, mistakes } = await this.reader.readCase(text);
    if (!file) {
      throw new Problem("unreadable-case", {
        errors: mistakes.map((m) => ({ pointer: `line ${m.line}, column ${m.column}`, detail: m.message })),
      });
    }
    if (file.readings.length > MOST_READINGS)
      throw new Problem("too-many-readings", { detail: `this file has ${file.readings.length}` });
    const unsound = unsoundAt(file);
    if (unsound !== null)
      throw new Problem("unreadable-case", { errors: [{ pointer: unsound, detail: "half a character" }] });
    return this.inTransaction(async (jobs, at) => {
      const made = await jobs.find(id);
      if (made) return made;
      const { complaint = "", finding = "", details = {}, meter = {}, priors = {} } = file;
      const { situation = "complaint", isWet = false, standing = {}, tags = [], claims = {}, work = null } = file;
      const closing = file.closing ?? closingOf(file, at);
      const state =
        closing?.outcome === "givenUp"
          ? "givenUp"
          : finding !== "" || closing
            ? "solved"
            : file.readings.length > 0
              ? "open"
              : "new";
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
        tags,
        claims,
        work,
        closing,
      };
      await jobs.create(id, fields, at);
      await jobs.addCircuit(id, { trail: file.circuit, look, revision: 0 }, at);
      for (const reading of file.readings) await jobs.addReading(id, randomUUID(), reading, at);
      await jobs.history.add(id, { what: "job", done: "imported" }, at);
      return found(await jobs.changed(id));
    });
  }

  private inTransaction<T>(work: (jobs: JobRepository, at: string) => Promise<T>): Promise<T> {
    return inTransaction(this.db, (trx) => work(new JobRepository(trx, this.who), this.now().toISOString()));
  }
}

/** A case that says only what was repaired is one in which that was found. */
function closingOf({ repair = [] }: CaseFile, at: string): Closing | null {
  return repair.length > 0 ? Closing.parse({ outcome: "found", faults: repair, at }) : null;
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
