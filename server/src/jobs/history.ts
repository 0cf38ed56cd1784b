import { HistoryEntry, JOB_FIELDS } from "@hound/core/record";
import type { Knex } from "knex";
import { z } from "zod";
import type { JobFields } from "./rows.ts";

const Stored = z.object({ version: z.literal(1), entry: z.unknown() });

type WithoutTime<T> = T extends unknown ? Omit<T, "at"> : never;
export type Happened = WithoutTime<HistoryEntry>;

/** What was done to jobs, in order; entries are only added. Versions of the circuit are kept by themselves. */
export class History {
  constructor(private readonly db: Knex) {}

  async add(jobId: string, entry: Happened, at: string) {
    const data = JSON.stringify({ version: 1, entry });
    await this.db("history").insert({ job_id: jobId, data, created_at: at });
  }

  /** An entry for each field that differs. */
  async addFields(jobId: string, before: JobFields, after: JobFields, at: string) {
    for (const field of JOB_FIELDS) {
      const entry = { what: "field", field, before: before[field], after: after[field] } as const;
      if (JSON.stringify(entry.before) !== JSON.stringify(entry.after)) await this.add(jobId, entry, at);
    }
  }

  /** The newest `limit` entries, versions of the circuit among them, and how many there are. */
  async of(jobId: string, limit: number): Promise<{ entries: HistoryEntry[]; total: number }> {
    const rows = await this.db("history").where({ job_id: jobId }).orderBy("id", "desc").limit(limit);
    const circuits = await this.db("circuits")
      .select("revision", "created_at")
      .where({ job_id: jobId })
      .where("revision", ">", 0)
      .orderBy("revision", "desc")
      .limit(limit);
    const [a, b] = await Promise.all([
      this.db("history").where({ job_id: jobId }).count("* as n").first(),
      this.db("circuits").where({ job_id: jobId }).where("revision", ">", 0).count("* as n").first(),
    ]);
    const entries = [
      ...rows.flatMap((row) => entryOf(row.data, row.created_at)),
      ...circuits.map((c) => ({ what: "circuit" as const, at: String(c.created_at), revision: c.revision })),
    ].sort((x, y) => (x.at < y.at ? 1 : x.at > y.at ? -1 : 0));
    return { entries: entries.slice(0, limit), total: Number(a?.n ?? 0) + Number(b?.n ?? 0) };
  }
}

/** None where the row cannot be read any more: the others are still worth showing. */
function entryOf(data: string, at: string): HistoryEntry[] {
  try {
    const { entry } = Stored.parse(JSON.parse(data));
    return [HistoryEntry.parse({ ...(entry as object), at })];
  } catch {
    return [];
  }
}
