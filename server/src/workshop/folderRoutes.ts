import { writeCase } from "@hound/core/notation";
import express, { type RequestHandler, type Response } from "express";
import { strToU8, unzip, zip } from "fflate";
import type { Knex } from "knex";
import { z } from "zod";
import type { JobService } from "../jobs/service.ts";
import { Problem } from "../problems.ts";
import { bringIn, type FolderFile, folderOf, numbered } from "./folder.ts";

/** The largest folder that is taken as one file, in bytes, packed and unpacked. */
const MOST_PACKED = 500_000_000;
const MOST_UNPACKED = 2_000_000_000;

/** `GET /api/workshop.zip`: the whole workshop as a folder of open files. */
export function folderDownload(db: Knex, now: () => Date): RequestHandler {
  return async (_request, response) => {
    const files: Record<string, Uint8Array> = {};
    for await (const { path, bytes } of folderOf(db)) files[path] = bytes;
    await sendPacked(response, files, `clever-hound-workshop-${now().toISOString().slice(0, 10)}.zip`);
  };
}

const Jobs = z.object({ job: z.union([z.uuid(), z.array(z.uuid()).max(200)]) });

/** `GET /api/cases.zip?job=…&job=…`: the case files of several jobs. */
export function casesDownload(jobs: JobService, now: () => Date): RequestHandler {
  return async (request, response) => {
    const query = Jobs.safeParse(request.query);
    if (!query.success) throw new Problem("invalid-input", { detail: "name up to 200 jobs" });
    const files: Record<string, Uint8Array> = {};
    for (const [n, id] of [query.data.job].flat().entries()) {
      const file = await jobs.exportCase(id);
      files[`${numbered(n, file.title)}.json`] = strToU8(writeCase(file));
    }
    await sendPacked(response, files, `clever-hound-cases-${now().toISOString().slice(0, 10)}.zip`);
  };
}

async function sendPacked(response: Response, files: Record<string, Uint8Array>, name: string) {
  const packed = await new Promise<Uint8Array>((done, fail) =>
    zip(files, { level: 6 }, (error, data) => (error ? fail(error) : done(data))),
  );
  response
    .attachment(name)
    .type("application/zip")
    .send(Buffer.from(packed.buffer, packed.byteOffset, packed.byteLength));
}

/** What a folder that is sent comes as. */
export const rawFolder: RequestHandler = express.raw({ type: () => true, limit: MOST_PACKED });

/** `POST /api/workshop`: such a folder, packed, brought into an empty workshop. */
export function folderUpload(db: Knex, onBrought: () => void): RequestHandler {
  return async (request, response) => {
    if (!Buffer.isBuffer(request.body)) throw new Problem("invalid-input");
    const found = await bringIn(db, await unpacked(request.body));
    onBrought();
    response.json(found);
  };
}

async function unpacked(bytes: Uint8Array): Promise<FolderFile[]> {
  let total = 0;
  const files = await new Promise<Record<string, Uint8Array>>((done, fail) =>
    unzip(
      bytes,
      {
        filter: ({ originalSize }) => {
          total += originalSize;
          return total <= MOST_UNPACKED;
        },
      },
      (error, data) => (error ? fail(error) : done(data)),
    ),
  ).catch(() => {
    throw new Problem("no-workshop", { detail: "it is no zip file" });
  });
  if (total > MOST_UNPACKED) throw new Problem("too-large", { detail: "it holds more than 2 GB" });
  return Object.entries(files).map(([path, content]) => ({ path, bytes: content }));
}
