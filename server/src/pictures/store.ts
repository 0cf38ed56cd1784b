import { createHash, randomUUID } from "node:crypto";
import { clipped, type Picture, type PictureChange, PictureWords } from "@hound/core/record";
import type { Knex } from "knex";
import { Problem } from "../problems.ts";

/** Longest side of what is kept, and of the small one in lists, in pixels; quality of the JPEG. */
const LARGEST = 2000;
const SMALL = 320;
const QUALITY = 82;
/** A picture of more pixels than this is no photograph of a circuit: it would fill the memory. */
const MOST_PIXELS = 100_000_000;

interface Row {
  id: string;
  job_id: string;
  name: string;
  width: number;
  height: number;
  data: Buffer;
  small: Buffer;
  who: string | null;
  created_at: string;
  deleted_at: string | null;
  sum: string;
  caption: string;
  turns: number;
  in_report: number | boolean;
}

/** What is told of a picture without its bytes. */
const TOLD = [
  "id",
  "name",
  "width",
  "height",
  "who",
  "created_at",
  "deleted_at",
  "caption",
  "turns",
  "in_report",
] as const;

/** Pictures of jobs: made anew as JPEG, so that nothing but the picture is kept (no place, no camera, no program). */
export class PictureStore {
  constructor(private readonly db: Knex) {}

  async list(jobId: string, isDeleted = false): Promise<Picture[]> {
    const query = this.db<Row>("pictures")
      .where({ job_id: jobId })
      .select(...TOLD, this.db.raw("length(data) AS bytes"))
      .orderBy("created_at");
    if (isDeleted) query.whereNotNull("deleted_at");
    else query.whereNull("deleted_at");
    const rows = (await query) as unknown as (Row & { bytes: number })[];
    return rows.map((row) => {
      const { id, name, width, height, bytes, who, created_at: createdAt, deleted_at: deletedAt } = row;
      return { id, name, width, height, bytes, who, createdAt, deletedAt, ...wordsOf(row) };
    });
  }

  /** Keeps a picture that was sent. The same id twice is the same picture. @throws Problem where it is none */
  async add(
    jobId: string,
    sent: { readonly id?: string; readonly name: string; readonly bytes: Buffer; readonly who: string | null },
    at: string,
  ): Promise<string> {
    const { id = randomUUID(), name, bytes, who } = sent;
    if (await this.db("pictures").where({ id }).first("id")) return id;
    const { data, small, width, height } = await remade(bytes);
    const row = { id, job_id: jobId, name: clipped(name, 200), width, height, data, small, who };
    await this.db("pictures").insert({ ...row, created_at: at, deleted_at: null, sum: sumOf(data) });
    return id;
  }

  /**
   * The bytes of one; null where there is none, or its bytes are not what was kept.
   * @param turns quarter turns clockwise
   */
  async bytes(jobId: string, id: string, isSmall: boolean, turns = 0): Promise<Buffer | null> {
    const row = await this.db<Row>("pictures").where({ id, job_id: jobId }).first();
    if (!row || (!isSmall && row.sum !== sumOf(row.data))) return null;
    const bytes = isSmall ? row.small : row.data;
    if (turns === 0) return bytes;
    const sharp = await loadSharp();
    return sharp(bytes)
      .rotate(90 * turns)
      .jpeg({ quality: QUALITY })
      .toBuffer();
  }

  /** @returns whether there is such a picture */
  async change(jobId: string, id: string, { caption, turns, inReport }: PictureChange): Promise<boolean> {
    const change = {
      ...(caption === undefined ? {} : { caption }),
      ...(turns === undefined ? {} : { turns }),
      ...(inReport === undefined ? {} : { in_report: inReport }),
    };
    const row = this.db("pictures").where({ id, job_id: jobId });
    return Object.keys(change).length === 0 ? (await row.first("id")) !== undefined : (await row.update(change)) > 0;
  }

  async setDeleted(jobId: string, id: string, at: string | null): Promise<boolean> {
    return (await this.db("pictures").where({ id, job_id: jobId }).update({ deleted_at: at })) > 0;
  }
}

/** What was said of a picture; what a disk has damaged counts as not said. */
export function wordsOf({ caption, turns, in_report }: Pick<Row, "caption" | "turns" | "in_report">): PictureWords {
  const read = PictureWords.safeParse({ caption, turns, inReport: Boolean(in_report) });
  return read.success ? read.data : PictureWords.parse({});
}

/** It is a large library: a server that is asked for no picture starts without it. */
async function loadSharp() {
  return (await import("sharp")).default;
}

async function remade(bytes: Buffer) {
  const sharp = await loadSharp();
  const picture = sharp(bytes, { limitInputPixels: MOST_PIXELS, failOn: "error" });
  const format = (await picture.metadata().catch(() => null))?.format ?? null;
  if (format === null) throw new Problem("no-picture", { detail: "there is no picture in it, or it is cut short" });
  if (format !== "jpeg" && format !== "png" && format !== "webp")
    throw new Problem("no-picture", { detail: `it is ${format.toUpperCase()}` });
  try {
    const upright = picture.rotate().flatten({ background: "#ffffff" });
    const { data, info } = await upright
      .clone()
      .resize(LARGEST, LARGEST, { fit: "inside", withoutEnlargement: true })
      .jpeg({ quality: QUALITY })
      .toBuffer({ resolveWithObject: true });
    const small = await upright
      .clone()
      .resize(SMALL, SMALL, { fit: "inside", withoutEnlargement: true })
      .jpeg({ quality: QUALITY })
      .toBuffer();
    return { data, small, width: info.width, height: info.height };
  } catch {
    throw new Problem("no-picture", { detail: "it is damaged, or far too large" });
  }
}

function sumOf(data: Buffer): string {
  return createHash("sha256").update(data).digest("hex").slice(0, 32);
}
