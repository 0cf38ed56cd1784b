import { copyFileSync, mkdtempSync, rmSync } from "node:fs";
import { join } from "node:path";
import { tmpdir } from "node:os";
import Database from "better-sqlite3";
import { BenchServer } from "./server.ts";
const folder = mkdtempSync(join(tmpdir(), "hound-dmg-"));
const server = new BenchServer({ HOUND_DEMO: new URL("../../demo", import.meta.url).pathname });
await server.start();
const call = async (a: string, m: string, p: string, body?: unknown) => {
  const r = await fetch(`${a}/api${p}`, { method: m, headers: { "Content-Type": "application/json" }, body: body === undefined ? undefined : JSON.stringify(body) });
  return { status: r.status, text: await r.text() };
};
const { jobs } = JSON.parse((await call(server.address, "GET", "/jobs")).text);
await call(server.address, "PUT", "/people", { names: ["Ann", "Bo"] });
await call(server.address, "PUT", "/meters/fine", { name: "fine" });
const bytes = Buffer.from(await (await fetch(`${server.address}/api/backup`)).arrayBuffer());
await server.remove();
const { writeFileSync } = await import("node:fs");
const good = join(folder, "good.sqlite"); writeFileSync(good, bytes);
const db = new Database(good);
const tables = db.prepare("SELECT name FROM sqlite_master WHERE type='table' AND name NOT LIKE 'sqlite_%' AND name NOT LIKE 'knex%' AND name NOT LIKE 'words%'").all() as { name: string }[];
const cases: [string, string, string | null][] = [];
for (const { name } of tables) {
  const n = (db.prepare(`SELECT count(*) n FROM ${name}`).get() as any).n;
  console.log(name, n);
  if (n === 0) continue;
  if (name === "workshop") { for (const { key } of db.prepare("SELECT key FROM workshop").all() as any[]) cases.push([name, "data", key]); continue; }
  for (const c of db.pragma(`table_info(${name})`) as any[]) cases.push([name, c.name, null]);
}
db.close();
import { spawn } from "node:child_process";
import { createApp } from "../../server/src/app.ts";
import { openDatabase } from "../../server/src/database/open.ts";
import { rebuildLogbook } from "../../server/src/jobs/rebuild.ts";
import { secretOf } from "../../server/src/workshop/secret.ts";
import { storedLink } from "../../server/src/meter/routes.ts";
import { pino } from "pino";
for (const [table, column, key] of cases) {
  const file = join(folder, "x.sqlite"); for (const e of ["", "-wal", "-shm"]) rmSync(file + e, { force: true });
  copyFileSync(good, file);
  const d = new Database(file); d.pragma("foreign_keys=OFF");
  let bad = "";
  for (const value of ["{damaged", 'null']) {
    try { d.prepare(`UPDATE ${table} SET ${column} = ? WHERE rowid = (SELECT min(rowid) FROM ${table}) ${key ? `OR key = '${key}'` : ""}`.replace(/WHERE rowid.*OR/, key ? "WHERE" : "WHERE rowid = (SELECT min(rowid) FROM " + table + ") OR")).run(value); } catch (e) { bad += ` (${(e as Error).message})`; }
    break;
  }
  d.close();
  const said: string[] = [];
  try {
    const own = await openDatabase(file);
    await rebuildLogbook(own); await secretOf(own); await storedLink(own);
    const app = createApp({ db: own, log: pino({ level: "silent" }), now: () => new Date() });
    const http = app.listen(0); await new Promise((r) => http.once("listening", r));
    const a = `http://127.0.0.1:${(http.address() as any).port}`;
    for (const [m, p, b] of [["GET", "/health"], ["GET", "/jobs"], ["POST", "/jobs", { title: "N", trail: "BT1 9V: R1 1k" }], ...jobs.flatMap((j: any) => [["GET", `/jobs/${j.id}`], ["GET", `/jobs/${j.id}/history`], ["GET", `/jobs/${j.id}/pictures?deleted=false`], ["GET", `/jobs/${j.id}/case`], ["GET", `/jobs/${j.id}/believed`]]), ["GET", "/library"], ["GET", "/meters"], ["GET", "/people"], ["GET", "/conventions"], ["GET", "/habits?circuit=x"], ["GET", "/letterhead"], ["GET", "/meter-link"], ["GET", "/copies"], ["GET", "/failures"], ["GET", "/workshop.zip"], ["GET", "/jobs?search=a&sort=title"]] as any[]) {
      const r = await call(a, m, p, b).catch((e) => ({ status: 599, text: String(e.message) }));
      if (r.status >= 500 || (r.status >= 400 && p !== "/failures" && !(p.includes("/jobs/") && r.status === 404))) said.push(`${r.status} ${m} ${p.replace(/[0-9a-f-]{36}/, (x: string) => String(jobs.findIndex((j: any) => j.id === x)))}`);
    }
    http.closeAllConnections(); await new Promise((r) => http.close(r)); await own.destroy();
  } catch (e) { said.push("START " + (e as Error).message.slice(0, 120)); }
  console.log(said.length ? "!!" : "ok", table, key ?? column, bad, said.slice(0, 6).join(" | "), said.length > 6 ? `(+${said.length - 6})` : "");
}
rmSync(folder, { recursive: true, force: true });
process.exit(0);
