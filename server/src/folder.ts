import { existsSync, mkdirSync, readdirSync, readFileSync, statSync, writeFileSync } from "node:fs";
import { dirname, join, relative, resolve, sep } from "node:path";
import { lockDatabase, StartProblem } from "./database/lock.ts";
import { openDatabase } from "./database/open.ts";
import { Problem } from "./problems.ts";
import { readHere } from "./threads/threads.ts";
import { bringIn, folderOf } from "./workshop/folder.ts";
import type { Folder } from "./workshop/zip.ts";

/** `npm run export FOLDER` and `npm run import FOLDER`: the whole workshop as a folder of open files. */
const root = resolve(import.meta.dirname, "..", "..");
const database = resolve(root, process.env.HOUND_DB ?? "data/hound.sqlite");
const [what, given] = process.argv.slice(2);

try {
  if (!given) throw new StartProblem(`Which folder? npm run ${what} FOLDER`);
  const folder = resolve(given);
  if (what === "export") {
    if (!existsSync(database)) throw new StartProblem(`There is no database ${database}.`);
    if (existsSync(folder) && readdirSync(folder).length > 0)
      throw new StartProblem(`${folder} is not empty; nothing is written over.`);
  } else if (!existsSync(folder) || !statSync(folder).isDirectory())
    throw new StartProblem(`There is no folder ${folder}.`);
  mkdirSync(dirname(database), { recursive: true });
  const unlock = what === "import" ? lockDatabase(database) : () => {};
  const db = await openDatabase(database);
  try {
    if (what === "export") process.stdout.write(`Wrote ${await written(folder)} files to ${folder}\n`);
    else {
      const { jobs, circuits } = await bringIn(db, filesIn(folder), readHere);
      process.stdout.write(`Brought in ${jobs} jobs and ${circuits} circuits from ${folder}\n`);
    }
  } finally {
    await db.destroy();
    unlock();
  }

  async function written(into: string): Promise<number> {
    let count = 0;
    for await (const { path, bytes } of folderOf(db)) {
      const file = join(into, ...path.split("/"));
      mkdirSync(dirname(file), { recursive: true });
      writeFileSync(file, bytes, { mode: 0o600 });
      count += 1;
    }
    return count;
  }
} catch (error) {
  if (!(error instanceof StartProblem || error instanceof Problem)) throw error;
  const detail = error instanceof Problem ? error.extras.detail : undefined;
  process.stderr.write(`${error.message}${detail ? `: ${detail}` : ""}\n`);
  process.exitCode = 1;
}

function filesIn(folder: string): Folder {
  const files = readdirSync(folder, { recursive: true, withFileTypes: true }).filter((entry) => entry.isFile());
  const paths = files.map((entry) => relative(folder, join(entry.parentPath, entry.name)).split(sep).join("/"));
  return { paths, read: async (path) => readFileSync(join(folder, ...path.split("/"))) };
}
