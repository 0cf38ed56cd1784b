import { existsSync, readFileSync, renameSync, writeFileSync } from "node:fs";
import type { Knex } from "knex";
import { newSecret } from "../http/pairing.ts";

/** Key under which older versions kept the secret among the workshop's rows. */
const OLD_KEY = "pairing-secret";
const SOUND = /^[\w-]{40,}$/;

/**
 * What this server signs cookies with: a file beside the database, for this user alone. It lies in no copy, no export and
 * no backup, and none that is put back brings one along: a backup opens no door. What older versions kept within the
 * database lies in their backups, so it is used no more: all pair anew, once.
 */
export async function secretOf(db: Knex): Promise<string> {
  await forgetOldSecret(db);
  const { filename } = db.client.config.connection as { filename: string };
  const file = `${filename}.secret`;
  const kept = existsSync(file) ? readFileSync(file, "utf8").trim() : "";
  if (SOUND.test(kept)) return kept;
  const secret = newSecret();
  writeFileSync(`${file}.new`, `${secret}\n`, { mode: 0o600 });
  renameSync(`${file}.new`, file);
  return secret;
}

/** Takes the secret of an older version out of a database: of this one, or of a backup that was put back. */
export async function forgetOldSecret(db: Knex) {
  await db("workshop").where({ key: OLD_KEY }).delete();
}
