import { existsSync, readdirSync, rmSync } from "node:fs";
import { join } from "node:path";
import Database from "better-sqlite3";
import { backUp, forgetUnfinished, isAsMade } from "./copies.ts";
import { MIGRATION_NAMES } from "./migrations.ts";

/** Copies kept, one a day. */
const KEPT = 14;
const EVERY = 3_600_000;

/** Where the daily copies of a database lie. */
export const dailyFolder = (file: string) => `${file}.daily`;

/** Makes today's copy if there is none yet, and lets those go that are older than the last fourteen. */
export function keepDaily(file: string, now: Date) {
  const folder = dailyFolder(file);
  const copy = join(folder, `${now.toISOString().slice(0, 10)}.sqlite`);
  if (!existsSync(copy)) backUp(file, copy);
  const copies = readdirSync(folder).filter((name) => /^\d{4}-\d\d-\d\d\.sqlite$/.test(name));
  for (const old of copies.sort().slice(0, -KEPT)) forget(join(folder, old));
}

/**
 * Keeps a copy every day while the server runs; one of today that is not as it was made is made again.
 * @returns what stops it
 */
export function keepCopies(file: string, now: () => Date, onTrouble: (error: unknown) => void): () => void {
  const keep = (isFirst = false) => {
    try {
      const today = join(dailyFolder(file), `${now().toISOString().slice(0, 10)}.sqlite`);
      if (isFirst && !isAsMade(today)) forget(today);
      forgetUnfinished(file, now());
      keepDaily(file, now());
    } catch (error) {
      onTrouble(error);
    }
  };
  keep(true);
  const timer = setInterval(keep, EVERY);
  timer.unref();
  return () => clearInterval(timer);
}

function forget(copy: string) {
  for (const name of [copy, `${copy}.sha256`]) rmSync(name, { force: true });
}

/**
 * A copy of a database as it is, before this version changes its form: made now, under a name of its own; null where
 * nothing is changed, or there is nothing of anybody's yet.
 * @throws StartProblem where no whole copy can be made
 */
export function keepBeforeMigrating(file: string, now: Date): string | null {
  if (!existsSync(file)) return null;
  const done = migrationsIn(file);
  const next = MIGRATION_NAMES.find((name) => !done.includes(name));
  // Of a first start that was broken off there is a database without a form, and nothing in it.
  if (next === undefined || done.length === 0) return null;
  const copy = `${file}.before-${next}-${now.toISOString().replace(/[:.]/g, "-")}`;
  backUp(file, copy);
  return copy;
}

/** What was done to a database so far; nothing where that cannot be read: opening it says what is wrong. */
function migrationsIn(file: string): readonly string[] {
  const db = new Database(file, { readonly: true });
  try {
    return (db.prepare("SELECT name FROM knex_migrations").all() as { name: string }[]).map((m) => m.name);
  } catch {
    return [];
  } finally {
    db.close();
  }
}
