import { LibraryCircuit, type LibrarySummary } from "@hound/core/record";
import type { Knex } from "knex";
import { DAMAGED, sumOf } from "../database/sums.ts";

interface Row {
  id: string;
  name: string;
  notes: string;
  revision: number;
  updated_at: string;
  deleted_at: string | null;
  part_count: number;
  job_count: number;
}

interface RevisionRow {
  library_id: string;
  revision: number;
  trail: string;
  created_at: string;
  sum: string | null;
}

/** Circuits kept by name, with their revisions. */
export class LibraryRepository {
  constructor(private readonly db: Knex) {}

  async list(search: string, deleted: boolean, limit: number): Promise<{ circuits: LibrarySummary[]; total: number }> {
    const query = this.rows().orderBy("name");
    if (deleted) query.whereNotNull("deleted_at");
    else query.whereNull("deleted_at");
    for (const word of search.split(/\s+/).filter((w) => w !== "")) {
      const like = `%${word.replace(/[\\%_]/g, "\\$&")}%`;
      query.where((q) => q.whereRaw("name like ? escape '\\'", [like]).orWhereRaw("notes like ? escape '\\'", [like]));
    }
    const counted = await this.db.count("* as total").from(query.clone().clearOrder().as("found")).first();
    const circuits = ((await query.limit(limit)) as unknown as Row[]).map(summaryOf);
    return { circuits, total: Number(counted?.total ?? circuits.length) };
  }

  async find(id: string): Promise<LibraryCircuit | null> {
    const row = (await this.rows().where({ id }).first()) as unknown as Row | undefined;
    if (!row) return null;
    const revisions = await this.db<RevisionRow>("library_revisions")
      .where({ library_id: id })
      .orderBy("revision", "desc");
    const jobs = await this.db("jobs")
      .select("id", "title", "state")
      .where({ library_id: id })
      .whereNull("deleted_at")
      .orderBy("updated_at", "desc");
    return LibraryCircuit.parse({
      ...summaryOf(row),
      trail: (revisions.find(isWhole) ?? revisions[0])?.trail ?? "",
      revisions: revisions.map((r) => ({
        revision: r.revision,
        trail: isWhole(r) ? r.trail : DAMAGED + r.trail,
        createdAt: r.created_at,
      })),
      jobs,
    });
  }

  async create(id: string, fields: { name: string; notes: string }, at: string) {
    await this.db("library").insert({ id, ...fields, revision: 0, created_at: at, updated_at: at, deleted_at: null });
  }

  async update(id: string, fields: { name: string; notes: string; revision: number }, at: string) {
    await this.db("library")
      .where({ id })
      .update({ ...fields, updated_at: at });
  }

  async addRevision(id: string, circuit: { trail: string; partCount: number; revision: number }, at: string) {
    const { trail, partCount, revision } = circuit;
    const row = { library_id: id, revision, trail, created_at: at };
    await this.db("library_revisions").insert({ ...row, part_count: partCount, sum: sumOf.libraryRevision(row) });
  }

  async markDeleted(id: string, at: string | null) {
    await this.db("library").where({ id }).update({ deleted_at: at });
  }

  private rows() {
    return this.db<Row>("library").select(
      "id",
      "name",
      "notes",
      "revision",
      "updated_at",
      "deleted_at",
      this.db.raw(
        "(select part_count from library_revisions r where r.library_id = library.id order by r.revision desc limit 1) as part_count",
      ),
      this.db.raw(
        "(select count(*) from jobs j where j.library_id = library.id and j.deleted_at is null) as job_count",
      ),
    );
  }
}

const isWhole = (row: RevisionRow) => row.sum === sumOf.libraryRevision(row);

function summaryOf(row: Row): LibrarySummary {
  return {
    id: row.id,
    name: row.name,
    notes: row.notes,
    partCount: row.part_count,
    revision: row.revision,
    jobCount: row.job_count,
    updatedAt: row.updated_at,
    deletedAt: row.deleted_at,
  };
}
