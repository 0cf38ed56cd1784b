import type { Knex } from "knex";
import { newSecret } from "../http/pairing.ts";

const KEY = "pairing-secret";

/** What this database's server signs cookies with; made the first time it is asked for. */
export async function secretOf(db: Knex): Promise<string> {
  await db("workshop")
    .insert({ key: KEY, data: JSON.stringify(newSecret()) })
    .onConflict("key")
    .ignore();
  const row = await db("workshop").where({ key: KEY }).first("data");
  return JSON.parse(row.data) as string;
}
