import { mkdirSync } from "node:fs";
import { dirname } from "node:path";
import knex, { type Knex } from "knex";
import { migrationSource } from "./migrations.ts";

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
    pool: {
      min: 1,
      max: 1,
      afterCreate: (
        connection: { pragma: (text: string) => unknown },
        done: (error: Error | null, c: unknown) => void,
      ) => {
        connection.pragma("journal_mode = WAL");
        connection.pragma("synchronous = FULL");
        connection.pragma("foreign_keys = ON");
        connection.pragma("busy_timeout = 5000");
        done(null, connection);
      },
    },
  });
  await db.migrate.latest({ migrationSource });
  return db;
}
