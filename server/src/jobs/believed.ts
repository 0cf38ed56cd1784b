import { type Believed, Priors } from "@hound/core/record";
import type { Knex } from "knex";
import { jsonOf } from "../database/json.ts";
import { habitsFor } from "../logbook/habits.ts";

/** The habits that counted for a job at each of its changes: what was said of it then is said again from these. */
export class BelievedStore {
  constructor(private readonly db: Knex) {}

  /**
   * Keeps what closed jobs teach now, where it is something else than before.
   * @param circuit key of the job's circuit
   * @param at ISO 8601
   */
  async keep(jobId: string, circuit: string, at: string) {
    const habits = JSON.stringify((await habitsFor(this.db, circuit)) ?? {});
    const last = await this.db<Row>("believed").where({ job_id: jobId }).orderBy("n", "desc").first("habits");
    if (last?.habits !== habits) await this.db("believed").insert({ job_id: jobId, at, habits });
  }

  /** Oldest first; a row that cannot be read any more is left out. Before the first nothing was kept. */
  async of(jobId: string): Promise<Believed["believed"]> {
    const rows = await this.db<Row>("believed").where({ job_id: jobId }).orderBy("n");
    return rows.flatMap(({ at, habits }) => {
      const read = Priors.safeParse(jsonOf(habits));
      return read.success ? [{ at, habits: read.data }] : [];
    });
  }
}

interface Row {
  readonly n: number;
  readonly job_id: string;
  readonly at: string;
  readonly habits: string;
}
