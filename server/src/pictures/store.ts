import { createHash, randomUUID } from "node:crypto";
import { clipped, type Picture } from "@hound/core/record";
import type { Knex } from "knex";
import sharp from "sharp";
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
}

/** Pictures of jobs: made anew as JPEG, so that nothing but the picture is kept (no place, no camera, no program). */
export class PictureStore {
  constructor(private readonly db: Knex) {}

  async list(jobId: string, isDeleted = false): Promise<Picture[]> {
    const query = this.db<Row>("pictures")
      .where({ job_id: jobId })
      .select("id", "name", "width", "height", "who", "created_at", "deleted_at", this.db.raw("length(data) AS bytes"))
      .orderBy("created_at");
    if (isDeleted) query.whereNotNull("deleted_at");
    else query.whereNull("deleted_at");
    const rows = (await query) as unknown as (Row & { bytes: number })[];
    return rows.map(({ id, name, width, height, bytes, who, created_at: createdAt, deleted_at: deletedAt }) => ({
      id,
      name,
      width,
      height,
      bytes,
      who,
      createdAt,
      deletedAt,
    }));
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

  /** The bytes of one; null where there is none, or its bytes are not what was kept. */
  async bytes(jobId: string, id: string, isSmall: boolean): Promise<Buffer | null> {
    const row = await this.db<Row>("pictures").where({ id, job_id: jobId }).first();
    if (!row) return null;
    if (isSmall) return row.small;
    return row.sum === sumOf(row.data) ? row.data : null;
  }

  async setDeleted(jobId: string, id: string, at: string | null): Promise<boolean> {
    return (await this.db("pictures").where({ id, job_id: jobId }).update({ deleted_at: at })) > 0;
  }
}

async function remade(bytes: Buffer) {
  try {
    const picture = sharp(bytes, { limitInputPixels: MOST_PIXELS, failOn: "error" });
    const { format } = await picture.metadata();
    if (format !== "jpeg" && format !== "png" && format !== "webp") throw new Error(`it is ${format}`);
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
  } catch (error) {
    throw new Problem("no-picture", { detail: (error as Error).message });
  }
}

function sumOf(data: Buffer): string {
  return createHash("sha256").update(data).digest("hex").slice(0, 32);
}
