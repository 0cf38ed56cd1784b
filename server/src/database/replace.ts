import { copyFileSync, mkdtempSync, rmSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import type { Database } from "better-sqlite3";
import type { Knex } from "knex";
import { backUp, type Counts, checkCopy } from "./copies.ts";
import { openDatabase } from "./open.ts";

/**
 * Puts what a copy holds in the place of what an open database holds, in one transaction; what is replaced is kept in a
 * file beside it first. An older copy is brought up to date on the way.
 * @param own keys of rows that belong to this server and stay, by table
 * @throws StartProblem where the copy cannot be used
 */
export async function replaceContents(
  db: Knex,
  from: string,
  now: Date,
  own: Readonly<Record<string, readonly string[]>>,
): Promise<{ readonly counts: Counts; readonly kept: string }> {
  const { filename } = db.client.config.connection as { filename: string };
  const kept = `${filename}.replaced-${now.toISOString().replace(/[:.]/g, "-")}`;
  const folder = mkdtempSync(join(tmpdir(), "hound-restore-"));
  try {
    const fresh = join(folder, "fresh.sqlite");
    copyFileSync(from, fresh);
    await (await openDatabase(fresh)).destroy();
    backUp(filename, kept);
    await takeOver(db, fresh, own);
    return { counts: checkCopy(fresh), kept };
  } finally {
    rmSync(folder, { recursive: true, force: true });
  }
}

/**
 * Puts what another file holds in the place of what an open database holds, in one transaction.
 * @param fresh a database of this version
 * @param own keys of rows that stay, by table
 * @param isStill looked at within the transaction: where it is not so, nothing is done
 * @returns whether it was done
 */
export async function takeOver(
  db: Knex,
  fresh: string,
  own: Readonly<Record<string, readonly string[]>>,
  isStill: (connection: Database) => boolean = () => true,
): Promise<boolean> {
  const connection: Database = await db.client.acquireConnection();
  try {
    connection.prepare("ATTACH ? AS fresh").run(fresh);
    try {
      return connection
        .transaction(() => {
          if (!isStill(connection)) return false;
          replaceTables(connection, own);
          return true;
        })
        .immediate();
    } finally {
      connection.exec("DETACH fresh");
    }
  } finally {
    await db.client.releaseConnection(connection);
  }
}

/** Columns of the words of all jobs; they go by the numbers of the logbook's rows. */
const WORDS = "rowid, title, complaint, finding, parts, circuit, people, notes";

function replaceTables(connection: Database, own: Readonly<Record<string, readonly string[]>>) {
  connection.pragma("defer_foreign_keys = ON");
  const tables = connection
    .prepare(
      "SELECT name FROM fresh.sqlite_master WHERE type = 'table' AND name NOT LIKE 'sqlite_%' AND name NOT LIKE 'knex_%' AND name NOT LIKE 'words%'",
    )
    .all() as { name: string }[];
  for (const { name } of tables) {
    const columns = (connection.pragma(`fresh.table_info("${name}")`) as { name: string }[])
      .map((c) => `"${c.name}"`)
      .join(", ");
    const keys = own[name] ?? [];
    const marks = keys.map(() => "?").join(", ");
    connection
      .prepare(`DELETE FROM main."${name}"${keys.length > 0 ? ` WHERE key NOT IN (${marks})` : ""}`)
      .run(...keys);
    connection
      .prepare(
        `INSERT INTO main."${name}" (${columns}) SELECT ${columns} FROM fresh."${name}"${keys.length > 0 ? ` WHERE key NOT IN (${marks})` : ""}`,
      )
      .run(...keys);
  }
  connection.exec(`DELETE FROM main.words; INSERT INTO main.words (${WORDS}) SELECT ${WORDS} FROM fresh.words`);
}
