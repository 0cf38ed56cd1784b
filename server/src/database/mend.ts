import { MODES } from "@hound/core/circuit";
import type { Knex } from "knex";
import { sumOf } from "./sums.ts";
import { inTransaction } from "./transaction.ts";

type Row = Readonly<Record<string, unknown>> & { readonly row_number: number };

/** Tables whose rows belong to others by a column that their checksum covers. */
const SUMMED: Readonly<Record<string, (row: never) => string>> = {
  circuits: sumOf.circuit,
  readings: sumOf.reading,
  library_revisions: sumOf.libraryRevision,
};
const PARENTS = { jobs: "circuits", library: "library_revisions" } as const;
const UUID = /^[0-9a-f]{8}(?:-[0-9a-f]{4}){3}-[0-9a-f]{12}$/i;

/**
 * Puts right what a bad disk did to the places by which rows hang together, as far as their checksums prove what stood
 * there, and sets the rest apart, so that all that is whole can be used. What is damaged within a row stays: it is shown
 * as damaged by who reads it.
 * @param now moment that is written beside what is set apart
 */
export async function mend(db: Knex, now: Date) {
  // A row may be on its way to where it belongs while what belongs to it is not.
  await db.raw("PRAGMA foreign_keys = OFF");
  try {
    await inTransaction(db, async (trx) => {
      await nameAgain(trx);
      await attachOrSetApart(trx, now);
      await mendLibrary(trx, now);
      await forgetDerived(trx);
    });
  } finally {
    await db.raw("PRAGMA foreign_keys = ON");
  }
}

async function attachOrSetApart(db: Knex, now: Date) {
  for (const { table, rowid } of (await db.raw("PRAGMA foreign_key_check")) as { table: string; rowid: number }[]) {
    const row = await rowOf(db, table, rowid);
    if (!row || (await isReattached(db, table, row))) continue;
    // Of which job a fault was found nobody knows any more: all of the logbook is made again.
    if (table === "found_faults") await db("logbook").delete();
    await setApart(db, table, row, "it belongs to nothing", now);
  }
  for (const row of await rowsOf(db, "workshop", "NOT json_valid(data)"))
    await setApart(db, "workshop", row, "it is not JSON", now);
}

async function setApart(db: Knex, table: string, row: Row, why: string, now: Date) {
  const isMadeOfOthers = table === "logbook" || table === "found_faults";
  if (!isMadeOfOthers) await db("apart").insert({ at: now.toISOString(), of: table, why, data: JSON.stringify(row) });
  await db(table).where("rowid", row.row_number).delete();
}

async function mendLibrary(db: Knex, now: Date) {
  for (const row of await rowsOf(db, "library_revisions", "typeof(revision) <> 'integer'"))
    if (!(await isCountedAgain(db, row))) await setApart(db, "library_revisions", row, "its version is no number", now);
  await db("library_revisions").whereRaw("typeof(part_count) <> 'integer'").update({ part_count: 0 });
  const newest = db.raw(
    "(SELECT coalesce(max(r.revision), 0) FROM library_revisions r WHERE r.library_id = library.id)",
  );
  await db("library").whereRaw("typeof(revision) <> 'integer'").update({ revision: newest });
}

/** Takes away what of the logbook cannot be read: it is made of the jobs, and what is missing of it is made at the start. */
async function forgetDerived(db: Knex) {
  const unread = db("circuits").whereRaw("NOT json_valid(kinds) OR NOT json_valid(exposure)");
  await db("logbook").whereIn("job_id", unread.clone().select("job_id")).delete();
  await unread.update({ key: null, kinds: null, exposure: null });
  await db("logbook").whereRaw("NOT json_valid(tags) OR NOT json_valid(expected)").delete();
  const unknown = db("found_faults").whereNotIn("mode", [...MODES]);
  await db("logbook").whereIn("job_id", unknown.select("job_id")).delete();
  await db.raw("DELETE FROM words WHERE rowid NOT IN (SELECT n FROM logbook)");
}

const all = (db: Knex, table: string) => db(table).select(db.raw("rowid AS row_number"), "*");
const rowOf = async (db: Knex, table: string, rowid: number) =>
  (await all(db, table).where("rowid", rowid).first()) as Row | undefined;
const rowsOf = (db: Knex, table: string, where: string) => all(db, table).whereRaw(where) as Promise<Row[]>;

/** Gives jobs and circuits of the library whose id was damaged the one that what belongs to them still names. */
async function nameAgain(db: Knex) {
  for (const [table, child] of Object.entries(PARENTS)) {
    const key = table === "jobs" ? "job_id" : "library_id";
    const nameless = await rowsOf(db, table, `id NOT GLOB '${"?".repeat(8)}-????-????-????-${"?".repeat(12)}'`);
    if (nameless.length === 0) continue;
    const orphans = await db(child).distinct(key).whereNotIn(key, db(table).select("id"));
    const ids = orphans.map((row: Record<string, unknown>) => row[key] as string).filter((id) => UUID.test(id));
    for (const row of nameless) {
      const proved = ids.find((id) => "sum" in row && sumOf.job({ ...row, id } as never) === row.sum);
      const only = ids.length === 1 && nameless.length === 1 && !("sum" in row) ? ids[0] : undefined;
      const id = proved ?? only;
      if (id === undefined) continue;
      await db(table).where("rowid", row.row_number).update({ id });
    }
  }
}

/** Whether what a row belonged to is known by its checksum: it does again then. */
async function isReattached(db: Knex, table: string, row: Row): Promise<boolean> {
  const sum = SUMMED[table];
  if (!sum) return false;
  const [parent, key] = table === "library_revisions" ? ["library", "library_id"] : ["jobs", "job_id"];
  for (const { id } of await db(parent).select("id")) {
    if (sum({ ...row, [key]: id } as never) !== row.sum) continue;
    await db(table)
      .where("rowid", row.row_number)
      .update({ [key]: id });
    return true;
  }
  return false;
}

/** Whether the version of a kept circuit is known by its checksum. */
async function isCountedAgain(db: Knex, row: Row): Promise<boolean> {
  const { library_id, trail, created_at } = row;
  const [{ n }] = (await db("library_revisions").where({ library_id }).count("* as n")) as unknown as { n: number }[];
  for (let revision = 0; revision <= n; revision += 1) {
    if (sumOf.libraryRevision({ library_id, revision, trail, created_at }) !== row.sum) continue;
    await db("library_revisions").where("rowid", row.row_number).update({ revision });
    return true;
  }
  return false;
}
