import { mkdtempSync, rmSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import Database from "better-sqlite3";
import type { RequestHandler } from "express";
import type { Knex } from "knex";
import type { Tell, WorkInHand } from "./work.ts";

/** `/api/backup`: a consistent copy of the whole database, to be saved where the browser saves things. */
export function backupDownload(db: Knex, now: () => Date, work: WorkInHand): RequestHandler {
  return async (request, response, next) => {
    const tell = work.begin(request, response);
    const folder = mkdtempSync(join(tmpdir(), "hound-backup-"));
    const clean = () => rmSync(folder, { recursive: true, force: true });
    let isGone = false;
    response.on("close", () => {
      isGone = true;
    });
    try {
      const copy = join(folder, "copy.sqlite");
      await copied((db.client.config.connection as { filename: string }).filename, copy, tell, () => isGone);
      response.download(copy, `clever-hound-${now().toISOString().slice(0, 10)}.sqlite`, (error) => {
        clean();
        if (error && !response.headersSent) next(error);
      });
    } catch (error) {
      clean();
      if (!isGone) next(error);
    }
  };
}

/** Pages copied between two looks at what else there is to do. */
const PAGES = 500;

/** Copies a database that is written meanwhile, in small steps; given up where nobody waits. */
async function copied(file: string, to: string, tell: Tell, isGone: () => boolean) {
  const source = new Database(file, { readonly: true, fileMustExist: true });
  try {
    await source.backup(to, {
      progress: ({ totalPages, remainingPages }) => {
        tell(totalPages - remainingPages, totalPages);
        if (isGone()) throw new Error("nobody waits for the copy");
        return PAGES;
      },
    });
  } finally {
    source.close();
  }
  // One file by itself: no log beside it.
  const copy = new Database(to);
  copy.pragma("journal_mode = DELETE");
  copy.close();
}
