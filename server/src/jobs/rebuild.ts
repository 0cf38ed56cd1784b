import type { Knex } from "knex";
import { inTransaction } from "../database/transaction.ts";
import { workJobs } from "../practice/repository.ts";
import { type Reader, readHere } from "../threads/threads.ts";
import { JobRepository } from "./repository.ts";
import type { CircuitRow } from "./rows.ts";

/**
 * Makes the logbook anew of the jobs that it does not have yet: those of an older version of the database.
 * @returns how many jobs
 */
export async function rebuildLogbook(db: Knex, reader: Reader = readHere): Promise<number> {
  const missing = await workJobs(db)
    .leftJoin("logbook", "logbook.job_id", "jobs.id")
    .whereNull("logbook.n")
    .select("jobs.id");
  if (missing.length === 0) return 0;
  await inTransaction(db, async (trx) => {
    const jobs = new JobRepository(trx);
    for (const { id } of missing as { id: string }[]) {
      const [newest] = await trx<CircuitRow>("circuits").where({ job_id: id }).orderBy("revision", "desc").limit(1);
      if (newest && newest.key === null) {
        const { key, name, kinds, exposure } = await reader.look(newest.trail);
        await trx("circuits")
          .where({ job_id: id, revision: newest.revision })
          .update({ key, name, kinds: JSON.stringify(kinds), exposure: JSON.stringify(exposure) });
      }
      await jobs.finish(id);
    }
  });
  return missing.length;
}
