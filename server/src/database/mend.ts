import { MODES } from "@hound/core/circuit";
import type { Knex } from "knex";
import { sumOf } from "./sums.ts";
import { inTransaction } from "./transaction.ts";

type Row = Readonly<Record<string, unknown>> & { readonly row_number: number };

/** Rows that are made of others: they are made again. */
const DERIVED = new Set(["logbook", "found_faults"]);
/** Tables whose rows belong to others by a column that their checksum covers. */
const SUMMED: Readonly<Record<string, (row: never) => string>> = {
  circuits: sumOf.circuit,
  readings: sumOf.reading,
  library_revisions: sumOf.libraryRevision,
};
const PARENTS = { jobs: "circuits", library: "library_revisions" } as const;
const UUID = /^[0-9a-f]{8}(?:-[0-9a-f]{4}){3}-[0-9a-f]{12}$/i;

export interface Mended {
  /** Rows that are again what they were, or made anew. */
  readonly mended: number;
  /** Rows that nothing can be made of: they lie in the table `apart`, as they were found. */
  readonly apart: number;
}

/**
 * Puts right what a bad disk did to the places by which rows hang together, as far as their checksums prove what stood
 * there, and sets the rest apart, so that all that is whole can be used. What is damaged within a row stays: it is shown
 * as damaged by who reads it.
 * @param now moment that is written beside what is set apart
 */
export async function mend(db: Knex, now: Date): Promise<Mended> {
  // A row may be on its way to where it belongs while what belongs to it is not.
  await db.raw("PRAGMA foreign_keys = OFF");
  try {
    return await mended(db, now);
  } finally {
    await db.raw("PRAGMA foreign_keys = ON");
  }
}

function mended(db: Knex, now: Date): Promise<Mended> {
  return inTransaction(db, async (trx) => {
    const found = { mended: 0, apart: 0 };
    const setApart = async (table: string, row: Row, why: string) => {
      if (DERIVED.has(table)) found.mended += 1;
      else {
        await trx("apart").insert({ at: now.toISOString(), of: table, why, data: JSON.stringify(row) });
        found.apart += 1;
      }
      await trx(table).where("rowid", row.row_number).delete();
    };
    found.mended += await nameAgain(trx);
    for (const { table, rowid } of (await trx.raw("PRAGMA foreign_key_check")) as { table: string; rowid: number }[]) {
      const row = await rowOf(trx, table, rowid);
      if (!row) continue;
      if (await reattached(trx, table, row)) found.mended += 1;
      else await setApart(table, row, "it belongs to nothing");
    }
    for (const row of await rowsOf(trx, "workshop", "NOT json_valid(data)"))
      await setApart("workshop", row, "it is not JSON");
    for (const row of await rowsOf(trx, "library_revisions", "typeof(revision) <> 'integer'"))
      if (await countedAgain(trx, row)) found.mended += 1;
      else await setApart("library_revisions", row, "its version is no number");
    found.mended += Number(
      await trx("library_revisions").whereRaw("typeof(part_count) <> 'integer'").update({ part_count: 0 }),
    );
    const newest = trx.raw(
      "(SELECT coalesce(max(r.revision), 0) FROM library_revisions r WHERE r.library_id = library.id)",
    );
    found.mended += Number(await trx("library").whereRaw("typeof(revision) <> 'integer'").update({ revision: newest }));
    // The logbook is made of the jobs: what of it is missing is made at the start.
    const unread = trx("circuits").whereRaw("NOT json_valid(kinds) OR NOT json_valid(exposure)");
    found.mended += Number(await trx("logbook").whereIn("job_id", unread.clone().select("job_id")).delete());
    await unread.update({ key: null, kinds: null, exposure: null });
    found.mended += Number(await trx("logbook").whereRaw("NOT json_valid(tags) OR NOT json_valid(expected)").delete());
    const unknown = trx("found_faults")
      .whereNotIn("mode", [...MODES])
      .select("job_id");
    found.mended += Number(await trx("logbook").whereIn("job_id", unknown).delete());
    return found;
  });
}

const all = (db: Knex, table: string) => db(table).select(db.raw("rowid AS row_number"), "*");
const rowOf = async (db: Knex, table: string, rowid: number) =>
  (await all(db, table).where("rowid", rowid).first()) as Row | undefined;
const rowsOf = (db: Knex, table: string, where: string) => all(db, table).whereRaw(where) as Promise<Row[]>;

/** Gives jobs and circuits of the library whose id was damaged the one that what belongs to them still names. */
async function nameAgain(db: Knex): Promise<number> {
  let named = 0;
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
      named += 1;
    }
  }
  return named;
}

/** Whether what a row belonged to is known by its checksum: it does again then. */
async function reattached(db: Knex, table: string, row: Row): Promise<boolean> {
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
async function countedAgain(db: Knex, row: Row): Promise<boolean> {
  const { library_id, trail, created_at } = row;
  const [{ n }] = (await db("library_revisions").where({ library_id }).count("* as n")) as unknown as { n: number }[];
  for (let revision = 0; revision <= n; revision += 1) {
    if (sumOf.libraryRevision({ library_id, revision, trail, created_at }) !== row.sum) continue;
    await db("library_revisions").where("rowid", row.row_number).update({ revision });
    return true;
  }
  return false;
}
