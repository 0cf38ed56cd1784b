import { readdirSync, readFileSync } from "node:fs";
import { join } from "node:path";
import type { Knex } from "knex";
import { JobService } from "./jobs/service.ts";

/** Loads the case files of a folder, in the order of their names, if there is no job yet. @returns how many */
export async function loadDemo(db: Knex, folder: string, now: () => Date): Promise<number> {
  const [{ count }] = (await db("jobs").count("* as count")) as unknown as [{ count: number }];
  if (count > 0) return 0;
  const jobs = new JobService(db, now);
  const files = readdirSync(folder)
    .filter((name) => name.endsWith(".json"))
    .sort();
  for (const name of files) await jobs.importCase(readFileSync(join(folder, name), "utf8"));
  return files.length;
}
