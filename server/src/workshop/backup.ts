import { mkdtempSync, rmSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import type { RequestHandler } from "express";
import type { Knex } from "knex";

/** `/api/backup`: a consistent copy of the whole database, to be saved where the browser saves things. */
export function backupDownload(db: Knex, now: () => Date): RequestHandler {
  return async (_request, response, next) => {
    const folder = mkdtempSync(join(tmpdir(), "hound-backup-"));
    const clean = () => rmSync(folder, { recursive: true, force: true });
    try {
      const copy = join(folder, "copy.sqlite");
      await db.raw("VACUUM INTO ?", [copy]);
      response.download(copy, `clever-hound-${now().toISOString().slice(0, 10)}.sqlite`, (error) => {
        clean();
        if (error && !response.headersSent) next(error);
      });
    } catch (error) {
      clean();
      next(error);
    }
  };
}
