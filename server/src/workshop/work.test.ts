import { once } from "node:events";
import type { AddressInfo } from "node:net";
import express from "express";
import { pino } from "pino";
import { expect, it } from "vitest";
import { problemResponse } from "../http/problemResponse.ts";
import { type Tell, WorkInHand } from "./work.ts";

it("work in hand says how far it is, is stopped when asked, and is forgotten when it is done", async () => {
  const work = new WorkInHand();
  const begun = new Map<string, { tell: Tell; end: () => void; isGone: boolean }>();
  const app = express();
  app.get("/long", (request, response) => {
    const one = { tell: work.begin(request, response), end: () => response.end("done"), isGone: false };
    response.on("close", () => {
      one.isGone = !response.writableFinished;
    });
    begun.set(String(request.query.work), one);
    response.write("begun");
  });
  for (const { method, path, handle } of work.routes()) app[method](path, handle);
  app.use(problemResponse(pino({ level: "silent" })));
  const server = app.listen(0);
  await once(server, "listening");
  const address = `http://127.0.0.1:${(server.address() as AddressInfo).port}`;
  const ask = (id: string, method = "GET") => fetch(`${address}/work/${id}`, { method });
  const [one, other] = [crypto.randomUUID(), crypto.randomUUID()];
  const [first, second] = await Promise.all([one, other].map((id) => fetch(`${address}/long?work=${id}`)));
  expect(await (await ask(one)).json()).toEqual({ done: 0, of: 0 });
  begun.get(one)?.tell(3, 10);
  expect(await (await ask(one)).json()).toEqual({ done: 3, of: 10 });
  expect((await ask(one, "DELETE")).status).toBe(204);
  await expect(first.text()).rejects.toThrow();
  await expect.poll(() => begun.get(one)?.isGone).toBe(true);
  expect((await ask(one)).status).toBe(404);
  // The other goes on to its end.
  begun.get(other)?.end();
  expect(await second.text()).toBe("begundone");
  await expect.poll(async () => (await ask(other)).status).toBe(404);
  // Without an id, or under one that is no id, it is work like any other, which nobody can ask about.
  await fetch(`${address}/long?work=x`).then((r) => r.body?.cancel());
  expect((await ask("x")).status).toBe(400);
  server.close();
  server.closeAllConnections();
});
