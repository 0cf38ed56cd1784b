import { spawn } from "node:child_process";
import { once } from "node:events";
import {
  copyFileSync,
  existsSync,
  mkdtempSync,
  readdirSync,
  readFileSync,
  rmSync,
  statSync,
  symlinkSync,
  utimesSync,
  writeFileSync,
} from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import Database from "better-sqlite3";
import knex from "knex";
import { afterEach, beforeEach, expect, it } from "vitest";
import { rebuildLogbook } from "../jobs/rebuild.ts";
import { JobService } from "../jobs/service.ts";
import { asBefore0006 } from "../test/olderForm.ts";
import { secretOf } from "../workshop/secret.ts";
import { backUp, checkCopy, restore } from "./copies.ts";
import { dailyFolder, keepBeforeMigrating, keepCopies, keepDaily } from "./daily.ts";
import { lockDatabase } from "./lock.ts";
import { MIGRATION_NAMES, migrationSource } from "./migrations.ts";
import { openDatabase } from "./open.ts";

let folder: string;
let file: string;
const now = () => new Date(Date.UTC(2026, 4, 1));

beforeEach(() => {
  folder = mkdtempSync(join(tmpdir(), "hound-"));
  file = join(folder, "hound.sqlite");
});
afterEach(() => rmSync(folder, { recursive: true, force: true }));

async function withJobs(...titles: string[]) {
  const db = await openDatabase(file);
  for (const title of titles) await new JobService(db, now).create({ title });
  return db;
}

/** Gives a database the first so many forms, as an older version of the program would have. */
async function upTo(path: string, forms: number) {
  const db = knex({ client: "better-sqlite3", connection: { filename: path }, useNullAsDefault: true });
  const names = MIGRATION_NAMES.slice(0, forms);
  const source = {
    ...migrationSource,
    getMigrations: async () => (await migrationSource.getMigrations([])).slice(0, forms),
  };
  await db.migrate.latest({ migrationSource: source });
  expect((await db("knex_migrations").select("name")).map((r: { name: string }) => r.name)).toEqual(names);
  await db.destroy();
}

async function titles(): Promise<string[]> {
  const db = await openDatabase(file);
  const found = (await db("jobs").orderBy("title").select("title")).map((r: { title: string }) => r.title);
  await db.destroy();
  return found;
}

it("a backup is made while the database is written, overwrites nothing, and comes back as it was", async () => {
  const db = await withJobs("One", "Two");
  const copy = join(folder, "copies", "a.sqlite");
  expect(backUp(file, copy)).toEqual({ jobs: 2, readings: 0, circuits: 0 });
  expect(() => backUp(file, copy)).toThrow(/is there already/);
  expect(statSync(copy).mode & 0o777).toBe(0o600);
  expect(statSync(file).mode & 0o777).toBe(0o600);
  await new JobService(db, now).create({ title: "Three" });
  // Killed with the log not folded in: what lies beside the database must not come back into the restored one.
  const wal = readFileSync(`${file}-wal`);
  await db.destroy();
  copyFileSync(file, join(folder, "before"));
  writeFileSync(`${file}-wal`, wal);
  const { counts, kept } = restore(copy, file, now());
  expect(counts.jobs).toBe(2);
  expect(existsSync(`${file}-wal`)).toBe(false);
  expect(await titles()).toEqual(["One", "Two"]);
  expect(kept && existsSync(kept)).toBe(true);
  // What was replaced can be brought back the same way.
  restore(kept as string, file, new Date(Date.UTC(2026, 4, 2)));
  expect(await titles()).toEqual(["One", "Three", "Two"]);
});

it("what is damaged, foreign, newer or in use is refused, and nothing is touched", async () => {
  const db = await withJobs("One");
  const copy = join(folder, "a.sqlite");
  backUp(file, copy);
  await db.destroy();
  const bytes = readFileSync(copy);
  bytes[bytes.length >> 1] ^= 0xff;
  writeFileSync(join(folder, "flipped.sqlite"), bytes);
  copyFileSync(`${copy}.sha256`, join(folder, "flipped.sqlite.sha256"));
  writeFileSync(join(folder, "text.sqlite"), "hello ".repeat(500));
  const before = readdirSync(folder).length;
  expect(() => restore(join(folder, "flipped.sqlite"), file, now())).toThrow(/is damaged/);
  expect(() => restore(join(folder, "text.sqlite"), file, now())).toThrow(/is no database of this program/);
  expect(() => restore(join(folder, "none.sqlite"), file, now())).toThrow(/There is no file/);
  const unlock = lockDatabase(file);
  expect(() => restore(copy, file, now())).toThrow(/Another process/);
  unlock();
  expect(readdirSync(folder).length - before).toBeLessThanOrEqual(1);
  expect(await titles()).toEqual(["One"]);
});

it("one copy a day is kept, the last fourteen, and one from before the form changes", async () => {
  const db = await withJobs("One");
  for (let day = 1; day <= 20; day += 1) {
    keepDaily(file, new Date(Date.UTC(2026, 4, day, 8)));
    keepDaily(file, new Date(Date.UTC(2026, 4, day, 20)));
  }
  const copies = readdirSync(dailyFolder(file)).filter((n) => n.endsWith(".sqlite"));
  expect(copies.sort()).toEqual(
    Array.from({ length: 14 }, (_, i) => `2026-05-${String(i + 7).padStart(2, "0")}.sqlite`),
  );
  expect(keepBeforeMigrating(file, now())).toBeNull();
  await db("knex_migrations")
    .where({ name: MIGRATION_NAMES.at(-1) })
    .del();
  await db.destroy();
  const copy = keepBeforeMigrating(file, now()) as string;
  expect(checkCopy(copy).jobs).toBe(1);
  // The next attempt makes its own: an older one says nothing of what there is now.
  expect(keepBeforeMigrating(file, new Date(Date.UTC(2026, 4, 2)))).not.toBe(copy);
});

it("a database of each form that there ever was is copied and brought up to date, a broken-off first start too", async () => {
  for (let forms = 0; forms <= MIGRATION_NAMES.length; forms += 1) {
    const older = join(folder, `${forms}.sqlite`);
    const db = new Database(older);
    db.exec("CREATE TABLE knex_migrations (id INTEGER PRIMARY KEY, name TEXT, batch INTEGER, migration_time INTEGER)");
    db.exec("CREATE TABLE knex_migrations_lock (idx INTEGER PRIMARY KEY, is_locked INTEGER)");
    db.close();
    await upTo(older, forms);
    const copy = keepBeforeMigrating(older, now());
    expect(copy === null, `${forms} forms`).toBe(forms === 0 || forms === MIGRATION_NAMES.length);
    const opened = await openDatabase(older);
    await new JobService(opened, now).create({ title: "One" });
    await opened.destroy();
  }
});

it("a database from before 0004 had all of its columns is given them, and what they hold is made; one without is not opened", async () => {
  await (await withJobs("One")).destroy();
  const raw = new Database(file);
  asBefore0006(raw);
  raw.exec("ALTER TABLE circuits DROP COLUMN exposure; ALTER TABLE logbook DROP COLUMN expected");
  raw.close();
  const db = await openDatabase(file);
  await rebuildLogbook(db);
  await new JobService(db, now).create({ title: "Two", trail: "BT1 9V: R1 1k" });
  const rows = await db("circuits").select("exposure", "key");
  expect(rows).toHaveLength(2);
  for (const { exposure, key } of rows) expect([typeof exposure, typeof key]).toEqual(["string", "string"]);
  expect(await db("logbook").orderBy("title").pluck("title")).toEqual(["One", "Two"]);
  await db.raw("ALTER TABLE jobs DROP COLUMN library_id");
  await db.destroy();
  await expect(openDatabase(file)).rejects.toThrow(/it lacks jobs\.library_id\. Restore a backup/);
});

it("what a crash broke off of a copy goes at a start, what may still be written stays, and the database too", async () => {
  await (await withJobs("Pump")).destroy();
  const [old, young] = [`${file}.replaced-2026.unfinished`, `${file}.backup-2026.unfinished`];
  for (const path of [old, `${old}-journal`, young]) writeFileSync(path, "half");
  const start = now();
  for (const path of [old, `${old}-journal`]) utimesSync(path, start, new Date(start.getTime() - 2 * 3_600_000));
  utimesSync(young, start, start);
  keepCopies(file, now, (error) => expect(error).toBeUndefined())();
  expect([old, `${old}-journal`, young, file].map((path) => existsSync(path))).toEqual([false, false, true, true]);
});

it("a copy has its name only when it is whole; one of today that is not as it was made is made again", async () => {
  const db = await withJobs("One");
  const today = join(dailyFolder(file), "2026-05-01.sqlite");
  const troubles: unknown[] = [];
  const keep = () => keepCopies(file, now, (error) => troubles.push(error))();
  keep();
  writeFileSync(today, readFileSync(today).subarray(0, 5000));
  writeFileSync(`${today}.unfinished`, "killed in the middle of it");
  keep();
  expect(checkCopy(today).jobs).toBe(1);
  expect(statSync(today).mode & 0o777).toBe(0o600);
  rmSync(`${today}.unfinished`, { force: true });
  await db.destroy();
  // What cannot be copied leaves nothing that looks like a copy.
  writeFileSync(file, readFileSync(file).subarray(0, 9000));
  rmSync(today);
  keep();
  expect(troubles).toHaveLength(1);
  expect(readdirSync(dailyFolder(file)).filter((name) => !name.endsWith(".sha256"))).toEqual([]);
});

it("a database is one process's, by whatever link it is reached, though the file that locks it was deleted", async () => {
  const db = await withJobs("One");
  const link = join(folder, "link.sqlite");
  symlinkSync(file, link);
  const unlock = lockDatabase(file);
  expect(() => lockDatabase(link)).toThrow(/Another process \(number \d+\) has the database/);
  unlock();
  await db.destroy();
  // Another process that has it open, and whose lock is gone.
  const other = spawn(process.execPath, [
    "-e",
    `require("fs").openSync(${JSON.stringify(file)}); setInterval(() => {}, 1e6); console.log("open")`,
  ]);
  await once(other.stdout, "data");
  writeFileSync(`${file}.pid`, `${other.pid}\n`);
  const isTold = existsSync("/proc/self/fd");
  if (isTold) expect(() => lockDatabase(link)).toThrow(new RegExp(`number ${other.pid}`));
  const ended = once(other, "exit");
  other.kill("SIGKILL");
  await ended;
  lockDatabase(link)();
});

it("what cookies are signed with lies beside the database, for its owner, and in no copy of it", async () => {
  const db = await withJobs("One");
  await db("workshop").insert({ key: "pairing-secret", data: JSON.stringify("x".repeat(43)) });
  const secret = await secretOf(db);
  expect(secret).not.toBe("x".repeat(43));
  expect(await secretOf(db)).toBe(secret);
  expect(statSync(`${file}.secret`).mode & 0o777).toBe(0o600);
  const copy = join(folder, "copy.sqlite");
  backUp(file, copy);
  const bytes = readFileSync(copy);
  for (const kept of [secret, "x".repeat(43)]) expect(bytes.includes(kept)).toBe(false);
  await db.destroy();
});
