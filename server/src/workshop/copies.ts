import { existsSync, mkdtempSync, readdirSync, rmSync, statSync } from "node:fs";
import { tmpdir } from "node:os";
import { basename, dirname, join } from "node:path";
import { CopyList, Restored } from "@hound/core/record";
import type { Request, RequestHandler } from "express";
import type { Knex } from "knex";
import { z } from "zod";
import { checkCopy } from "../database/copies.ts";
import { dailyFolder } from "../database/daily.ts";
import { StartProblem } from "../database/lock.ts";
import { replaceContents } from "../database/replace.ts";
import { receive } from "../http/receive.ts";
import { type Route, route } from "../http/route.ts";
import { rebuildLogbook } from "../jobs/rebuild.ts";
import { LINK } from "../meter/routes.ts";
import { Problem } from "../problems.ts";
import { forgetOldSecret } from "./secret.ts";

/** The largest file that is taken for a backup. */
const MOST_BYTES = 1_000_000_000;

const fileOf = (db: Knex) => (db.client.config.connection as { filename: string }).filename;

/** Copies beside the database: the daily ones, those from before a new version, and what was replaced. */
function copiesOf(file: string): { name: string; bytes: number; at: string }[] {
  const beside = (folder: string, wanted: RegExp) =>
    existsSync(folder) ? readdirSync(folder).flatMap((n) => (wanted.test(n) ? [join(folder, n)] : [])) : [];
  const own = basename(file).replace(/[.*+?^${}()|[\]\\]/g, "\\$&");
  const found = [
    ...beside(dailyFolder(file), /^\d{4}-\d\d-\d\d\.sqlite$/),
    ...beside(dirname(file), new RegExp(`^${own}\\.(?:before|replaced|backup)-.*(?<!\\.sha256|-wal|-shm)$`)),
  ];
  return found
    .map((path) => ({ path, stat: statSync(path) }))
    .sort((a, b) => b.stat.mtimeMs - a.stat.mtimeMs)
    .map(({ path, stat }) => ({
      name: path.slice(dirname(file).length + 1),
      bytes: stat.size,
      at: stat.mtime.toISOString(),
    }));
}

/** `/api/copies`: what can be put back, and putting it back. */
export function copyRoutes(db: Knex, now: () => Date, onReplaced: () => void): Route[] {
  return [
    route(
      { method: "get", path: "/copies", summary: "Copies of the database beside it", answer: CopyList },
      async () => {
        const [{ n }] = (await db("apart").count("* as n")) as unknown as [{ n: number }];
        return { copies: copiesOf(fileOf(db)), apart: Number(n) };
      },
    ),
    route(
      {
        method: "post",
        path: "/copies/restore",
        summary: "Put a copy in the place of what is there; that is kept",
        body: z.strictObject({ name: z.string().max(300) }),
        answer: Restored,
      },
      async ({ body: { name } }) => {
        const file = fileOf(db);
        if (!copiesOf(file).some((c) => c.name === name)) throw new Problem("copy-not-found");
        return putBack(db, join(dirname(file), name), name, now, onReplaced);
      },
    ),
  ];
}

/** `/api/restore`: a backup sent as a file. */
export function restoreUpload(db: Knex, now: () => Date, onReplaced: () => void): RequestHandler {
  return async (request, response, next) => {
    const folder = mkdtempSync(join(tmpdir(), "hound-restore-"));
    try {
      const file = join(folder, "sent.sqlite");
      await receive(request, file, MOST_BYTES);
      response.json(await putBack(db, file, nameIn(request), now, onReplaced));
    } catch (error) {
      next(error);
    } finally {
      rmSync(folder, { recursive: true, force: true });
    }
  };
}

const nameIn = (request: Request) => String(request.query.name ?? "This file").slice(0, 200);

async function putBack(db: Knex, from: string, name: string, now: () => Date, onReplaced: () => void) {
  try {
    checkCopy(from, name);
    const { counts, kept } = await replaceContents(db, from, now(), { workshop: [LINK] });
    await forgetOldSecret(db);
    await rebuildLogbook(db);
    onReplaced();
    return { counts, kept: basename(kept) };
  } catch (error) {
    if (error instanceof StartProblem) throw new Problem("no-backup", { detail: error.message });
    throw error;
  }
}
