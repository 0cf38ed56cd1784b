import type { Knex } from "knex";
import { z } from "zod";
import { jsonOf } from "../database/json.ts";

/** Rows of the workshop's that are one value each, kept as JSON with the version of its shape. */
export class WorkshopValue<T> {
  /** The shape of its row. */
  readonly stored: z.ZodType<{ version: 1; value: T }>;

  constructor(
    private readonly db: Knex,
    private readonly key: string,
    private readonly shape: z.ZodType<T>,
    private readonly empty: T,
  ) {
    this.stored = z.object({ version: z.literal(1), value: shape });
  }

  async read(): Promise<T> {
    const row = await this.db("workshop").where({ key: this.key }).first();
    const stored = this.stored.safeParse(jsonOf(row?.data ?? ""));
    return stored.success ? stored.data.value : this.empty;
  }

  async write(value: T): Promise<T> {
    const data = JSON.stringify({ version: 1, value: this.shape.parse(value) });
    await this.db("workshop").insert({ key: this.key, data }).onConflict("key").merge();
    return value;
  }
}
