import { mkdtempSync, rmSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { readCase, readReadings, readTrail } from "@hound/core/notation";
import { strToU8, unzipSync, zipSync } from "fflate";
import type { Knex } from "knex";
import { pino } from "pino";
import sharp from "sharp";
import request from "supertest";
import { afterEach, beforeEach, expect, it } from "vitest";
import { createApp } from "../app.ts";
import { openDatabase } from "../database/open.ts";
import { PATIENT } from "../test/patient.ts";

let folder: string;
const open: Knex[] = [];
beforeEach(() => {
  folder = mkdtempSync(join(tmpdir(), "hound-"));
});
afterEach(async () => {
  for (const db of open.splice(0)) await db.destroy();
  rmSync(folder, { recursive: true, force: true });
});

async function server(name: string) {
  const db = await openDatabase(join(folder, name));
  open.push(db);
  let clock = Date.UTC(2026, 3, 1);
  const now = () => {
    clock += 1000;
    return new Date(clock);
  };
  return { db, api: request(createApp({ db, log: pino({ level: "silent" }), now, limits: PATIENT })) };
}

type Api = Awaited<ReturnType<typeof server>>["api"];
const zipOf = async (api: Api): Promise<Record<string, Uint8Array>> => {
  const { body } = await api
    .get("/api/workshop.zip")
    .buffer()
    .parse((response, done) => {
      const chunks: Buffer[] = [];
      response.on("data", (chunk: Buffer) => chunks.push(chunk));
      response.on("end", () => done(null, Buffer.concat(chunks)));
    })
    .expect(200);
  return unzipSync(body);
};
const send = (api: Api, files: Record<string, Uint8Array>) =>
  api
    .post("/api/workshop")
    .set("Content-Type", "application/octet-stream")
    .serialize((b) => b)
    .send(Buffer.from(zipSync(files)) as never);

async function filled() {
  const { api, db } = await server("one.sqlite");
  const trail = "BT1 24V: F1 1A + [A] R1 220 + [B] R2 1k";
  const { body } = await api.post("/api/jobs").send({ title: "=Vent, drive", trail }).expect(201);
  const url = `/api/jobs/${body.id}`;
  const reading = { id: "00000000-0000-4000-8000-000000000001", circuitRevision: 0 };
  await api
    .post(`${url}/readings`)
    .send({ ...reading, reading: { quantity: "voltage", from: "B", value: 19.5 } })
    .expect(201);
  await api
    .post(`${url}/readings`)
    .send({
      ...reading,
      id: "00000000-0000-4000-8000-000000000002",
      reading: { quantity: "voltage", from: "A", value: 24 },
    })
    .expect(201);
  await api.delete(`${url}/readings/00000000-0000-4000-8000-000000000002`).expect(200);
  await api
    .put(`${url}/circuit`)
    .send({ revision: 0, trail: `${trail} + R3 5` })
    .expect(200);
  const closing = {
    outcome: "found",
    faults: [{ part: "R2", mode: "open" }],
    at: "2026-04-01T10:00:00.000Z",
    minutes: 12,
  };
  const revision = (await api.get(url)).body.revision;
  await api
    .patch(url)
    .send({ revision, state: "solved", closing, tags: ["urgent"], finding: "R2 open" })
    .expect(200);
  await api
    .post(`${url}/notes`)
    .set("x-hound-who", "Ann")
    .send({ id: "00000000-0000-4000-8000-000000000009", text: "scorched" });
  await api.post(`${url}/minutes`).send({ stage: "readings", minutes: 3 });
  const png = await sharp({ create: { width: 90, height: 60, channels: 3, background: "#764" } })
    .png()
    .toBuffer();
  await api
    .post(`${url}/pictures?name=board.png`)
    .set("Content-Type", "application/octet-stream")
    .serialize((b) => b)
    .send(png as never)
    .expect(201);
  const { body: blurred } = await api
    .post(`${url}/pictures?name=blurred.png`)
    .set("Content-Type", "application/octet-stream")
    .serialize((b) => b)
    .send(png as never)
    .expect(201);
  await api.delete(`${url}/pictures/${blurred.pictures.at(-1).id}`).expect(200);
  await api
    .patch(url)
    .send({ revision: (await api.get(url)).body.revision, isWet: true })
    .expect(200);
  await api.post("/api/library").send({ name: "Vent", trail, notes: "kept" }).expect(201);
  for (const add of ["Ann", "Bo"]) await api.patch("/api/people").send({ add }).expect(200);
  await api.patch("/api/letterhead").send({ head: "A workshop" }).expect(200);
  await api.patch("/api/conventions").send({ decimal: "comma" }).expect(200);
  await api
    .patch("/api/habits")
    .send({ id: crypto.randomUUID(), adjust: { kind: "lamp", mode: "open", by: 2 } })
    .expect(200);
  return { api, db };
}

it("a workshop taken out as a folder and brought into an empty one is the same, job by job", async () => {
  const one = await filled();
  const files = await zipOf(one.api);
  const two = await server("two.sqlite");
  expect((await send(two.api, files).expect(200)).body).toEqual({ jobs: 1, circuits: 1 });
  const again = await zipOf(two.api);
  expect(Object.keys(again).sort()).toEqual(Object.keys(files).sort());
  for (const [path, bytes] of Object.entries(files)) {
    // A photograph is made anew as JPEG each time: the same picture, not the same bytes.
    if (!path.endsWith(".jpg")) expect(Buffer.from(again[path]).toString(), path).toBe(Buffer.from(bytes).toString());
  }
  for (const path of [
    "/api/jobs?search=scorched",
    "/api/statistics",
    "/api/habits",
    "/api/people",
    "/api/letterhead",
    "/api/conventions",
  ])
    expect((await two.api.get(path)).body, path).toEqual((await one.api.get(path)).body);
  // Nothing is taken for damaged: checksums hold. What was believed at each change comes along.
  const { id } = (await two.api.get("/api/jobs")).body.jobs[0];
  const believed = async (api: Api) => (await api.get(`/api/jobs/${id}/believed`)).body.believed;
  expect(await believed(one.api)).toHaveLength(2);
  expect(await believed(two.api)).toEqual(await believed(one.api));
  expect((await two.api.get(`/api/jobs/${id}`)).body).toEqual((await one.api.get(`/api/jobs/${id}`)).body);
  const shown = async (api: Api) =>
    (await api.get(`/api/jobs/${id}/pictures`)).body.pictures.map((p: { name: string }) => p.name);
  expect(await shown(one.api)).toEqual(["board.png"]);
  expect(await shown(two.api)).toEqual(["board.png"]);
  expect((await send(two.api, files).expect(409)).body.title).toMatch(/jobs here already/);
});

it("what a bad disk changed comes back as damaged as it was, never as whole", async () => {
  const one = await filled();
  const { id } = (await one.api.get("/api/jobs")).body.jobs[0];
  const changed = (table: string, column: string, at: string, to: string) =>
    one.db(table).update({ [column]: one.db.raw(`replace(${column}, ?, ?)`, [at, to]) });
  await changed("readings", "data", "19.5", "11.5");
  await changed("jobs", "title", "Vent", "Vint");
  await changed("circuits", "trail", "R3 5", "R3 6");
  await changed("library_revisions", "trail", "220", "290");
  const { damaged, ...job } = (await one.api.get(`/api/jobs/${id}`)).body;
  expect(damaged.map((d: { what: string }) => d.what).sort()).toEqual(["circuit", "fields", "reading"]);
  const two = await server("two.sqlite");
  await send(two.api, await zipOf(one.api)).expect(200);
  const { damaged: after, ...back } = (await two.api.get(`/api/jobs/${id}`)).body;
  expect(after).toEqual(expect.arrayContaining(damaged));
  expect(after).toHaveLength(damaged.length);
  expect(back).toEqual(job);
  const [kept] = (await two.api.get("/api/library")).body.circuits;
  const versions = (await two.api.get(`/api/library/${kept.id}`)).body.revisions;
  expect(versions).toEqual([
    expect.objectContaining({ trail: expect.stringMatching(/^# damaged on the disk\n.*290/) }),
  ]);
});

it("its files are open: a trail, a table, a case, each readable by itself", async () => {
  const { api } = await filled();
  const files = await zipOf(api);
  const read = (ending: string) => {
    const [, bytes] = Object.entries(files).find(([path]) => path.endsWith(ending)) as [string, Uint8Array];
    return Buffer.from(bytes).toString();
  };
  expect(readTrail(read("circuit.trail")).circuit?.parts).toHaveLength(5);
  expect(readReadings(read("readings.csv"))).toMatchObject({ rows: [{ from: "B", value: 19.5 }], mistakes: [] });
  expect(readCase(read("case.json")).file).toMatchObject({ closing: { outcome: "found" }, isWet: true });
  // No spreadsheet takes a title for a formula.
  expect(read("jobs.csv")).toMatch(/"'=Vent, drive"/);
});

it("what cannot be read is refused with its place, and nothing is brought in", async () => {
  const { api } = await filled();
  const files = await zipOf(api);
  const two = await server("two.sqlite");
  const job = Object.keys(files).find((p) => p.endsWith("job.json")) as string;
  const cases: readonly [Record<string, Uint8Array>, RegExp][] = [
    [{ "README.txt": strToU8("x") }, /no workshop\.json/],
    [{ ...files, "jobs/x/run.exe": strToU8("x") }, /run\.exe is no part of a workshop/],
    [{ ...files, [job]: strToU8("{") }, /job\.json is not JSON/],
    [{ ...files, [job]: strToU8('{"format":"clever-hound-job","version":2}') }, /job\.json: version/],
  ];
  for (const [broken, words] of cases) expect((await send(two.api, broken).expect(422)).body.detail).toMatch(words);
  const text = two.api.post("/api/workshop").set("Content-Type", "application/octet-stream");
  expect(
    (
      await text
        .serialize((b) => b)
        .send(Buffer.from("no zip") as never)
        .expect(422)
    ).body.detail,
  ).toMatch(/no zip/);
  expect((await two.api.get("/api/jobs")).body.total).toBe(0);
  expect((await two.api.get("/api/library")).body.total).toBe(0);
});
