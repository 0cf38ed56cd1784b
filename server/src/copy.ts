import { resolve } from "node:path";
import { backUp, type Counts, restore } from "./database/copies.ts";
import { StartProblem } from "./database/lock.ts";

/** `npm run backup [FILE]` and `npm run restore FILE`. */
const root = resolve(import.meta.dirname, "..", "..");
const file = resolve(root, process.env.HOUND_DB ?? "data/hound.sqlite");
const [what, given] = process.argv.slice(2);
const now = new Date();
const words = ({ jobs, readings, circuits }: Counts) => `${jobs} jobs, ${readings} readings, ${circuits} circuits`;

try {
  if (what === "backup") {
    const to = resolve(given ?? `${file}.backup-${now.toISOString().replace(/[:.]/g, "-")}`);
    process.stdout.write(`Saved ${words(backUp(file, to))} to ${to}\n`);
  } else {
    if (!given) throw new StartProblem("Which backup? npm run restore FILE");
    const { counts, kept } = restore(resolve(given), file, now);
    process.stdout.write(
      `Restored ${words(counts)} to ${file}\n${kept ? `What was there before is kept in ${kept}\n` : ""}`,
    );
  }
} catch (error) {
  if (!(error instanceof StartProblem)) throw error;
  process.stderr.write(`${error.message}\n`);
  process.exitCode = 1;
}
