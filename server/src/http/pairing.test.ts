import { mkdtempSync, rmSync, statSync, writeFileSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import express from "express";
import request from "supertest";
import { afterEach, beforeEach, expect, it } from "vitest";
import { type PairedList, pairedIn } from "./paired.ts";
import { Pairing } from "./pairing.ts";

let folder: string;
let paired: PairedList;
beforeEach(() => {
  folder = mkdtempSync(join(tmpdir(), "hound-paired-"));
  paired = pairedIn(join(folder, "list"));
});
afterEach(() => rmSync(folder, { recursive: true, force: true }));

/** A server that believes everybody to come from the network. */
function server(pairing: Pairing) {
  const app = express();
  app.use((req, _res, next) => {
    Object.defineProperty(req.socket, "remoteAddress", {
      value: req.headers["x-from"] ?? "192.168.1.7",
      configurable: true,
    });
    next();
  });
  app.use(express.json());
  app.post("/pair", pairing.pair);
  app.get("/jobs", pairing.guard, (_req, res) => {
    res.json({ jobs: [] });
  });
  app.use(pairing.guard);
  for (const { method, path, handle } of pairing.routes()) app[method](path, handle);
  app.use(((error, _req, res, _next) => {
    res.status({ "not-paired": 401, "wrong-code": 403, "too-many-tries": 429 }[error.code as string] ?? 500).end();
  }) as express.ErrorRequestHandler);
  return request(app);
}

it("lets in this machine, and who was told the code, also after a restart", async () => {
  let time = 0;
  const pairing = new Pairing("secret", paired, false, () => new Date(time));
  const api = server(pairing);
  expect(pairing.code).toMatch(/^\d{4} \d{4}$/);
  await api.get("/jobs").expect(401);
  for (const from of ["127.0.0.1", "::1", "::ffff:127.0.0.1"]) await api.get("/jobs").set("x-from", from).expect(200);
  await api.get("/jobs").set("x-from", "127.0.0.1.evil").expect(401);
  const { headers } = await api
    .post("/pair")
    .send({ code: pairing.code.replace(" ", "") })
    .expect(204);
  const [cookie] = headers["set-cookie"] as unknown as string[];
  expect(cookie).toMatch(/HttpOnly/);
  expect(cookie).toMatch(/SameSite=Strict/);
  const [kept] = cookie.split(";");
  await api.get("/jobs").set("Cookie", `other=1; ${kept}`).expect(200);
  await api.get("/jobs").set("Cookie", `${kept}x`).expect(401);
  await api.get("/jobs").set("Cookie", "hound_paired=.").expect(401);
  const again = server(new Pairing("secret", paired, false, () => new Date(time)));
  await again.get("/jobs").set("Cookie", kept).expect(200);
  const other = server(new Pairing("another", paired, false, () => new Date(time)));
  await other.get("/jobs").set("Cookie", kept).expect(401);
  // A pairing ends after a year, whatever the browser thinks of its cookie.
  time += 366 * 86_400_000;
  await again.get("/jobs").set("Cookie", kept).expect(401);
  time -= 366 * 86_400_000;
  // Nor does one that says it was made in years to come.
  time -= 3_600_000;
  await again.get("/jobs").set("Cookie", kept).expect(401);
  time += 3_600_000;
  const behindTls = server(new Pairing("secret", paired, true, () => new Date(time)));
  await behindTls.get("/jobs").set("Cookie", kept).expect(401);
  // Guessing comes to an end, and the right code with it, for a while.
  for (let i = 0; i < 10; i += 1) await api.post("/pair").send({ code: "x" }).expect(403);
  await api.post("/pair").send({ code: pairing.code }).expect(429);
  // It locks out neither others nor who sits at this machine.
  await api.post("/pair").set("x-from", "192.168.1.8").send({ code: pairing.code }).expect(204);
  for (let i = 0; i < 12; i += 1) await api.post("/pair").set("x-from", "127.0.0.1").send({ code: "x" }).expect(403);
  await api.post("/pair").set("x-from", "127.0.0.1").send({ code: pairing.code }).expect(204);
  time += 61_000;
  await api.post("/pair").send({ code: pairing.code }).expect(204);
});

it("lists who was let in, and lets in no more whose pairing was ended", async () => {
  let time = Date.UTC(2026, 4, 1);
  const pairing = new Pairing("secret", paired, false, () => new Date(time));
  const api = server(pairing);
  const pair = async (agent: string) => {
    const { headers } = await api.post("/pair").set("User-Agent", agent).send({ code: pairing.code }).expect(204);
    return (headers["set-cookie"] as unknown as string[])[0].split(";")[0];
  };
  const one = await pair("Some/1.0 (A bench computer; 64 bit) More/2");
  time += 1000;
  const two = await pair("Other");
  const listed = async (cookie: string) => (await api.get("/pairings").set("Cookie", cookie).expect(200)).body;
  const { list, own } = await listed(one);
  expect(list).toMatchObject([
    { from: "192.168.1.7", on: "", at: "2026-05-01T00:00:01.000Z" },
    { from: "192.168.1.7", on: "A bench computer; 64 bit", at: "2026-05-01T00:00:00.000Z" },
  ]);
  expect(own).toBe(list[1].id);
  // Nothing of the cookie is in the list.
  expect(JSON.stringify(list)).not.toContain(one.split("=")[1].slice(0, 20));
  await api.delete(`/pairings/${list[1].id}`).set("Cookie", two).expect(204);
  await api.get("/jobs").set("Cookie", one).expect(401);
  await api.get("/jobs").set("Cookie", two).expect(200);
  expect((await api.get("/pairings").set("x-from", "127.0.0.1").expect(200)).body).toMatchObject({
    list: [{}],
    own: null,
  });
  // It lasts, for this user alone; where it cannot be read nobody is let in.
  expect(statSync(join(folder, "list")).mode & 0o777).toBe(0o600);
  const again = () => server(new Pairing("secret", pairedIn(join(folder, "list")), false, () => new Date(time)));
  await again().get("/jobs").set("Cookie", two).expect(200);
  await again().get("/jobs").set("Cookie", one).expect(401);
  writeFileSync(join(folder, "list"), "[{");
  await again().get("/jobs").set("Cookie", two).expect(401);
  // After its year it is off the list as well.
  time += 366 * 86_400_000;
  expect((await api.get("/pairings").set("x-from", "127.0.0.1").expect(200)).body.list).toEqual([]);
});
