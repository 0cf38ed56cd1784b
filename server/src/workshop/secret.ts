import type { Knex } from "knex";
import { newSecret } from "../http/pairing.ts";

/** Key of this server's own secret among the workshop's rows: it stays when a backup is put back. */
export const SECRET = "pairing-secret";

/** What this database's server signs cookies with; made the first time it is asked for. */
export async function secretOf(db: Knex): Promise<string> {
  await db("workshop")
    .insert({ key: SECRET, data: JSON.stringify(newSecret()) })
    .onConflict("key")
    .ignore();
  const row = await db("workshop").where({ key: SECRET }).first("data");
  return JSON.parse(row.data) as string;
}
