import type Database from "better-sqlite3";

/** Makes a database as it was before the form 0006: what later forms made is not there, and nobody has noted that they were. */
export function asBefore0006(raw: Database.Database) {
  for (const table of ["apart", "hunts", "exercise_sets", "attempts"]) raw.exec(`DROP TABLE ${table}`);
  for (const column of ["caption", "turns", "in_report"]) raw.exec(`ALTER TABLE pictures DROP COLUMN ${column}`);
  raw.exec("DELETE FROM knex_migrations WHERE name >= '0006'");
}
