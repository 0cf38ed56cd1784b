import { mkdtempSync, rmSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { writeCase } from "@hound/core/notation";
import type { RequestHandler } from "express";
import type { Knex } from "knex";
import { z } from "zod";
import { openDatabase } from "../database/open.ts";
import { takeOver } from "../database/replace.ts";
import { receive } from "../http/receive.ts";
import type { JobService } from "../jobs/service.ts";
import { Problem } from "../problems.ts";
import type { Reader } from "../threads/threads.ts";
import { type Brought, bringIn, folderOf, hasJobs, numbered, PATHS } from "./folder.ts";
import type { WorkInHand } from "./work.ts";
import { sendZip, withZip, type ZipLimits } from "./zip.ts";

/** The largest folder that is taken as one file, in bytes, packed. */
const MOST_PACKED = 500_000_000;
const LIMITS: ZipLimits = {
  known: PATHS,
  mostFiles: 200_000,
  mostOfOne: 100_000_000,
  mostOfAll: 2_000_000_000,
};

/** `GET /api/workshop.zip`: the whole workshop as a folder of open files. */
export function folderDownload(db: Knex, now: () => Date, work: WorkInHand): RequestHandler {
  return (request, response) =>
    sendZip(
      response,
      folderOf(db, work.begin(request, response)),
      `clever-hound-workshop-${now().toISOString().slice(0, 10)}.zip`,
    );
}

const Jobs = z.object({ job: z.union([z.uuid(), z.array(z.uuid()).max(200)]) });

/** `GET /api/cases.zip?job=…&job=…`: the case files of several jobs. */
export function casesDownload(jobs: JobService, now: () => Date): RequestHandler {
  return async (request, response) => {
    const query = Jobs.safeParse(request.query);
    if (!query.success) throw new Problem("invalid-input", { detail: "name up to 200 jobs" });
    // All are there before the first byte goes out: a job that is not is said so.
    const cases = [];
    for (const id of [query.data.job].flat()) cases.push(await jobs.exportCase(id));
    const files = cases.map((file, n) => ({
      path: `${numbered(n, file.title)}.json`,
      bytes: new TextEncoder().encode(writeCase(file)),
    }));
    await sendZip(response, files, `clever-hound-cases-${now().toISOString().slice(0, 10)}.zip`);
  };
}

/** `POST /api/workshop`: such a folder, packed, brought into an empty workshop. It ends when the sender leaves. */
export function folderUpload(db: Knex, reader: Reader, onBrought: () => void, work: WorkInHand): RequestHandler {
  return async (request, response) => {
    const gone = new AbortController();
    response.on("close", () => gone.abort());
    const tell = work.begin(request, response);
    const folder = mkdtempSync(join(tmpdir(), "hound-import-"));
    try {
      const file = join(folder, "sent.zip");
      await receive(request, file, MOST_PACKED);
      const found = await withZip(file, LIMITS, gone.signal, (sent) =>
        brought(db, join(folder, "fresh.sqlite"), (own) => bringIn(own, sent, reader, tell, gone.signal)),
      );
      onBrought();
      response.json(found);
    } catch (error) {
      // Nobody waits for an answer any more.
      if (!gone.signal.aborted) throw error;
    } finally {
      rmSync(folder, { recursive: true, force: true });
    }
  };
}

/**
 * Fills a copy of an empty workshop, and takes that over at once where nobody has written anything meanwhile: while it is
 * being filled, everything else goes on.
 */
async function brought(db: Knex, copy: string, fill: (own: Knex) => Promise<Brought>): Promise<Brought> {
  if (await hasJobs(db)) throw new Problem("not-empty");
  const changes = await changesOf(db);
  await db.raw("VACUUM INTO ?", [copy]);
  const own = await openDatabase(copy);
  const found = await fill(own).finally(() => own.destroy());
  const isDone = await takeOver(db, copy, {}, (connection) => {
    const [{ n }] = connection.prepare("SELECT total_changes() AS n").all() as { n: number }[];
    return n === changes;
  });
  if (!isDone) throw new Problem("changed-meanwhile");
  return found;
}

/** Rows written by this process so far: it alone writes. */
async function changesOf(db: Knex): Promise<number> {
  const [{ n }] = (await db.raw("SELECT total_changes() AS n")) as { n: number }[];
  return n;
}
