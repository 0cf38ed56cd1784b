import { readdirSync, readFileSync } from "node:fs";
import { join } from "node:path";
import { readTrail } from "@hound/core/notation";
import type { Knex } from "knex";
import { inTransaction } from "./database/transaction.ts";
import { JobService } from "./jobs/service.ts";
import { LibraryService } from "./library/service.ts";

/**
 * Loads a folder's case files as jobs and its trails into the library, in the order of their numbers, if there is
 * neither yet. @returns how many of each
 */
export async function loadDemo(db: Knex, folder: string, now: () => Date): Promise<{ jobs: number; circuits: number }> {
  const counts = await Promise.all(["jobs", "library"].map((table) => db(table).count("* as count").first()));
  if (counts.some((c) => Number(c?.count) > 0)) return { jobs: 0, circuits: 0 };
  // All of it or nothing: a start that is broken off begins anew.
  return inTransaction(db, (trx) => loadInto(trx, folder, now));
}

async function loadInto(db: Knex, folder: string, now: () => Date): Promise<{ jobs: number; circuits: number }> {
  const jobs = new JobService(db, now);
  const library = new LibraryService(db, now);
  const cases = filesOf(join(folder, "cases"), ".json");
  for (const path of cases) await jobs.importCase(readFileSync(path, "utf8"));
  const trails = filesOf(join(folder, "circuits"), ".trail");
  for (const path of trails) {
    const text = readFileSync(path, "utf8");
    const { circuit } = readTrail(text);
    await library.create({ name: circuit?.title || path, notes: circuit?.notes.join("; ") ?? "", trail: text });
  }
  return { jobs: cases.length, circuits: trails.length };
}

function filesOf(folder: string, ending: string): string[] {
  return readdirSync(folder)
    .filter((name) => name.endsWith(ending))
    .sort((a, b) => a.localeCompare(b, "en", { numeric: true }))
    .map((name) => join(folder, name));
}
