import { createHash } from "node:crypto";
import {
  chmodSync,
  closeSync,
  copyFileSync,
  existsSync,
  fsyncSync,
  mkdirSync,
  openSync,
  readdirSync,
  readFileSync,
  renameSync,
  rmSync,
  statSync,
  writeFileSync,
} from "node:fs";
import { basename, dirname, join } from "node:path";
import Database from "better-sqlite3";
import { lockDatabase, StartProblem } from "./lock.ts";
import { MIGRATION_NAMES } from "./migrations.ts";

export interface Counts {
  readonly jobs: number;
  readonly readings: number;
  readonly circuits: number;
}

/**
 * A consistent copy of a database, also while a server writes it, with its SHA-256 in a file beside it. It has its name
 * only when it is whole, was checked and lies on the disk: what is broken off leaves none.
 * @throws StartProblem where there is nothing to copy, something at the place already, or no room
 */
export function backUp(file: string, to: string): Counts {
  if (!existsSync(file)) throw new StartProblem(`There is no database ${file} to copy.`);
  if (existsSync(to)) throw new StartProblem(`${to} is there already; a backup overwrites nothing.`);
  mkdirSync(dirname(to), { recursive: true });
  const unfinished = `${to}.unfinished`;
  try {
    rmSync(unfinished, { force: true });
    // Nobody else may read it, from its first byte on.
    writeFileSync(unfinished, "", { mode: 0o600 });
    copyInto(unfinished, file);
    const counts = checkCopy(unfinished, `The copy of ${file}`);
    writeFileSync(`${to}.sha256`, `${sumOf(unfinished)}\n`, { mode: 0o600 });
    renameSync(unfinished, to);
    for (const path of [`${to}.sha256`, dirname(to)]) sync(path);
    return counts;
  } catch (error) {
    rmSync(unfinished, { force: true });
    if (/^(?:SQLITE_FULL|ENOSPC)$/.test((error as { code?: string }).code ?? ""))
      throw new StartProblem(`There is no room for a copy of ${file} at ${to}. Make room and start again.`);
    throw error;
  }
}

/** After so long nobody goes on with a copy that has not its name yet. */
const GIVEN_UP = 3_600_000;

/** Lets go of copies beside a database that a crash broke off. */
export function forgetUnfinished(file: string, now: Date) {
  const [folder, own] = [dirname(file), basename(file)];
  for (const name of readdirSync(folder)) {
    if (!name.startsWith(`${own}.`) || !/\.unfinished(?:-journal)?$/.test(name)) continue;
    const path = join(folder, name);
    const { mtimeMs = now.getTime() } = statSync(path, { throwIfNoEntry: false }) ?? {};
    if (now.getTime() - mtimeMs > GIVEN_UP) rmSync(path, { force: true });
  }
}

function copyInto(empty: string, file: string) {
  const source = new Database(file, { readonly: true, fileMustExist: true });
  try {
    source.prepare("VACUUM INTO ?").run(empty);
  } finally {
    source.close();
  }
  sync(empty);
}

/** Waits until a file, or what a folder lists, lies on the disk. */
function sync(path: string) {
  const opened = openSync(path, "r");
  try {
    fsyncSync(opened);
  } finally {
    closeSync(opened);
  }
}

/** Whether a copy is what it was when it was made, as far as its sum tells. */
export function isAsMade(copy: string): boolean {
  const sums = `${copy}.sha256`;
  return existsSync(copy) && existsSync(sums) && readFileSync(sums, "utf8").trim() === sumOf(copy);
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
    // An older form has not all of the tables.
    const has = copy.prepare("SELECT 1 FROM sqlite_master WHERE type = 'table' AND name = ?");
    const count = (table: string) =>
      has.get(table) ? (copy.prepare(`SELECT count(*) AS n FROM ${table}`).get() as { n: number }).n : 0;
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
