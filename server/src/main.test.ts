import { type ChildProcess, spawn, spawnSync } from "node:child_process";
import { mkdtempSync, readFileSync, rmSync, statSync, writeFileSync } from "node:fs";
import { get } from "node:https";
import { createServer } from "node:net";
import { networkInterfaces, tmpdir } from "node:os";
import { join } from "node:path";
import Database from "better-sqlite3";
import { afterEach, beforeAll, beforeEach, describe, expect, it } from "vitest";
import { build } from "../../scripts/bringUp.mjs";
import { openDatabase } from "./database/open.ts";

let folder: string;
let children: ChildProcess[];

// As users start it: what is compiled starts four times as fast as its sources do.
beforeAll(() => build({ web: false }));

beforeEach(() => {
  folder = mkdtempSync(join(tmpdir(), "hound-"));
  children = [];
});

afterEach(() => {
  for (const child of children) child.kill("SIGKILL");
  rmSync(folder, { recursive: true, force: true });
});

interface Running {
  readonly child: ChildProcess;
  readonly address: string;
  readonly said: () => string;
}

function start(env: Record<string, string>): Promise<Running> {
  const child = spawn(process.execPath, [join(import.meta.dirname, "../dist/server.js")], {
    env: { ...process.env, HOUND_DB: join(folder, "hound.sqlite"), ...env },
  });
  children.push(child);
  let output = "";
  return new Promise((done, fail) => {
    const read = (chunk: Buffer) => {
      output += chunk;
      const ready = /ready: (\S+)/.exec(output);
      if (ready) done({ child, address: ready[1], said: () => output });
    };
    child.stdout?.on("data", read);
    child.stderr?.on("data", read);
    child.on("exit", (code) => fail(new Error(`ended with ${code}: ${output}`)));
  });
}

async function until(is: () => boolean) {
  while (!is()) await new Promise((done) => setTimeout(done, 2));
}

const exited = (child: ChildProcess) => new Promise<number | null>((done) => child.on("exit", (code) => done(code)));

async function post(address: string, path: string, body: object) {
  const response = await fetch(`${address}api${path}`, {
    method: "POST",
    headers: { "Content-Type": "application/json" },
    body: JSON.stringify(body),
  });
  if (!response.ok) throw new Error(String(response.status));
  return (await response.json()) as { readonly id: string };
}

describe("the server process", () => {
  it("says in one sentence why it does not start, without a stack", async () => {
    const said = (env: Record<string, string>) =>
      start(env).then(
        () => "started",
        (error: Error) => error.message,
      );
    writeFileSync(join(folder, "text.sqlite"), "not a database, but long enough to look at".repeat(40));
    for (const [env, words] of [
      [{ PORT: "" }, /^ended with 1: PORT is “”: a port is a number/],
      [{ PORT: "0", HOUND_PATIENCE: "soon" }, /^ended with 1: HOUND_PATIENCE is “soon”: it is a number from 1/],
      [{ PORT: "0", HOUND_DB: join(folder, "text.sqlite") }, /text\.sqlite is no database\. Name another file/],
    ] as const) {
      const message = await said(env);
      expect(message).toMatch(words);
      expect(message.trim().split("\n")).toHaveLength(1);
    }
    const file = join(folder, "newer.sqlite");
    await (await openDatabase(file)).destroy();
    const newer = new Database(file);
    newer.exec("INSERT INTO knex_migrations (name, batch, migration_time) VALUES ('9999-flying', 9, 0)");
    newer.close();
    expect(await said({ PORT: "0", HOUND_DB: file })).toMatch(/written by a newer version of this program\. Update it/);
  });

  it("open to a network it asks other machines for its code, once, and this one for nothing", async () => {
    const running = await start({ PORT: "0", HOST: "0.0.0.0" });
    const { port } = new URL(running.address);
    const outside = Object.values(networkInterfaces()).flatMap((list) =>
      (list ?? []).filter((i) => i.family === "IPv4" && !i.internal),
    );
    expect((await fetch(`http://127.0.0.1:${port}/api/jobs`)).status).toBe(200);
    const code = /this code once: (\d{4} \d{4})/.exec(running.said())?.[1];
    expect(code).toBeDefined();
    for (const { address } of outside) {
      const there = `http://${address}:${port}/api`;
      expect((await fetch(`${there}/jobs`)).status).toBe(401);
      expect((await fetch(`${there}/health`)).status).toBe(200);
      const headers = { "Content-Type": "application/json" };
      const paired = await fetch(`${there}/pair`, { method: "POST", headers, body: JSON.stringify({ code }) });
      expect(paired.status).toBe(204);
      const [cookie] = (paired.headers.get("set-cookie") ?? "").split(";");
      expect((await fetch(`${there}/jobs`, { headers: { cookie } })).status).toBe(200);
    }
  });

  it("speaks TLS with a certificate of one's own", async () => {
    const [cert, key] = [join(folder, "cert.pem"), join(folder, "key.pem")];
    const made = spawnSync("openssl", [
      "req",
      "-x509",
      "-newkey",
      "rsa:2048",
      "-nodes",
      "-subj",
      "/CN=localhost",
      "-days",
      "2",
      "-keyout",
      key,
      "-out",
      cert,
    ]);
    await expect(start({ PORT: "0", HOUND_TLS_CERT: cert })).rejects.toThrow(/belong together/);
    // Where no certificate can be made, a missing one is what can be tried.
    if (made.status !== 0) {
      await expect(start({ PORT: "0", HOUND_TLS_CERT: cert, HOUND_TLS_KEY: key })).rejects.toThrow(/There is no file/);
      return;
    }
    const running = await start({ PORT: "0", HOUND_TLS_CERT: cert, HOUND_TLS_KEY: key });
    expect(running.address).toMatch(/^https:/);
    const status = await new Promise((done, fail) => {
      get(`${running.address}api/health`, { ca: readFileSync(cert), checkServerIdentity: () => undefined }, (r) =>
        done(r.statusCode),
      ).on("error", fail);
    });
    expect(status).toBe(200);
  });

  it("leaves all of the demo or none of it when its first start is broken off", async () => {
    const env = { PORT: "0", HOUND_DEMO: join(import.meta.dirname, "../../demo") };
    const began = start(env).catch(() => null);
    // In the middle of it: the database is there, and has grown by what was loaded so far.
    const written = () => statSync(join(folder, "hound.sqlite-wal"), { throwIfNoEntry: false })?.size ?? 0;
    await until(() => written() > 100_000);
    const [first] = children;
    const ended = first.exitCode === null ? exited(first) : null;
    first.kill("SIGKILL");
    await ended;
    await began;
    const running = await start(env);
    const { jobs } = (await (await fetch(`${running.address}api/jobs`)).json()) as { jobs: unknown[] };
    expect(jobs).toHaveLength(8);
  });

  it("loses no acknowledged write when it is killed in the middle of writing", async () => {
    const first = await start({ PORT: "0" });
    const job = await post(first.address, "/jobs", { title: "Killed", trail: "BT1 9V: [A] R1 1k" });
    const acknowledged: string[] = [];
    const ended = exited(first.child);
    const writer = async () => {
      for (;;) {
        const id = crypto.randomUUID();
        const reading = { quantity: "voltage", from: "A", value: acknowledged.length };
        await post(first.address, `/jobs/${job.id}/readings`, { id, circuitRevision: 0, reading });
        acknowledged.push(id);
      }
    };
    const writers = [writer(), writer(), writer()].map((w) => w.catch(() => {}));
    await until(() => acknowledged.length > 20);
    first.child.kill("SIGKILL");
    await Promise.all([ended, ...writers]);
    const second = await start({ PORT: "0" });
    const response = await fetch(`${second.address}api/jobs/${job.id}`);
    const kept = new Set(((await response.json()) as { readings: { id: string }[] }).readings.map((r) => r.id));
    expect(acknowledged.filter((id) => !kept.has(id))).toEqual([]);
  });

  it("takes the next port when the usual one is taken, refuses one that was asked for, and stops cleanly", async () => {
    const blocker = createServer().listen(4620, "127.0.0.1");
    await new Promise((done) => blocker.on("listening", done).on("error", done));
    const { PORT: _unset, ...rest } = process.env as Record<string, string>;
    const running = await start({ ...rest, PORT: undefined as unknown as string });
    expect(running.said()).toMatch(/Port 4620 is taken; trying 4621/);
    const port = new URL(running.address).port;
    await expect(start({ PORT: port, HOUND_DB: join(folder, "other.sqlite") })).rejects.toThrow(/The port is taken/);
    // A database is one process's: the second is told whose, and what to do.
    await expect(start({ PORT: "0" })).rejects.toThrow(
      new RegExp(`Another process \\(number ${running.child.pid}\\) has the database .*HOUND_DB`),
    );
    const ended = exited(running.child);
    running.child.kill("SIGINT");
    expect(await ended).toBe(0);
    blocker.close();
  });
});
