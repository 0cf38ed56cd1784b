import { chmodSync, existsSync, mkdirSync } from "node:fs";
import { dirname } from "node:path";
import knex, { type Knex } from "knex";
import { StartProblem } from "./lock.ts";
import { mend } from "./mend.ts";
import { columnsDue, columnsIn, migrationSource } from "./migrations.ts";
import { keepStatements } from "./statements.ts";

/**
 * Opens the database file, making it and its folder if need be, and brings it up to date. WAL mode, foreign keys on,
 * every commit synced before it is acknowledged.
 */
export async function openDatabase(file: string): Promise<Knex> {
  mkdirSync(dirname(file), { recursive: true });
  const db = knex({
    client: "better-sqlite3",
    connection: { filename: file },
    useNullAsDefault: true,
    // What goes wrong is thrown; nothing is printed besides.
    log: { warn: () => {}, error: () => {}, deprecate: () => {}, debug: () => {} },
    pool: {
      min: 1,
      max: 1,
      afterCreate: (
        connection: { pragma: (text: string) => unknown; prepare: (sql: string) => unknown },
        done: (error: Error | null, c: unknown) => void,
      ) => {
        connection.pragma("journal_mode = WAL");
        connection.pragma("synchronous = FULL");
        connection.pragma("foreign_keys = ON");
        connection.pragma("busy_timeout = 5000");
        keepStatements(connection);
        done(null, connection);
      },
    },
  });
  try {
    await db.migrate.latest({ migrationSource });
  } catch (error) {
    await db.destroy();
    throw asStartProblem(error, file);
  }
  const [{ quick_check: state }] = await db.raw("PRAGMA quick_check(1)");
  if (state !== "ok") {
    await db.destroy();
    throw new StartProblem(`The database ${file} is damaged (${state}). Restore a backup: npm run restore FILE.`);
  }
  const has = new Set(await columnsIn(db));
  const lacking = (await columnsDue()).filter((column) => !has.has(column));
  if (lacking.length > 0) {
    await db.destroy();
    throw new StartProblem(
      `The database ${file} has not the form of this version: it lacks ${lacking.join(", ")}. Restore a backup: npm run restore FILE.`,
    );
  }
  await mend(db, new Date());
  // Nobody else on this machine reads what is in it.
  for (const ending of ["", "-wal", "-shm"]) if (existsSync(file + ending)) chmodSync(file + ending, 0o600);
  return db;
}

/** What keeps a database from being opened, in one sentence, with what to do. */
function asStartProblem(error: unknown, file: string): Error {
  const { code = "", message } = error as { code?: string; message: string };
  if (code === "SQLITE_NOTADB")
    return new StartProblem(`${file} is no database. Name another file with HOUND_DB, or restore a backup.`);
  if (/^SQLITE_CORRUPT/.test(code))
    return new StartProblem(`The database ${file} is damaged. Restore a backup: npm run restore FILE.`);
  if (/^SQLITE_(?:READONLY|CANTOPEN)/.test(code))
    return new StartProblem(
      `The database ${file} cannot be written. Give this user the right to write there, or name another file with HOUND_DB.`,
    );
  if (code === "SQLITE_FULL") return new StartProblem(`The disk with ${file} is full. Make room and start again.`);
  if (/migration directory is corrupt/.test(message))
    return new StartProblem(
      `The database ${file} was written by a newer version of this program. Update it, or name another file with HOUND_DB.`,
    );
  return error as Error;
}
