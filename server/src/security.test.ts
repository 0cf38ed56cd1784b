import { once } from "node:events";
import { mkdtempSync, rmSync, writeFileSync } from "node:fs";
import { request as ask } from "node:http";
import type { AddressInfo } from "node:net";
import { tmpdir } from "node:os";
import { join } from "node:path";
import type { Knex } from "knex";
import { pino } from "pino";
import request from "supertest";
import { afterEach, beforeEach, describe, expect, it } from "vitest";
import { createApp } from "./app.ts";
import { openDatabase } from "./database/open.ts";
import { PATIENT } from "./test/patient.ts";

/** What `docs/security.md` says of the server, and no other test shows. */
let folder: string;
let db: Knex;
let app: ReturnType<typeof createApp>;
let api: ReturnType<typeof request>;

beforeEach(async () => {
  folder = mkdtempSync(join(tmpdir(), "hound-"));
  db = await openDatabase(join(folder, "hound.sqlite"));
  writeFileSync(join(folder, "index.html"), "<title>The page</title>");
  writeFileSync(join(folder, "secret.txt"), "for nobody");
  app = createApp({ db, log: pino({ level: "silent" }), now: () => new Date(0), pages: folder, limits: PATIENT });
  api = request(app);
});
afterEach(async () => {
  await db.destroy();
  rmSync(folder, { recursive: true, force: true });
});

const make = (fields: object = {}) => api.post("/api/jobs").send({ title: "One", ...fields });

describe("what the server sends", () => {
  it("is text of a type that is said, framed by nobody, readable to no other site, kept by no cache", async () => {
    for (const path of ["/api/jobs", "/", "/api/nothing"]) {
      const { headers } = await api.get(path).set("Origin", "http://evil.example");
      expect(headers["content-security-policy"]).toMatch(/default-src 'self'/);
      expect(headers["content-security-policy"]).toMatch(/frame-ancestors 'self'/);
      expect(headers["content-security-policy"]).toMatch(/object-src 'none'/);
      expect(headers["content-security-policy"]).not.toMatch(/script-src[^;]*'unsafe-(?:inline|eval)'/);
      expect(headers["x-content-type-options"]).toBe("nosniff");
      expect(headers["referrer-policy"]).toBe("no-referrer");
      expect(headers["access-control-allow-origin"]).toBeUndefined();
      expect(headers["x-powered-by"]).toBeUndefined();
      expect(headers["content-type"]).toMatch(/^(?:application\/(?:problem\+)?json|text\/html); charset=utf-8$/);
      if (path.startsWith("/api")) expect(headers["cache-control"]).toBe("no-store");
    }
  });

  it("is never taken for a page: scripts in a title come back as JSON, and in a file's name not at all", async () => {
    const { body } = await make({ title: '<script>alert(1)</script>"; x=.html' }).expect(201);
    const { headers, text } = await api.get(`/api/jobs/${body.id}/case`).expect(200);
    expect(headers["content-type"]).toMatch(/^application\/json/);
    expect(headers["content-disposition"]).toMatch(/^attachment; filename="?[a-z0-9-]+\.json"?$/);
    expect(JSON.parse(text).title).toContain("<script>");
  });

  it("tells nothing of its inside when something goes wrong", async () => {
    await db.schema.dropTable("history");
    const { body } = await make().expect(500);
    expect(body).toEqual({
      type: "/problems/internal",
      title: "Something went wrong on our side",
      status: 500,
    });
  });
});

describe("what is sent to the server", () => {
  it("reaches the database as values, never as words of its language", async () => {
    await make({ title: "'; DROP TABLE jobs; --" }).expect(201);
    for (const search of ["' OR 1=1 --", "%", "_", '"', "\\", "'; DELETE FROM jobs; --"])
      expect((await api.get("/api/jobs").query({ search }).expect(200)).body.total).toBeLessThanOrEqual(1);
    await api.get("/api/jobs/x' OR '1'='1").expect(400);
    expect((await api.get("/api/jobs").query({ search: "OR 1=1" })).body.total).toBe(0);
    expect((await api.get("/api/jobs")).body.total).toBe(1);
  });

  it("brings in no field that is not asked for, and no prototype", async () => {
    await make({ deletedAt: "now" }).expect(400);
    await api
      .post("/api/jobs")
      .set("Content-Type", "application/json")
      .send('{"title":"x","__proto__":{"isAdmin":true}}');
    expect(({} as { isAdmin?: boolean }).isAdmin).toBeUndefined();
    await api.get("/api/jobs?limit=1&limit=2").expect(400);
  });

  it("leads to no file but the pages, by whatever path", async () => {
    const server = app.listen(0, "127.0.0.1");
    await once(server, "listening");
    const { port } = server.address() as AddressInfo;
    const bodyAt = (path: string) =>
      new Promise<string>((done, fail) => {
        ask({ port, host: "127.0.0.1", path }, (response) => {
          let text = "";
          response.on("data", (chunk) => (text += chunk)).on("end", () => done(text));
        })
          .on("error", fail)
          .end();
      });
    for (const path of [
      "/../package.json",
      "/assets/..%2f..%2fpackage.json",
      "/%2e%2e/%2e%2e/etc/passwd",
      "/.git/config",
      "/hound.sqlite/../../etc/passwd",
    ])
      expect(await bodyAt(path), path).not.toMatch(/root:|"name"|\[core\]/);
    server.close();
  });

  it("gives nothing of the API to a frame or link of another site; its pages open from anywhere", async () => {
    const from = (path: string, site: string) =>
      api.get(path).set({ "Sec-Fetch-Site": site, "Sec-Fetch-Mode": "navigate", "Sec-Fetch-Dest": "iframe" });
    for (const path of ["/api/backup", "/api/workshop.zip", "/API/backup", "/api/jobs"])
      for (const site of ["cross-site", "same-site"]) expect((await from(path, site)).status, path).toBe(403);
    await from("/jobs", "cross-site").expect(200);
    await from("/api/jobs", "same-origin").expect(200);
    await from("/api/jobs", "none").expect(200);
  });

  it("changes nothing by a method that is for reading, nor by one that is smuggled in", async () => {
    const { body } = await make().expect(201);
    for (const path of [`/api/jobs/${body.id}/restore`, "/api/copies/restore", "/api/restore"])
      expect((await api.get(path)).status).toBeGreaterThanOrEqual(400);
    await api.get(`/api/jobs/${body.id}`).set("X-HTTP-Method-Override", "DELETE").expect(200);
    await api.post(`/api/jobs/${body.id}?_method=DELETE`).send({}).expect(404);
    expect((await api.trace("/api/jobs")).status).toBeGreaterThanOrEqual(400);
    await api.patch(`/api/jobs/${body.id}`).set("If-Match", '"x"').send({ revision: 0, title: "Two" }).expect(412);
    const { body: now } = await api.get(`/api/jobs/${body.id}`);
    expect(now).toMatchObject({ title: "One", deletedAt: null });
  });
});
