import { mkdtempSync, rmSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import type { Knex } from "knex";
import { pino } from "pino";
import request from "supertest";
import { afterAll, beforeAll, describe, expect, it } from "vitest";
import { createApp } from "../app.ts";
import { openDatabase } from "../database/open.ts";
import { PATIENT } from "../test/patient.ts";

const CASE = {
  format: "clever-hound-case",
  version: 1,
  title: "Divider",
  circuit: "BT1 10V ri=0: [A] R1 1k + [B] R2 1k",
  readings: [{ quantity: "voltage", from: "B", value: 0.001, plusMinus: 0.01 }],
};

describe("the API for other programs", () => {
  let folder: string;
  let db: Knex;
  let api: ReturnType<typeof request>;

  beforeAll(async () => {
    folder = mkdtempSync(join(tmpdir(), "hound-"));
    db = await openDatabase(join(folder, "hound.sqlite"));
    api = request(createApp({ db, log: pino({ level: "silent" }), now: () => new Date(0), limits: PATIENT }));
  });
  afterAll(async () => {
    await db.destroy();
    rmSync(folder, { recursive: true, force: true });
  });

  it("ranks cases and says what to read next, in the order given, and answers others meanwhile", async () => {
    const cases = ["One", "Two"].map((title) => ({ ...CASE, title }));
    const [ranked, health] = await Promise.all([
      api.post("/api/rankings").send({ cases, min: 1e-3 }).expect(200),
      api.get("/api/health").expect(200),
    ]);
    expect(health.body).toMatchObject({ status: "ok", database: "ok" });
    const { rankings } = ranked.body;
    expect(rankings.map((r: { title: string }) => r.title)).toEqual(["One", "Two"]);
    const [first, second] = rankings[0].suspects.map((s: { faults: object[] }) => s.faults[0]);
    expect([first, second]).toEqual(expect.arrayContaining([expect.objectContaining({ part: "R1", mode: "open" })]));
    // Nothing is said of what there is nothing to say of.
    for (const silent of ["unknowns", "leadsForgotten"]) expect(rankings[0]).not.toHaveProperty(silent);
    expect(rankings[0]).toMatchObject({ verdict: { kind: expect.any(String) }, repairs: expect.any(Array) });
    const { plans } = (await api.post("/api/next").send({ cases, school: "halfSplit" }).expect(200)).body;
    expect(plans[1]).toMatchObject({ title: "Two", measurements: expect.any(Array) });
    expect((await api.get("/api/jobs").expect(200)).body.jobs).toEqual([]);
  });

  it("says which case is wrong, and where", async () => {
    const wrong = async (second: object) =>
      (await api.post("/api/rankings").send({ cases: [CASE, { ...CASE, ...second }] })).body;
    expect(await wrong({ circuit: "BT1 10V: R1 + R2 5" })).toMatchObject({
      status: 422,
      errors: [{ pointer: "/cases/1/circuit", detail: expect.stringMatching(/R1 has no value/) }],
    });
    expect(await wrong({ readings: [{ quantity: "voltage", from: "Z", value: 1 }] })).toMatchObject({
      status: 422,
      errors: [{ pointer: "/cases/1/readings/0", detail: expect.stringMatching(/no node Z/) }],
    });
    expect(await wrong({ readings: [{ quantity: "voltage", from: "B", value: 1e308 }] })).toMatchObject({
      status: 422,
    });
    expect(await wrong({ version: 7 })).toMatchObject({ status: 400 });
  });

  it("stops what takes longer than it may, says so, and goes on with the next", async () => {
    const limits = { readingSeconds: 0.0015, diagnosingSeconds: 0.0015 };
    const hasty = request(createApp({ db, log: pino({ level: "silent" }), now: () => new Date(0), limits }));
    const chain = `BT1 24V: [A] ${Array.from({ length: 300 }, (_, i) => `R${i + 1} 1k`).join(" + ")}`;
    const late = { status: 503, type: expect.stringMatching(/took-too-long$/) };
    expect((await hasty.post("/api/rankings").send({ cases: [{ ...CASE, circuit: chain }] })).body).toMatchObject({
      ...late,
      detail: "case 0 was not done within 0.0015 seconds",
    });
    expect((await hasty.post("/api/jobs").send({ title: "Long", trail: chain })).body).toMatchObject({
      ...late,
      detail: "it was not read within 0.0015 seconds",
    });
    // A short text is read at once: there is nothing to wait for.
    await hasty.post("/api/jobs").send({ title: "Short", trail: CASE.circuit }).expect(201);
  });

  it("takes no more cases in one request than it says", async () => {
    const cases = Array.from({ length: 65 }, () => CASE);
    expect((await api.post("/api/rankings").send({ cases })).body.status).toBe(400);
    expect((await api.post("/api/next").send({ cases: [] })).body.status).toBe(400);
    const { paths } = (await api.get("/api/openapi.json").expect(200)).body;
    expect(paths).toMatchObject({
      "/api/rankings": { post: expect.any(Object) },
      "/api/next": { post: expect.any(Object) },
    });
  });
});
