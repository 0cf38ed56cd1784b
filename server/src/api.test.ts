import { mkdirSync, writeFileSync } from "node:fs";
import type { AddressInfo } from "node:net";
import { join } from "node:path";
import { Job, JobList } from "@hound/core/record";
import { pino } from "pino";
import request from "supertest";
import { describe, expect, it } from "vitest";
import { createApp } from "./app.ts";
import { openDatabase } from "./database/open.ts";
import { loadDemo } from "./demo.ts";
import { apiBench } from "./test/apiBench.ts";
import { PATIENT } from "./test/patient.ts";

const TRAIL = "BT1 24V: F1 1A + [A] R1 220 + [B] R2 1k";
const READING = { quantity: "voltage", from: "B", value: 7.42, typed: "B 7.42" };
const uuid = (n: number) => `00000000-0000-4000-8000-${String(n).padStart(12, "0")}`;

const bench = apiBench();

async function newJob(fields: object = {}): Promise<Job> {
  const { body } = await bench.api
    .post("/api/jobs")
    .send({ title: "Vent drive", trail: TRAIL, ...fields })
    .expect(201);
  return Job.parse(body);
}

const add = (job: Job, n: number, reading: object = READING) =>
  bench.api.post(`/api/jobs/${job.id}/readings`).send({ id: uuid(n), circuitRevision: job.circuit.revision, reading });

describe("who may come in", () => {
  const make = () => bench.api.post("/api/jobs").send({ title: "Foreign" });

  it("lets in programs and our own pages, under the names of this machine", async () => {
    await make().expect(201);
    await make().set("Host", "127.0.0.1:4620").set("Origin", "http://127.0.0.1:4620").expect(201);
    await make().set("Host", "localhost:4620").set("Sec-Fetch-Site", "same-origin").expect(201);
    await bench.api.get("/api/jobs").set("Host", "[::1]:4620").expect(200);
    const named = request(
      createApp({ db: bench.db, log: pino({ level: "silent" }), now: () => new Date(), hosts: ["bench.local"] }),
    );
    await named.get("/api/jobs").set("Host", "Bench.local:4620").expect(200);
  });

  it("keeps out what another site sends, and names that are made to point here", async () => {
    const { body } = await make().set("Host", "evil.example:4620").expect(421);
    expect(body).toMatchObject({
      title: "This server goes by other names",
      detail: "“evil.example” is not this server",
    });
    await bench.api.get("/api/jobs").set("Host", "127.0.0.1.evil.example").expect(421);
    await make().set("Origin", "http://evil.example").expect(403);
    await make().set("Origin", "null").expect(403);
    await make().set("Sec-Fetch-Site", "cross-site").expect(403);
    await bench.api.get("/api/jobs").set("Sec-Fetch-Site", "cross-site").set("Sec-Fetch-Mode", "no-cors").expect(403);
    await bench.api.post("/api/jobs").type("text/plain").send('{"title":"A form"}').expect(415);
    await bench.api.post("/api/jobs").type("form").send({ title: "A form" }).expect(415);
    const { body: list } = await bench.api.get("/api/jobs").expect(200);
    expect(list.jobs).toEqual([]);
  });
});

describe("wrong requests", () => {
  it("with half a character, nested without end, or named like what objects have are refused, and nothing is kept", async () => {
    const raw = (path: string, text: string) =>
      bench.api
        .post(path)
        .set("Content-Type", "application/json")
        .serialize((b) => b)
        .send(Buffer.from(text) as never);
    const deep = (n: number) => "[".repeat(n) + "]".repeat(n);
    const file = (title: string) =>
      `{"format":"clever-hound-case","version":1,"title":"${title}","circuit":"BT1 9V: R1 1k"}`;
    for (const [path, text, where] of [
      ["/api/jobs", '{"title":"A\\ud83d","trail":"BT1 9V: R1 1k"}', /"\/title"/],
      ["/api/jobs", '{"title":"A","trail":"BT1 9V: R1 1k","__proto__":{"title":"B"}}', /half a character, or a name/],
      ["/api/jobs", `{"title":"A","trail":"BT1 9V: R1 1k","more":${deep(150_000)}}`, /nested more than 100 deep/],
      ["/api/rankings", `{"cases":[{"format":"clever-hound-case","own":${deep(5000)}}]}`, /nested more than 100 deep/],
    ] as const) {
      const { body } = await raw(path, text).expect(400);
      expect(JSON.stringify(body)).toMatch(where);
    }
    await bench.api
      .post("/api/cases")
      .send({ text: file("half \\ud83d") })
      .expect(422);
    expect((await bench.api.get("/api/jobs").expect(200)).body.total).toBe(0);
    // Brackets within a text are text, and a whole character is one.
    const { body } = await raw("/api/jobs", `{"title":"😀 ${"[".repeat(150)}","trail":"BT1 9V: R1 1k"}`).expect(201);
    expect(body.title).toBe(`😀 ${"[".repeat(150)}`);
  });

  it("are answered as the sender's mistake", async () => {
    const send = (encoding: string, body: Buffer) =>
      bench.api
        .post("/api/jobs")
        .set("Content-Type", "application/json")
        .set("Content-Encoding", encoding)
        .serialize((b) => b)
        .send(body as never);
    for (const encoding of ["gzip", "deflate", "br"]) {
      const { body } = await send(encoding, Buffer.from("not compressed at all")).expect(400);
      expect(body.title).toBe("The request is not understood");
    }
    await send("identity", Buffer.from([0x7b, 0x22, 0xff, 0xfe, 0x22, 0x7d])).expect(400);
    const [one, two] = [await newJob(), await newJob()];
    await add(one, 1).expect(201);
    await add(one, 1).expect(201);
    const { body } = await add(two, 1).expect(409);
    expect(body.title).toBe("This id belongs to something else already");
  });

  it("says that the disk is full, and that nothing was saved", async () => {
    await bench.db.raw("PRAGMA max_page_count = 1");
    const { body } = await bench.api
      .post("/api/jobs")
      .send({ title: "x".repeat(200), complaint: "y".repeat(2000), trail: `BT1 9V: R1 1k # ${"z".repeat(50_000)}` })
      .expect(507);
    expect(body.title).toBe("The disk of the server is full; nothing was saved");
  });
});

describe("the jobs API", () => {
  it("creates, lists, searches, changes, deletes and restores jobs", async () => {
    const vent = await newJob({ complaint: "Stops halfway, 100 % sure" });
    await newJob({ title: "Pump" });
    const list = async (query = "") => JobList.parse((await bench.api.get(`/api/jobs${query}`).expect(200)).body).jobs;
    expect((await list()).map((j) => j.title)).toEqual(["Pump", "Vent drive"]);
    expect(await list("?search=halfway+vent")).toMatchObject([{ title: "Vent drive", partCount: 4, readingCount: 0 }]);
    expect(await list("?search=%25")).toHaveLength(1);
    expect(await list("?search=_")).toHaveLength(0);
    const change = {
      revision: 0,
      state: "solved",
      finding: "R2 open",
      meter: { current: { burdenResistance: 2 } },
      details: { customer: "Nursery", date: "2026-01-05" },
    };
    const { body } = await bench.api.patch(`/api/jobs/${vent.id}`).send(change).expect(200);
    expect(body).toMatchObject({ state: "solved", finding: "R2 open", revision: 1, title: "Vent drive" });
    expect(body.details).toEqual({ customer: "Nursery", date: "2026-01-05" });
    expect(await list("?state=solved")).toHaveLength(1);
    await bench.api.delete(`/api/jobs/${vent.id}`).expect(204);
    expect((await list()).map((j) => j.title)).toEqual(["Pump"]);
    expect(await list("?deleted=true")).toMatchObject([{ title: "Vent drive" }]);
    await bench.api.patch(`/api/jobs/${vent.id}`).send({ revision: 1, title: "x" }).expect(409);
    await bench.api.post(`/api/jobs/${vent.id}/restore`).expect(200);
    expect(await list()).toHaveLength(2);
  });

  it("lists as many as are asked for, and says how many there are", async () => {
    for (let i = 0; i < 5; i += 1) await newJob({ title: `Job ${i}` });
    await newJob({ title: "Other" });
    const { body } = await bench.api.get("/api/jobs?search=Job&limit=2").expect(200);
    expect(body).toMatchObject({ jobs: [{ title: "Job 4" }, { title: "Job 3" }], total: 5 });
    await bench.api.get("/api/jobs?limit=0").expect(400);
    await bench.api.post("/api/library").send({ name: "One", trail: TRAIL }).expect(201);
    const { body: library } = await bench.api.get("/api/library?limit=1").expect(200);
    expect(library).toMatchObject({ circuits: [{ name: "One" }], total: 1 });
  });

  it("keeps every revision of a trail, and answers a stale one with 409 and what is stored", async () => {
    const job = await newJob();
    const put = (revision: number, trail: string) =>
      bench.api.put(`/api/jobs/${job.id}/circuit`).send({ revision, trail });
    await put(0, `${TRAIL} + R3 5`).expect(200);
    const stale = await put(0, "BT1 9V: R1 1").expect(409);
    expect(stale.headers["content-type"]).toMatch(/application\/problem\+json/);
    expect(stale.body).toMatchObject({ title: expect.any(String), current: { circuit: { revision: 1 } } });
    // The same text again is the echo of an answer that was lost, not a conflict.
    await put(0, `${TRAIL} + R3 5`).expect(200);
    const { body } = await bench.api.get(`/api/jobs/${job.id}/circuit/revisions`).expect(200);
    expect(body.revisions.map((r: { trail: string }) => r.trail)).toEqual([`${TRAIL} + R3 5`, TRAIL]);
    const { body: short } = await bench.api.get(`/api/jobs/${job.id}/circuit/revisions?limit=1`).expect(200);
    expect([short.revisions.length, short.total]).toEqual([1, 2]);
  });

  it("takes a trail with mistakes: it is work in progress", async () => {
    const job = await newJob({ trail: "BT1 24V: R1 + (" });
    expect(job.circuit.trail).toBe("BT1 24V: R1 + (");
  });

  it("adds, repeats, corrects, deletes and restores readings", async () => {
    const job = await newJob();
    const first = await add(job, 1).expect(201);
    expect(first.body).toMatchObject({ state: "open", readings: [{ id: uuid(1), revision: 0, reading: READING }] });
    expect(first.body.readings[0].reading.takenAt).toMatch(/^2026-01-05T09/);
    await add(job, 1).expect(201);
    await add(job, 2, { quantity: "observation", part: "F1", seen: "blown" }).expect(201);
    const path = `/api/jobs/${job.id}/readings/${uuid(1)}`;
    const reading = { ...READING, value: 7.4, step: 0.01 };
    const corrected = await bench.api.patch(path).send({ revision: 0, reading }).expect(200);
    expect(corrected.body.readings.map((r: { id: string }) => r.id)).toEqual([uuid(1), uuid(2)]);
    expect(corrected.body.readings[0]).toMatchObject({ revision: 1, reading });
    await bench.api.patch(path).send({ revision: 0, reading }).expect(409);
    expect((await bench.api.delete(path).expect(200)).body.readings).toHaveLength(1);
    await bench.api.patch(path).send({ revision: 1, reading }).expect(404);
    expect((await bench.api.post(`${path}/restore`).expect(200)).body.readings).toHaveLength(2);
    const stale = { ...job, circuit: { ...job.circuit, revision: 7 } };
    await add(stale, 3).expect(409);
  });

  it.each([
    ["post", "/api/jobs", { title: "" }, 400, "/title"],
    ["post", "/api/jobs", { title: "x".repeat(201) }, 400, "/title"],
    ["post", "/api/jobs", { title: "x", colour: "red" }, 400, ""],
    ["get", "/api/jobs?state=lost", undefined, 400, "/query/state"],
    ["get", "/api/jobs/not-a-uuid", undefined, 400, "/params/id"],
    ["get", `/api/jobs/${uuid(9)}`, undefined, 404, undefined],
    ["get", "/api/nothing", undefined, 404, undefined],
    ["post", "/api/cases", { text: "{" }, 422, "line 1, column 2"],
  ])("refuses %s %s clearly", async (method, path, body, status, pointer) => {
    const answer = await bench.api[method as "get" | "post"](path).send(body);
    expect(answer.status).toBe(status);
    expect(answer.headers["content-type"]).toMatch(/application\/problem\+json/);
    expect(answer.body).toMatchObject({ status, title: expect.stringMatching(/\w/) });
    if (pointer !== undefined) expect(answer.body.errors[0].pointer).toBe(pointer);
  });

  it("refuses readings that are none, bodies that are no JSON, and 5 MB", async () => {
    const job = await newJob();
    await add(job, 1, { quantity: "voltage", from: "B", value: "much" }).expect(400);
    await add(job, 1, { quantity: "voltage", from: "B;drop", value: 1 }).expect(400);
    const raw = (body: string) => bench.api.post("/api/jobs").set("Content-Type", "application/json").send(body);
    expect((await raw("{no")).body).toMatchObject({ status: 400, detail: "the body is not JSON" });
    const large = (await raw(JSON.stringify({ title: "x", trail: "#".repeat(5e6) }))).body;
    expect(large).toMatchObject({ status: 413, detail: "2 MB is the most that is taken here at once" });
    expect((await bench.api.get("/api/jobs").expect(200)).body.jobs).toHaveLength(1);
  });

  it("exports a case that imports again as the same job", async () => {
    const job = await newJob({ complaint: "Stops" });
    await add(job, 1).expect(201);
    const standing = { lifted: ["R1"], meters: [{ through: "R2", ohms: 2 }] };
    const { body: now } = await bench.api.get(`/api/jobs/${job.id}`).expect(200);
    await bench.api.patch(`/api/jobs/${job.id}`).send({ revision: now.revision, standing }).expect(200);
    const file = await bench.api.get(`/api/jobs/${job.id}/case`).expect(200);
    expect(file.headers["content-disposition"]).toContain("vent-drive.json");
    const { body } = await bench.api.post("/api/cases").send({ text: file.text }).expect(201);
    expect(body).toMatchObject({ title: "Vent drive", complaint: "Stops", state: "open", circuit: { trail: TRAIL } });
    expect(body.standing).toEqual(standing);
    expect(body.readings).toMatchObject([{ reading: READING }]);
    // What a file does not say is empty, and readings keep their order.
    const bare = { format: "clever-hound-case", version: 1, circuit: TRAIL };
    const readings = [5, 1, 3, 2, 4].map((value) => ({ quantity: "voltage", from: "B", value }));
    const { body: plain } = await bench.api
      .post("/api/cases")
      .send({ text: JSON.stringify({ ...bare, readings }) })
      .expect(201);
    expect(plain).toMatchObject({ title: "Imported case", complaint: "", finding: "", state: "open" });
    expect(plain.readings.map((r: { reading: { value: number } }) => r.reading.value)).toEqual([5, 1, 3, 2, 4]);
    const { body: none } = await bench.api
      .post("/api/cases")
      .send({ text: JSON.stringify({ ...bare, finding: "R1" }) })
      .expect(201);
    expect(none).toMatchObject({ finding: "R1", state: "solved" });
    await bench.api
      .post(`/api/jobs/${none.id}/readings`)
      .send({ id: uuid(77), circuitRevision: 0, reading: READING })
      .expect(201);
  });

  it("says every mistake of a case file, with its place, and stores nothing", async () => {
    const text = JSON.stringify({ format: "clever-hound-case", version: 1, circuit: "BT1 9V: R1 + R2 4q7" });
    const { body } = await bench.api.post("/api/cases").send({ text }).expect(422);
    expect(body.errors).toHaveLength(2);
    expect(body.errors[0].detail).toMatch(/circuit, line 1, column 9: R1 has no value/);
    expect((await bench.api.get("/api/jobs")).body.jobs).toEqual([]);
  });

  it("holds so many readings in a job and says so, in an import as one by one", async () => {
    const text = (n: number) =>
      JSON.stringify({
        format: "clever-hound-case",
        version: 1,
        circuit: "BT1 9V: R1 1k",
        readings: Array(n).fill({ quantity: "voltage", from: "+", value: 9 }),
      });
    const { body: refused } = await bench.api
      .post("/api/cases")
      .send({ text: text(2001) })
      .expect(422);
    expect(refused).toMatchObject({ title: "A job holds at most 2000 readings", detail: "this file has 2001" });
    const { body: full } = await bench.api
      .post("/api/cases")
      .send({ text: text(2000) })
      .expect(201);
    const one = { id: uuid(77), circuitRevision: 0, reading: READING };
    await bench.api.post(`/api/jobs/${full.id}/readings`).send(one).expect(422);
    await bench.api.delete(`/api/jobs/${full.id}/readings/${full.readings[0].id}`).expect(200);
    await bench.api.post(`/api/jobs/${full.id}/readings`).send(one).expect(201);
  });

  it("gives a copy of everything, which opens as it was", async () => {
    const job = await newJob();
    await add(job, 7).expect(201);
    const { body, headers } = await bench.api.get("/api/backup").responseType("blob").expect(200);
    expect(headers["content-disposition"]).toMatch(/^attachment; filename="?clever-hound-2026-01-05\.sqlite/);
    const copy = join(bench.folder, "copy.sqlite");
    writeFileSync(copy, body);
    const other = await openDatabase(copy);
    expect(await other("readings").select("id")).toEqual([{ id: uuid(7) }]);
    await other.destroy();
  });

  it("keeps everything over a restart, and loads the demo into an empty database only", async () => {
    const demo = join(import.meta.dirname, "../../demo");
    const loaded = await loadDemo(bench.db, demo, () => new Date(bench.clock));
    expect(loaded.jobs).toBeGreaterThanOrEqual(4);
    expect(loaded.circuits).toBe(14);
    await bench.db.destroy();
    await bench.open();
    expect(await loadDemo(bench.db, demo, () => new Date(bench.clock))).toEqual({ jobs: 0, circuits: 0 });
    expect((await bench.api.get("/api/jobs")).body.jobs).toHaveLength(loaded.jobs);
    for (const { partCount } of (await bench.api.get("/api/library")).body.circuits)
      expect(partCount).toBeGreaterThanOrEqual(4);
    expect(await bench.db.raw("pragma journal_mode")).toEqual([{ journal_mode: "wal" }]);
  });

  it("describes itself, and keeps strangers' scripts out", async () => {
    const { body, headers } = await bench.api.get("/api/openapi.json").expect(200);
    expect(Object.keys(body.paths)).toContain("/api/jobs/{id}/readings/{reading}");
    expect(body.paths["/api/jobs"].post.requestBody.content["application/json"].schema.required).toEqual(["title"]);
    expect(headers["content-security-policy"]).toMatch(/script-src 'self' 'wasm-unsafe-eval'(;|$)/);
    expect(headers["strict-transport-security"]).toBeUndefined();
  });
});

describe("the pages", () => {
  it("are served beside the API where there are any: every address that is no file is the one page", async () => {
    const pages = join(bench.folder, "pages");
    mkdirSync(join(pages, "assets"), { recursive: true });
    writeFileSync(join(pages, "index.html"), "<title>bench</title>");
    writeFileSync(join(pages, "assets", "a1.js"), "1");
    const served = (at: string) =>
      request(
        createApp({
          db: bench.db,
          log: pino({ level: "silent" }),
          now: () => new Date(bench.clock),
          pages: at,
          limits: PATIENT,
        }),
      );
    expect((await served(pages).get("/jobs/1/readings").expect(200)).text).toContain("bench");
    expect((await served(pages).get("/assets/a1.js").expect(200)).headers["cache-control"]).toMatch(/immutable/);
    await served(pages).get("/assets/a2.js").expect(404);
    const { headers } = await served(pages).get("/api/health").expect(200);
    expect(headers["x-powered-by"]).toBeUndefined();
    await served(join(bench.folder, "nowhere")).get("/jobs").expect(404);
  });

  it("hear of a change while they have the job open, and of no other job", async () => {
    const [one, other] = [await newJob(), await newJob({ title: "Pump" })];
    const app = createApp({
      db: bench.db,
      log: pino({ level: "silent" }),
      now: () => new Date(bench.clock),
      limits: PATIENT,
    });
    const server = app.listen(0);
    const { port } = server.address() as AddressInfo;
    const at = `http://127.0.0.1:${port}/api/jobs`;
    const stream = await fetch(`${at}/${one.id}/events?who=Ann`);
    expect(stream.headers.get("content-type")).toMatch(/^text\/event-stream/);
    const reader = (stream.body as ReadableStream<Uint8Array>).getReader();
    const change = (job: Job, title: string) =>
      fetch(`${at}/${job.id}`, {
        method: "PATCH",
        headers: { "content-type": "application/json" },
        body: JSON.stringify({ title, revision: job.revision }),
      });
    expect((await change(other, "Pump, well")).status).toBe(200);
    expect((await change(one, "")).status).toBe(400);
    expect((await change(one, "Vent")).status).toBe(200);
    let heard = "";
    while (!heard.includes("event: changed")) heard += new TextDecoder().decode((await reader.read()).value);
    expect(heard.split("event: changed")).toHaveLength(2);
    // Who else has it open, and who has left.
    const leaving = new AbortController();
    await fetch(`${at}/${one.id}/events?who=Bob`, { signal: leaving.signal });
    while (!heard.includes('["Ann","Bob"]')) heard += new TextDecoder().decode((await reader.read()).value);
    leaving.abort();
    heard = "";
    while (!heard.includes("event: here")) heard += new TextDecoder().decode((await reader.read()).value);
    expect(heard).toContain('data: ["Ann"]');
    await reader.cancel();
    server.closeAllConnections();
    await new Promise((done) => server.close(done));
  });
});
