import { statfsSync } from "node:fs";
import { dirname } from "node:path";
import type { RequestHandler } from "express";
import type { Knex } from "knex";

export interface Health {
  readonly status: "ok" | "failing";
  /** Whether the database can be read and written just now, or what keeps it from that. */
  readonly database: string;
  readonly diskFreeBytes: number | null;
  /** Changes since the start that could not be made by a fault of ours, and when the last one was. */
  readonly writeFailures: number;
  readonly lastWriteFailure: string | null;
}

/** Counts changes that were answered with a fault of the server. */
export class WriteFailures {
  constructor(private readonly now: () => Date) {}

  count = 0;
  last: Date | null = null;

  readonly watch: RequestHandler = (request, response, next) => {
    if (request.method !== "GET" && request.method !== "HEAD")
      response.on("finish", () => {
        if (response.statusCode < 500) return;
        this.count += 1;
        this.last = this.now();
      });
    next();
  };
}

/** Below this a day's work may not fit. */
const LITTLE = 20_000_000;

/** Tries what a save would need, changing nothing. */
export async function healthOf(db: Knex, failures: WriteFailures): Promise<Health> {
  const { filename } = (db.client.config.connection ?? {}) as { filename?: string };
  const diskFreeBytes = filename ? freeAt(dirname(filename)) : null;
  let database = "ok";
  try {
    // In a transaction of its own: there is one connection, and what others write must not fall into this.
    await db.transaction(async (trx) => {
      // Asks for the right to write, as a save does.
      await trx.raw("UPDATE jobs SET revision = revision WHERE 0");
    });
  } catch (error) {
    database = (error as { code?: string }).code ?? (error as Error).message;
  }
  const isWell = database === "ok" && (diskFreeBytes === null || diskFreeBytes > LITTLE);
  return {
    status: isWell ? "ok" : "failing",
    database,
    diskFreeBytes,
    writeFailures: failures.count,
    lastWriteFailure: failures.last?.toISOString() ?? null,
  };
}

function freeAt(folder: string): number | null {
  try {
    const { bavail, bsize } = statfsSync(folder);
    return bavail * bsize;
  } catch {
    return null;
  }
}
