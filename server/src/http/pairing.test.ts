import express from "express";
import request from "supertest";
import { expect, it } from "vitest";
import { Pairing } from "./pairing.ts";

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
  app.use(((error, _req, res, _next) => {
    res.status({ "not-paired": 401, "wrong-code": 403, "too-many-tries": 429 }[error.code as string] ?? 500).end();
  }) as express.ErrorRequestHandler);
  return request(app);
}

it("lets in this machine, and who was told the code, also after a restart", async () => {
  let time = 0;
  const pairing = new Pairing("secret", false, () => new Date(time));
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
  const again = server(new Pairing("secret", false, () => new Date(time)));
  await again.get("/jobs").set("Cookie", kept).expect(200);
  const other = server(new Pairing("another", false, () => new Date(time)));
  await other.get("/jobs").set("Cookie", kept).expect(401);
  // A pairing ends after a year, whatever the browser thinks of its cookie.
  time += 366 * 86_400_000;
  await again.get("/jobs").set("Cookie", kept).expect(401);
  time -= 366 * 86_400_000;
  // Nor does one that says it was made in years to come.
  time -= 3_600_000;
  await again.get("/jobs").set("Cookie", kept).expect(401);
  time += 3_600_000;
  const behindTls = server(new Pairing("secret", true, () => new Date(time)));
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
