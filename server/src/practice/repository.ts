import { Burnt, HiddenFault, Hunt } from "@hound/core/practice";
import { Meter, Situation } from "@hound/core/record";
import type { Knex } from "knex";
import { z } from "zod";
import { jsonOf } from "../database/json.ts";

/** What is hidden in a hunt: it never leaves the server before the hunt is over. */
export const Hidden = z.strictObject({
  faults: z.array(HiddenFault),
  seed: z.number(),
  situation: Situation,
  burnt: Burnt,
});
export type Hidden = z.infer<typeof Hidden>;

/** What is kept of a hunt beside its job. */
const Kept = Hunt.omit({ truth: true }).extend({ meter: Meter, trail: z.string(), partCount: z.number().int() });
export type Kept = z.infer<typeof Kept>;

export interface StoredHunt {
  readonly hidden: Hidden;
  readonly kept: Kept;
}

interface Row {
  job_id: string;
  hidden: string;
  data: string;
  created_at: string;
}

/** Hunts: a row each beside the job that holds its circuit and readings. One that a bad disk damaged is as if it was not there. */
export class HuntRepository {
  constructor(private readonly db: Knex) {}

  async list(limit: number): Promise<{ hunts: StoredHunt[]; total: number }> {
    const counted = await this.db("hunts").count<{ n: number }[]>("* as n");
    const rows = await this.db<Row>("hunts").orderBy("created_at", "desc").limit(limit);
    return { hunts: rows.flatMap((row) => storedIn(row) ?? []), total: Number(counted[0].n) };
  }

  async find(id: string): Promise<StoredHunt | null> {
    const row = await this.db<Row>("hunts").where({ job_id: id }).first();
    return row ? storedIn(row) : null;
  }

  async create({ hidden, kept }: StoredHunt) {
    const data = { hidden: JSON.stringify(hidden), data: JSON.stringify(kept) };
    await this.db("hunts").insert({ job_id: kept.id, ...data, created_at: kept.createdAt });
  }

  async update({ hidden, kept }: StoredHunt) {
    await this.db("hunts")
      .where({ job_id: kept.id })
      .update({ hidden: JSON.stringify(hidden), data: JSON.stringify(kept) });
  }

  /** Takes a hunt away for good, with its job. */
  async remove(id: string) {
    await this.db("jobs").where({ id }).del();
  }
}

function storedIn(row: Row): StoredHunt | null {
  const [hidden, kept] = [Hidden.safeParse(jsonOf(row.hidden)), Kept.safeParse(jsonOf(row.data))];
  return hidden.success && kept.success && kept.data.id === row.job_id
    ? { hidden: hidden.data, kept: kept.data }
    : null;
}

/** Whether a job is one that is practised on. */
export async function isHunt(db: Knex, id: string): Promise<boolean> {
  return (await db("hunts").where({ job_id: id }).first("job_id")) !== undefined;
}

/** The jobs that are work: all but those that are practised on. */
export function workJobs(db: Knex): Knex.QueryBuilder {
  return db("jobs").whereNotIn("jobs.id", db("hunts").select("job_id"));
}
