import type { Knex } from "knex";

/**
 * Everything or nothing. Where the database itself gave up (disk full), it has rolled back already and says so when it
 * is asked to: what went wrong first is what is thrown.
 */
export async function inTransaction<T>(db: Knex, work: (trx: Knex.Transaction) => Promise<T>): Promise<T> {
  const first: unknown[] = [];
  try {
    return await db.transaction(async (trx) => {
      try {
        return await work(trx);
      } catch (error) {
        first.push(error);
        throw error;
      }
    });
  } catch (error) {
    throw first.length > 0 ? first[0] : error;
  }
}
