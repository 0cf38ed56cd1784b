import { copyFileSync, mkdtempSync, rmSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import Database from "better-sqlite3";
import { unzipSync } from "fflate";
import { pino } from "pino";
import request from "supertest";
import { afterAll, beforeAll, expect, it } from "vitest";
import { createApp } from "../app.ts";
import { rebuildLogbook } from "../jobs/rebuild.ts";
import { workJobs } from "../practice/repository.ts";
import { PATIENT } from "../test/patient.ts";
import { secretOf } from "../workshop/secret.ts";
import { openDatabase } from "./open.ts";

const TITLES = ["Vent drive", "Pump"];
let folder: string;
let good: string;

async function server(file: string) {
  const db = await openDatabase(file);
  await rebuildLogbook(db);
  await secretOf(db);
  const api = request(createApp({ db, log: pino({ level: "silent" }), now: () => new Date(0), limits: PATIENT }));
  return { db, api };
}

/** A workshop with a row of everything that people make. */
beforeAll(async () => {
  folder = mkdtempSync(join(tmpdir(), "hound-"));
  good = join(folder, "good.sqlite");
  const { db, api } = await server(good);
  for (const title of TITLES) {
    const trail = "BT1 24V: F1 1A + [A] R1 220 + [B] R2 1k";
    const { body: job } = await api.post("/api/jobs").set("X-Hound-Who", "Ann").send({ title, trail }).expect(201);
    const url = `/api/jobs/${job.id}`;
    const reading = { quantity: "voltage", from: "B", value: 19.7 };
    await api.post(`${url}/readings`).send({ id: crypto.randomUUID(), circuitRevision: 0, reading }).expect(201);
    await api
      .put(`${url}/circuit`)
      .send({ revision: 0, trail: `${trail} + R3 1` })
      .expect(200);
    const closing = { outcome: "found", faults: [{ part: "R2", mode: "open" }], at: new Date(0).toISOString() };
    const { body } = await api.get(url).expect(200);
    await api
      .patch(url)
      .send({ revision: body.revision, state: "solved", tags: ["wet"], closing })
      .expect(200);
  }
  await api.post("/api/library").send({ name: "Bridge", trail: "BT1 9V: R1 1k", notes: "" }).expect(201);
  const hunt = { id: "00000000-0000-4000-8000-000000000077", title: "Hunt", trail: "BT1 12V: R1 1k + [A] R2 1k" };
  await api.post("/api/hunts").send(hunt).expect(201);
  await api.patch("/api/people").send({ add: "Ann" }).expect(200);
  await api.put("/api/conventions").send({ decimal: "comma" }).expect(200);
  await db.raw("PRAGMA wal_checkpoint(TRUNCATE)");
  await db.destroy();
});
afterAll(() => rmSync(folder, { recursive: true, force: true }));

/** Tables that have rows, with their columns. */
function tables(): { name: string; columns: string[] }[] {
  const db = new Database(good);
  const names = db
    .prepare(
      "SELECT name FROM sqlite_master WHERE type = 'table' AND name NOT GLOB 'sqlite_*' AND name NOT GLOB 'knex*'",
    )
    .pluck()
    .all() as string[];
  const found = names
    .filter((name) => !name.startsWith("words") && db.prepare(`SELECT 1 FROM ${name}`).get() !== undefined)
    .map((name) => ({ name, columns: (db.pragma(`table_info(${name})`) as { name: string }[]).map((c) => c.name) }));
  db.close();
  return found;
}

/** A copy in which of each table one column of its first row is damaged: another column for each table and round. */
function damaged(round: number): { file: string; what: string } {
  const file = join(folder, `${round}.sqlite`);
  copyFileSync(good, file);
  const db = new Database(file);
  db.pragma("foreign_keys = OFF");
  const what = tables().flatMap(({ name, columns }, i) => {
    const column = columns[(round + 5 * i) % columns.length];
    const key = name === "workshop" ? "1" : `rowid = (SELECT min(rowid) FROM ${name})`;
    try {
      db.prepare(`UPDATE ${name} SET ${column} = '{damaged' || rowid WHERE ${key}`).run();
    } catch {
      return [];
    }
    return [`${name}.${column}`];
  });
  db.close();
  return { file, what: what.join(", ") };
}

it("whatever column of whatever table a disk damaged, the rest is there, is shown, goes out whole, and work goes on", async () => {
  const rounds = Math.max(...tables().map((t) => t.columns.length));
  expect(tables().map((t) => t.name)).toEqual(
    expect.arrayContaining([
      "jobs",
      "circuits",
      "readings",
      "history",
      "library",
      "logbook",
      "found_faults",
      "workshop",
      "hunts",
    ]),
  );
  for (let round = 0; round < rounds; round += 1) {
    const { file, what } = damaged(round);
    const { db, api } = await server(file);
    const answers = ["/health", "/people", "/conventions", "/meters", "/library", "/copies", "/jobs", "/hunts"];
    for (const path of answers) expect((await api.get(`/api${path}`)).status, `${what}: ${path}`).toBe(200);
    const { body } = await api.get("/api/jobs");
    expect(body.jobs.length, what).toBeGreaterThanOrEqual(TITLES.length - 1);
    for (const { id } of body.jobs)
      for (const path of ["", "/history", "/pictures?deleted=false"])
        expect((await api.get(`/api/jobs/${id}${path}`)).status, `${what}: ${path}`).toBe(200);
    expect((await api.post("/api/jobs").send({ title: "New", trail: "BT1 9V: R1 1k" })).status, what).toBe(201);
    const { body: zip } = await api.get("/api/workshop.zip").responseType("blob");
    const files = Object.keys(unzipSync(zip));
    expect(files.filter((path) => path.endsWith("/job.json")).length, what).toBeGreaterThanOrEqual(TITLES.length);
    await db.destroy();
  }
});

it("what a row belonged to is found again by its checksum; what belongs to nothing is kept apart, as it was", async () => {
  const file = join(folder, "loose.sqlite");
  copyFileSync(good, file);
  const raw = new Database(file);
  raw.pragma("foreign_keys = OFF");
  raw.exec("UPDATE jobs SET id = 'x' WHERE title = 'Pump'");
  raw.exec("UPDATE readings SET job_id = 'y' WHERE rowid = (SELECT min(rowid) FROM readings)");
  raw.exec("UPDATE history SET job_id = 'nobody' WHERE rowid = (SELECT min(rowid) FROM history)");
  raw.exec("UPDATE found_faults SET job_id = 'z' WHERE rowid = (SELECT min(rowid) FROM found_faults)");
  raw.close();
  const { db, api } = await server(file);
  // What is made of the jobs is made again, and leaves no words behind.
  expect(new Set(await db("found_faults").pluck("job_id"))).toEqual(new Set(await workJobs(db).pluck("id")));
  expect(await db("words").pluck("rowid")).toEqual(await db("logbook").pluck("n"));
  const { body } = await api.get("/api/jobs");
  expect(body.jobs.map((j: { title: string; readingCount: number }) => [j.title, j.readingCount]).sort()).toEqual([
    ["Pump", 1],
    ["Vent drive", 1],
  ]);
  const apart = await db("apart");
  expect(apart).toMatchObject([{ of: "history", why: "it belongs to nothing" }]);
  expect(JSON.parse(apart[0].data)).toMatchObject({ job_id: "nobody" });
  await db.destroy();
});
