import { existsSync, readdirSync, readFileSync, readlinkSync, realpathSync, rmSync, writeFileSync } from "node:fs";
import { basename, dirname, join } from "node:path";
import Database from "better-sqlite3";

/** Something that keeps the server from starting: said in one sentence, with what to do. */
export class StartProblem extends Error {}

/**
 * Holds a database for one process, until it ends however it ends: the lock is the operating system's, on a file beside
 * the database, by whatever link that is reached. A file with the process's number tells others who it is; who still has
 * the database open has it, though the lock was taken away.
 * @returns what gives it back
 * @throws StartProblem where another process has it
 */
export function lockDatabase(given: string): () => void {
  const file = existsSync(given) ? realpathSync(given) : join(realpathSync(dirname(given)), basename(given));
  const lock = new Database(`${file}.lock`, { timeout: 0 });
  const who = `${file}.pid`;
  const inUse = (pid: string) =>
    new StartProblem(
      `Another process (number ${pid}) has the database ${file} open. Stop it, or give this one a file of its own with HOUND_DB.`,
    );
  const before = numberIn(who);
  if (before !== String(process.pid) && hasOpen(before, file)) {
    lock.close();
    throw inUse(before);
  }
  try {
    lock.exec("BEGIN EXCLUSIVE");
  } catch (error) {
    lock.close();
    if ((error as { code?: string }).code !== "SQLITE_BUSY") throw error;
    throw inUse(numberIn(who));
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

/** Whether a process has a file open, where the system tells: Linux, proc(5). */
function hasOpen(pid: string, file: string): boolean {
  const folder = `/proc/${pid}/fd`;
  try {
    return readdirSync(folder).some((fd) => linkOf(join(folder, fd)) === file);
  } catch {
    return false;
  }
}

function linkOf(path: string): string {
  try {
    return readlinkSync(path);
  } catch {
    return "";
  }
}
