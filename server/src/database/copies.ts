import { createHash } from "node:crypto";
import {
  chmodSync,
  copyFileSync,
  existsSync,
  mkdirSync,
  readFileSync,
  renameSync,
  rmSync,
  writeFileSync,
} from "node:fs";
import { dirname } from "node:path";
import Database from "better-sqlite3";
import { lockDatabase, StartProblem } from "./lock.ts";
import { MIGRATION_NAMES } from "./migrations.ts";

export interface Counts {
  readonly jobs: number;
  readonly readings: number;
  readonly circuits: number;
}

/**
 * A consistent copy of a database, also while a server writes it, with its SHA-256 in a file beside it.
 * @throws StartProblem where there is nothing to copy, or something at the place already
 */
export function backUp(file: string, to: string): Counts {
  if (!existsSync(file)) throw new StartProblem(`There is no database ${file} to copy.`);
  if (existsSync(to)) throw new StartProblem(`${to} is there already; a backup overwrites nothing.`);
  mkdirSync(dirname(to), { recursive: true });
  const source = new Database(file, { readonly: true, fileMustExist: true });
  try {
    source.prepare("VACUUM INTO ?").run(to);
  } finally {
    source.close();
  }
  chmodSync(to, 0o600);
  writeFileSync(`${to}.sha256`, `${sumOf(to)}\n`, { mode: 0o600 });
  return checkCopy(to);
}

/**
 * Puts a copy in the place of a database. What it replaces is kept beside it, with the time in its name; what a crash
 * left of it (`-wal`, `-shm`) goes with it.
 * @throws StartProblem where the copy is damaged, is of a newer version, or a server has the database open
 */
export function restore(
  from: string,
  file: string,
  now: Date,
): { readonly counts: Counts; readonly kept: string | null } {
  const counts = checkCopy(from);
  mkdirSync(dirname(file), { recursive: true });
  const unlock = lockDatabase(file);
  try {
    const fresh = `${file}.fresh`;
    copyFileSync(from, fresh);
    chmodSync(fresh, 0o600);
    let kept: string | null = null;
    if (existsSync(file)) {
      kept = `${file}.replaced-${now.toISOString().replace(/[:.]/g, "-")}`;
      // Folded into one file first: what is still in the write-ahead log belongs to what is kept.
      const old = new Database(file);
      try {
        old.pragma("wal_checkpoint(TRUNCATE)");
      } catch {
        // Damaged: it is kept as it is.
      }
      old.close();
      renameSync(file, kept);
    }
    for (const rest of ["-wal", "-shm"]) rmSync(`${file}${rest}`, { force: true });
    renameSync(fresh, file);
    return { counts, kept };
  } finally {
    unlock();
  }
}

/**
 * Sees whether a copy is whole, and of a version that this program knows.
 * @param name what it is called where it is not
 * @throws StartProblem
 */
export function checkCopy(file: string, name: string = file): Counts {
  if (!existsSync(file)) throw new StartProblem(`There is no file ${name}.`);
  const sums = `${file}.sha256`;
  if (existsSync(sums) && readFileSync(sums, "utf8").trim() !== sumOf(file))
    throw new StartProblem(`${name} is damaged: it is not what ${sums} says it was. Take another backup.`);
  let copy: Database.Database;
  try {
    copy = new Database(file, { readonly: true, fileMustExist: true });
    copy.pragma("schema_version");
  } catch {
    throw new StartProblem(`${name} is no database of this program.`);
  }
  try {
    const state = copy.pragma("integrity_check", { simple: true });
    if (state !== "ok") throw new StartProblem(`${name} is damaged: ${state}. Take another backup.`);
    const known = new Set(MIGRATION_NAMES);
    const done = copy.prepare("SELECT name FROM knex_migrations").all() as { name: string }[];
    const future = done.find((m) => !known.has(m.name));
    if (future)
      throw new StartProblem(`${name} was written by a newer version of this program (${future.name}). Update first.`);
    const count = (table: string) => (copy.prepare(`SELECT count(*) AS n FROM ${table}`).get() as { n: number }).n;
    return { jobs: count("jobs"), readings: count("readings"), circuits: count("library") };
  } catch (error) {
    if (error instanceof StartProblem) throw error;
    throw new StartProblem(`${name} is no database of this program.`);
  } finally {
    copy.close();
  }
}

function sumOf(file: string): string {
  return createHash("sha256").update(readFileSync(file)).digest("hex");
}
