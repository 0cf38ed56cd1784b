import { existsSync, readdirSync, rmSync } from "node:fs";
import { join } from "node:path";
import Database from "better-sqlite3";
import { backUp } from "./copies.ts";
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
  for (const old of copies.sort().slice(0, -KEPT))
    for (const name of [old, `${old}.sha256`]) rmSync(join(folder, name), { force: true });
}

/** Keeps a copy every day while the server runs. @returns what stops it */
export function keepCopies(file: string, now: () => Date, onTrouble: (error: unknown) => void): () => void {
  const keep = () => {
    try {
      keepDaily(file, now());
    } catch (error) {
      onTrouble(error);
    }
  };
  keep();
  const timer = setInterval(keep, EVERY);
  timer.unref();
  return () => clearInterval(timer);
}

/** A copy of a database as it was, before this version changes its form; null where it does not. */
export function keepBeforeMigrating(file: string): string | null {
  if (!existsSync(file)) return null;
  let done: string[];
  const db = new Database(file, { readonly: true });
  try {
    done = (db.prepare("SELECT name FROM knex_migrations").all() as { name: string }[]).map((m) => m.name);
  } catch {
    return null;
  } finally {
    db.close();
  }
  const next = MIGRATION_NAMES.find((name) => !done.includes(name));
  if (next === undefined) return null;
  const copy = `${file}.before-${next}`;
  if (!existsSync(copy)) backUp(file, copy);
  return copy;
}
