import { readFileSync, rmSync, writeFileSync } from "node:fs";
import Database from "better-sqlite3";

/** Something that keeps the server from starting: said in one sentence, with what to do. */
export class StartProblem extends Error {}

/**
 * Holds a database for one process, until it ends however it ends: the lock is the operating system's, on a file beside
 * the database. A file with the process's number tells others who it is.
 * @returns what gives it back
 * @throws StartProblem where another process has it
 */
export function lockDatabase(file: string): () => void {
  const lock = new Database(`${file}.lock`, { timeout: 0 });
  const who = `${file}.pid`;
  try {
    lock.exec("BEGIN EXCLUSIVE");
  } catch (error) {
    lock.close();
    if ((error as { code?: string }).code !== "SQLITE_BUSY") throw error;
    throw new StartProblem(
      `Another process (number ${numberIn(who)}) has the database ${file} open. Stop it, or give this one a file of its own with HOUND_DB.`,
    );
  }
  writeFileSync(who, `${process.pid}\n`, { mode: 0o600 });
  return () => {
    rmSync(who, { force: true });
    lock.close();
  };
}

function numberIn(file: string): string {
  try {
    return readFileSync(file, "utf8").trim() || "unknown";
  } catch {
    return "unknown";
  }
}
