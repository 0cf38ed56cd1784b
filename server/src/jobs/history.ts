import { HistoryEntry, JOB_FIELDS } from "@hound/core/record";
import type { Knex } from "knex";
import { z } from "zod";
import { type CircuitRow, type JobFields, type ReadingRow, readingOf } from "./rows.ts";

const Stored = z.object({ version: z.literal(1), entry: z.unknown() });

type WithoutTime<T> = T extends unknown ? Omit<T, "at"> : never;
export type Happened = WithoutTime<HistoryEntry>;

/** What was done to jobs, in order; entries are only added. Versions of the circuit are kept by themselves. */
export class History {
  constructor(
    private readonly db: Knex,
    private readonly who: string | null = null,
  ) {}

  async add(jobId: string, entry: Happened, at: string) {
    const own = this.who === null ? entry : { ...entry, who: this.who };
    const data = JSON.stringify({ version: 1, entry: own });
    await this.db("history").insert({ job_id: jobId, data, created_at: at });
  }

  /** An entry for each field that differs. */
  async addFields(jobId: string, before: JobFields, after: JobFields, at: string) {
    for (const field of JOB_FIELDS) {
      const entry = { what: "field", field, before: before[field], after: after[field] } as const;
      if (JSON.stringify(entry.before) !== JSON.stringify(entry.after)) await this.add(jobId, entry, at);
    }
  }

  /** The newest `limit` entries, versions of the circuit and readings taken among them, and how many there are. */
  async of(jobId: string, limit: number): Promise<{ entries: HistoryEntry[]; total: number }> {
    const rows = await this.db("history").where({ job_id: jobId }).orderBy("id", "desc");
    const done = rows.flatMap((row) => entryOf(row.data, row.created_at));
    const circuits = (await this.db<CircuitRow>("circuits")
      .select("revision", "created_at", "who")
      .where({ job_id: jobId })
      .where("revision", ">", 0)
      .orderBy("revision", "desc")) as Pick<CircuitRow, "revision" | "created_at" | "who">[];
    const readings = await this.db<ReadingRow>("readings").where({ job_id: jobId }).orderBy("place", "desc");
    const pictures = await this.db("pictures")
      .select<PictureRow[]>("id", "name", "caption", "turns", "who", "created_at", "deleted_at")
      .where({ job_id: jobId })
      .orderBy("created_at", "desc");
    // What was done last among equals comes first.
    const entries = [
      ...done,
      ...circuits.map(
        ({ revision, created_at: at, who }): HistoryEntry => ({ what: "circuit", at, revision, ...saidBy(who) }),
      ),
      ...readings.flatMap((row) => takenOf(row, done)),
      ...pictures.flatMap(picturedOf),
    ].sort((x, y) => (x.at < y.at ? 1 : x.at > y.at ? -1 : 0));
    return { entries: entries.slice(0, limit), total: entries.length };
  }

  async notesOf(jobId: string): Promise<string[]> {
    const rows = await this.db("history").where({ job_id: jobId }).where("data", "like", '%"what":"note"%');
    return rows.flatMap((row) => entryOf(row.data, row.created_at)).flatMap((e) => (e.what === "note" ? [e.text] : []));
  }

  async hasNote(jobId: string, id: string): Promise<boolean> {
    const rows = await this.db("history").where({ job_id: jobId }).where("data", "like", `%${id}%`);
    return rows.flatMap((row) => entryOf(row.data, row.created_at)).some((e) => e.what === "note" && e.id === id);
  }
}

const saidBy = (who: string | null | undefined) => (who ? { who } : {});

/** That a reading was taken, as it was at first. */
function takenOf(row: ReadingRow, done: readonly HistoryEntry[]): HistoryEntry[] {
  const { id, created_at: at } = row;
  const first = done.findLast((e) => e.what === "reading" && e.id === id && e.done === "corrected");
  const now = readingOf(row)?.reading ?? null;
  const after = first?.what === "reading" ? first.before : now;
  return [{ what: "reading", at, id, done: "taken", before: null, after, ...saidBy(after?.who) }];
}

interface PictureRow {
  readonly id: string;
  readonly name: string;
  readonly caption: string;
  readonly turns: number;
  readonly who: string | null;
  readonly created_at: string;
  readonly deleted_at: string | null;
}

/** That a photograph was added, and that it was deleted where it is. */
function picturedOf({ id, name, caption, turns, who, created_at, deleted_at }: PictureRow): HistoryEntry[] {
  const shared = { what: "picture", id, text: caption || name, turns: Number.isInteger(turns) ? turns : 0 } as const;
  const added: HistoryEntry = { ...shared, at: created_at, done: "added", ...saidBy(who) };
  return deleted_at === null ? [added] : [{ ...shared, at: deleted_at, done: "deleted" }, added];
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
