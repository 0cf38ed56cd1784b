import type { Knex } from "knex";
import { jsonOf } from "../database/json.ts";
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
  const secret: unknown = jsonOf(row.data);
  if (typeof secret === "string") return secret;
  // What is no secret lets nobody in: all pair anew.
  await db("workshop").where({ key: SECRET }).delete();
  return secretOf(db);
}
