import { once } from "node:events";
import { mkdtempSync, readFileSync, rmSync, statSync } from "node:fs";
import { Agent, request } from "node:http";
import type { AddressInfo, Socket } from "node:net";
import { tmpdir } from "node:os";
import { join } from "node:path";
import express from "express";
import { pino } from "pino";
import { afterEach, beforeEach, expect, it } from "vitest";
import { problemResponse } from "./problemResponse.ts";
import { receive } from "./receive.ts";

let folder: string;
beforeEach(() => {
  folder = mkdtempSync(join(tmpdir(), "hound-receive-"));
});
afterEach(() => rmSync(folder, { recursive: true, force: true }));

it("takes a file as it is sent, and answers what is too large on a connection that goes on", async () => {
  const app = express();
  const file = join(folder, "sent");
  app.post("/", (sent, response, next) => {
    receive(sent, file, 1_000_000).then(() => response.json("kept"), next);
  });
  app.use(problemResponse(pino({ level: "silent" })));
  const server = app.listen(0);
  await once(server, "listening");
  const agent = new Agent({ keepAlive: true, maxSockets: 1 });
  const sockets = new Set<Socket>();
  const send = async (bytes: Buffer) => {
    const { port } = server.address() as AddressInfo;
    const asked = request({ port, method: "POST", agent });
    asked.on("socket", (socket) => sockets.add(socket));
    asked.end(bytes);
    const [response] = await once(asked, "response");
    response.resume();
    await once(response, "end");
    return response.statusCode;
  };
  const small = Buffer.alloc(900_000, "x");
  expect(await send(small)).toBe(200);
  expect(readFileSync(file).equals(small)).toBe(true);
  expect(statSync(file).mode & 0o777).toBe(0o600);
  expect(await send(Buffer.alloc(8_000_000))).toBe(413);
  expect(await send(small)).toBe(200);
  expect(sockets.size).toBe(1);
  agent.destroy();
  server.close();
});
