import { spawn } from "node:child_process";
import { copyFileSync, mkdtempSync, readdirSync, rmSync, statSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import Database from "better-sqlite3";
import { afterAll, beforeAll, expect, it } from "vitest";
import { build } from "../../../scripts/bringUp.mjs";
import { JobService } from "../jobs/service.ts";
import { asBefore0006 } from "../test/olderForm.ts";
import { openDatabase } from "./open.ts";

const IS_DEEP = process.env.HOUND_DEEP === "1";
/** Statements between two at which the plug is pulled. */
const EVERY = IS_DEEP ? 1 : 60;
/** Milliseconds; of all statements there are some hundreds, and each is two starts. */
const LIMIT = (IS_DEEP ? 1_000_000 : 60_000) * Number(process.env.HOUND_PATIENCE ?? 4);
const KILL_AT = join(import.meta.dirname, "../test/killAt.mjs");
const TITLES = ["Vent drive", "Pump controller"];

let folder: string;
let old: string;

beforeAll(async () => {
  build({ web: false });
  folder = mkdtempSync(join(tmpdir(), "hound-upgrade-"));
  old = join(folder, "old.sqlite");
  const db = await openDatabase(old);
  for (const title of TITLES) await new JobService(db, () => new Date()).create({ title });
  await db.destroy();
  const raw = new Database(old);
  asBefore0006(raw);
  raw.pragma("journal_mode = DELETE");
  raw.close();
});
afterAll(() => rmSync(folder, { recursive: true, force: true }));

/** Starts the server on a database. @returns whether it was ready before it ended; it is ended then */
function started(database: string, killAt: number): Promise<{ isReady: boolean; said: string }> {
  const child = spawn(process.execPath, ["--import", KILL_AT, join(import.meta.dirname, "../../dist/server.js")], {
    env: { ...process.env, PORT: "0", HOUND_DB: database, HOUND_KILL_AT: String(killAt) },
  });
  let said = "";
  let isReady = false;
  return new Promise((done) => {
    const read = (chunk: Buffer) => {
      said += chunk;
      if (!/ready: \S+/.test(said) || isReady) return;
      isReady = true;
      child.kill("SIGKILL");
    };
    child.stdout.on("data", read);
    child.stderr.on("data", read);
    child.on("exit", () => done({ isReady, said }));
  });
}

function copyOf(name: string): string {
  const place = mkdtempSync(join(folder, `${name}-`));
  copyFileSync(old, join(place, "hound.sqlite"));
  return join(place, "hound.sqlite");
}

it(
  "an upgrade whose plug is pulled before any of its statements is done by the next start, and nothing is lost",
  async () => {
    let kills = 0;
    for (let at = 1; ; at += EVERY) {
      const database = copyOf(`at-${at}`);
      const first = await started(database, at);
      const again = first.isReady ? first : await started(database, 1e9);
      expect(again.isReady, `killed before statement ${at}: ${again.said}`).toBe(true);
      const db = new Database(database, { readonly: true });
      const titles = db.prepare("SELECT title FROM jobs").all() as { title: string }[];
      expect(titles.map((row) => row.title).sort()).toEqual([...TITLES].sort());
      expect(db.pragma("integrity_check", { simple: true })).toBe("ok");
      db.close();
      // Copies that were made meanwhile are whole, and nobody else's to read.
      for (const name of readdirSync(join(database, ".."), { recursive: true }) as string[]) {
        const path = join(database, "..", name);
        if (!/\.before-|\.daily\/.*\.sqlite$/.test(path) || /\.sha256$|-wal$|-shm$/.test(path)) continue;
        if (!statSync(path).isFile()) continue;
        expect(statSync(path).mode & 0o777, path).toBe(0o600);
        const copy = new Database(path, { readonly: true });
        expect(copy.pragma("quick_check", { simple: true }), path).toBe("ok");
        copy.close();
      }
      if (first.isReady) break;
      kills += 1;
    }
    expect(kills).toBeGreaterThan(1);
  },
  LIMIT,
);
