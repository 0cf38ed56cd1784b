import { readdirSync, readFileSync, writeFileSync } from "node:fs";
import { join } from "node:path";
import { Job, JobHistory } from "@hound/core/record";
import { describe, expect, it } from "vitest";
import { type Health, healthOf, WriteFailures } from "../database/health.ts";
import { apiBench } from "../test/apiBench.ts";

const TRAIL = "BT1 24V: F1 1A + [A] R1 220 + [B] R2 1k";
const uuid = (n: number) => `00000000-0000-4000-8000-${String(n).padStart(12, "0")}`;
const volts = (value: number) => ({ quantity: "voltage", from: "B", value });

const bench = apiBench();

async function jobWith(...values: number[]): Promise<Job> {
  const { body } = await bench.api.post("/api/jobs").send({ title: "Vent drive", trail: TRAIL }).expect(201);
  for (const [i, value] of values.entries())
    await bench.api
      .post(`/api/jobs/${body.id}/readings`)
      .send({ id: uuid(i), circuitRevision: 0, reading: volts(value) })
      .expect(201);
  return get(body.id);
}

const get = async (id: string) => Job.parse((await bench.api.get(`/api/jobs/${id}`).expect(200)).body);
const valuesOf = (job: Job) => job.readings.map((r) => "value" in r.reading && r.reading.value);

it("asking how the database is takes nothing back that is written beside it", async () => {
  const failures = new WriteFailures(() => new Date());
  const rows = Array.from({ length: 60 }, (_, n) => ({ key: `beside ${n}`, data: "{}" }));
  const asked = rows.flatMap((row) => [
    healthOf(bench.db, failures),
    bench.db("workshop").insert(row),
    healthOf(bench.db, failures),
  ]);
  const answers = (await Promise.all(asked)).filter((a) => typeof a === "object" && "database" in a);
  expect(new Set(answers.map((a) => (a as Health).database))).toEqual(new Set(["ok"]));
  expect(await bench.db("workshop").whereLike("key", "beside %")).toHaveLength(rows.length);
});

describe("rows that a bad disk changed", () => {
  /** Changes one letter of a stored text, as a flipped bit would: the database itself notices nothing. */
  const flip = (table: string, column: string, where: object, at: string, to: string) =>
    bench
      .db(table)
      .where(where)
      .update({ [column]: bench.db.raw(`replace(${column}, ?, ?)`, [at, to]) });

  it("are noticed and set apart, while the rest opens, exports, takes more and is deleted", async () => {
    const job = await jobWith(7.4, 7.5, 7.6);
    await flip("readings", "data", { id: uuid(1) }, "7.5", "1.5");
    await flip("jobs", "title", { id: job.id }, "Vent", "Vint");
    const seen = await get(job.id);
    expect(valuesOf(seen)).toEqual([7.4, 7.6]);
    expect(seen.damaged.map((d) => d.what).sort()).toEqual(["fields", "reading"]);
    expect(seen.damaged.find((d) => d.what === "reading")).toMatchObject({
      id: uuid(1),
      text: expect.stringMatching(/1\.5/),
    });
    expect((await bench.api.get(`/api/jobs/${job.id}/case`).expect(200)).body.readings).toHaveLength(2);
    expect((await bench.api.get("/api/jobs").expect(200)).body.total).toBe(1);
    await bench.api.delete(`/api/jobs/${job.id}/readings/${uuid(1)}`).expect(200);
    await bench.api.patch(`/api/jobs/${job.id}`).send({ revision: seen.revision, title: "Vent drive" }).expect(200);
    expect((await get(job.id)).damaged).toEqual([]);
    await bench.api.delete(`/api/jobs/${job.id}`).expect(204);
  });

  it("leave the last whole version of a circuit in force, until another is stored", async () => {
    const job = await jobWith();
    await bench.api
      .put(`/api/jobs/${job.id}/circuit`)
      .send({ revision: 0, trail: `${TRAIL} + R3 5` })
      .expect(200);
    await flip("circuits", "trail", { job_id: job.id, revision: 1 }, "R3 5", "R3 7");
    const seen = await get(job.id);
    expect(seen.circuit).toEqual({ trail: TRAIL, revision: 1 });
    expect(seen.damaged).toMatchObject([{ what: "circuit", id: "1", text: `${TRAIL} + R3 7` }]);
    // What is in force is stored anew: the damaged version is one of the past.
    await bench.api.put(`/api/jobs/${job.id}/circuit`).send({ revision: 1, trail: TRAIL }).expect(200);
    expect(await get(job.id)).toMatchObject({ circuit: { trail: TRAIL, revision: 2 }, damaged: [] });
  });

  it("are found in every text that is kept, wherever the byte is", async () => {
    const job = await jobWith(7.4);
    for (const [table, column] of [
      ["jobs", "title"],
      ["jobs", "settings"],
      ["circuits", "trail"],
      ["circuits", "created_at"],
      ["readings", "data"],
      ["readings", "created_at"],
    ] as const) {
      const [row] = await bench.db(table);
      const text: string = row[column];
      for (const at of [0, text.length >> 1, text.length - 1]) {
        const changed = text.slice(0, at) + String.fromCharCode(text.charCodeAt(at) ^ 1) + text.slice(at + 1);
        await bench.db(table).update({ [column]: changed });
        expect((await get(job.id)).damaged, `${table}.${column} at ${at}`).toHaveLength(1);
      }
      await bench.db(table).update({ [column]: text });
    }
    expect((await get(job.id)).damaged).toEqual([]);
  });
});

describe("the history of a job", () => {
  const history = async (id: string, query = "") =>
    JobHistory.parse((await bench.api.get(`/api/jobs/${id}/history${query}`).expect(200)).body);

  it("has every field, reading and version as it was, and what was deleted can be restored", async () => {
    const job = await jobWith(7.4);
    const change = (fields: object, revision: number) =>
      bench.api
        .patch(`/api/jobs/${job.id}`)
        .send({ revision, ...fields })
        .expect(200);
    await change({ finding: "R2 open", meter: { voltage: { inputResistance: 1e6 } } }, 1);
    await change({ finding: "F1 blown", standing: { lifted: ["R2"] } }, 2);
    await bench.api.put(`/api/jobs/${job.id}/circuit`).send({ revision: 0, trail: `${TRAIL} + R3 5` });
    await bench.api
      .patch(`/api/jobs/${job.id}/readings/${uuid(0)}`)
      .send({ revision: 0, reading: volts(7.5) })
      .expect(200);
    await bench.api.delete(`/api/jobs/${job.id}/readings/${uuid(0)}`).expect(200);
    // A repeat changes nothing, and is told once.
    await bench.api.delete(`/api/jobs/${job.id}/readings/${uuid(0)}`).expect(200);
    await bench.api.delete(`/api/jobs/${job.id}`).expect(204);
    await bench.api.post(`/api/jobs/${job.id}/restore`).expect(200);
    const { entries, total } = await history(job.id);
    expect(entries.map((e) => ("field" in e ? e.field : "done" in e ? `${e.what} ${e.done}` : e.what))).toEqual([
      "job restored",
      "job deleted",
      "reading deleted",
      "reading corrected",
      "circuit",
      "standing",
      "finding",
      "meter",
      "finding",
      "state",
      "reading taken",
      "job made",
    ]);
    expect(total).toBe(12);
    expect(entries.find((e) => e.what === "field" && e.field === "finding")).toMatchObject({
      before: "R2 open",
      after: "F1 blown",
    });
    expect(entries.find((e) => e.what === "reading" && e.done === "corrected")).toMatchObject({
      before: volts(7.4),
      after: volts(7.5),
    });
    await bench.api.post(`/api/jobs/${job.id}/readings/${uuid(0)}/restore`).expect(200);
    expect(valuesOf(await get(job.id))).toEqual([7.5]);
    const short = await history(job.id, "?limit=2");
    expect([short.entries.length, short.total]).toEqual([2, 13]);
  });
});

describe("the same thing sent twice", () => {
  it("is the same thing: a job, an import, a circuit of the library", async () => {
    const [a, b, c] = [uuid(7), uuid(8), uuid(9)];
    const file = JSON.stringify({ format: "clever-hound-case", version: 1, circuit: TRAIL, readings: [volts(3)] });
    for (const _ of [1, 2]) {
      expect((await bench.api.post("/api/jobs").send({ id: a, title: "One" }).expect(201)).body.id).toBe(a);
      expect((await bench.api.post("/api/cases").send({ id: b, text: file }).expect(201)).body.id).toBe(b);
      expect(
        (await bench.api.post("/api/library").send({ id: c, name: "Kept", trail: TRAIL }).expect(201)).body.id,
      ).toBe(c);
    }
    expect((await bench.api.get("/api/jobs")).body.total).toBe(2);
    expect((await bench.api.get("/api/library")).body.total).toBe(1);
    expect(valuesOf(await get(b))).toEqual([3]);
  });

  it("what an import may hold is what may be typed", async () => {
    const at = async (fields: object) =>
      (
        await bench.api
          .post("/api/cases")
          .send({ text: JSON.stringify({ format: "clever-hound-case", version: 1, circuit: TRAIL, ...fields }) })
          .expect(422)
      ).body.errors[0];
    expect((await at({ title: "x".repeat(201) })).detail).toMatch(/title/);
    expect((await at({ finding: "x".repeat(2001) })).detail).toMatch(/finding/);
    expect(await at({ circuit: `${TRAIL}\n${"# ".repeat(150_000)}` })).toMatchObject({
      pointer: expect.stringMatching(/^line \d+, column \d+$/),
    });
  });
});

describe("a backup put back", () => {
  const upload = (bytes: Buffer, name = "mine.sqlite") =>
    bench.api
      .post(`/api/restore?name=${name}`)
      .set("Content-Type", "application/octet-stream")
      .serialize((b) => b)
      .send(bytes as never);

  it("brings everything back while the server runs, and keeps what it replaces", async () => {
    const job = await jobWith(7.4, 7.5);
    const { body: backup } = await bench.api
      .get("/api/backup")
      .buffer()
      .parse((response, done) => {
        const chunks: Buffer[] = [];
        response.on("data", (chunk: Buffer) => chunks.push(chunk));
        response.on("end", () => done(null, Buffer.concat(chunks)));
      });
    await bench.api.delete(`/api/jobs/${job.id}/readings/${uuid(0)}`).expect(200);
    await bench.api.post("/api/jobs").send({ title: "Later" }).expect(201);
    const { body } = await upload(backup).expect(200);
    expect(body.counts).toEqual({ jobs: 1, readings: 2, circuits: 0 });
    expect(valuesOf(await get(job.id))).toEqual([7.4, 7.5]);
    expect((await bench.api.get("/api/jobs")).body.total).toBe(1);
    const { copies } = (await bench.api.get("/api/copies").expect(200)).body;
    expect(copies.map((c: { name: string }) => c.name)).toEqual([body.kept]);
    await bench.api.post("/api/copies/restore").send({ name: body.kept }).expect(200);
    expect((await bench.api.get("/api/jobs")).body.total).toBe(2);
    await bench.db.destroy();
    await bench.open();
    expect((await bench.api.get("/api/jobs")).body.total).toBe(2);
  });

  it("is refused where it is none, and nothing changes", async () => {
    await jobWith(7.4);
    const { body } = await upload(Buffer.from("not a database ".repeat(100)), "picture.png").expect(422);
    expect(body).toMatchObject({
      title: "This cannot be put back; nothing was changed",
      detail: "picture.png is no database of this program.",
    });
    await bench.api.post("/api/restore").send({ a: 1 }).expect(415);
    await bench.api.post("/api/copies/restore").send({ name: "../../etc/passwd" }).expect(404);
    writeFileSync(
      join(bench.folder, "hound.sqlite.backup-x"),
      readFileSync(join(bench.folder, "hound.sqlite")).subarray(0, 5000),
    );
    await bench.api.post("/api/copies/restore").send({ name: "hound.sqlite.backup-x" }).expect(422);
    expect(readdirSync(bench.folder).filter((name) => name.includes("replaced"))).toEqual([]);
    expect((await bench.api.get("/api/jobs")).body.total).toBe(1);
  });
});
