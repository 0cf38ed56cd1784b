import { type ChildProcess, spawn } from "node:child_process";
import { mkdtempSync, readdirSync, readFileSync, rmSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";

const ROOT = join(import.meta.dirname, "../..");

/** The built server on a database of its own. */
export class BenchServer {
  private child: ChildProcess | null = null;
  address = "";

  /** @param folder where its database is, which goes with it */
  constructor(
    private readonly env: Record<string, string> = {},
    readonly folder = mkdtempSync(join(tmpdir(), "hound-bench-")),
  ) {}

  get database(): string {
    return join(this.folder, "db.sqlite");
  }

  /** Starts it and pulls the plug after so many milliseconds, whatever it does then. */
  async startAndKill(after: number) {
    const starting = this.start().catch(() => {});
    await new Promise((done) => setTimeout(done, after));
    await this.stop("SIGKILL");
    await starting;
  }

  async start() {
    const env = { ...process.env, PORT: "0", HOUND_DB: this.database, ...this.env };
    const child = spawn(process.execPath, [join(ROOT, "server/dist/server.js")], { env });
    this.child = child;
    this.address = await new Promise((done, fail) => {
      let output = "";
      const read = (chunk: Buffer) => {
        output += chunk;
        const ready = /ready: (\S+?)\/?\s/.exec(output);
        if (ready) done(ready[1]);
      };
      child.stdout?.on("data", read);
      child.stderr?.on("data", read);
      child.on("exit", () => fail(new Error(output)));
    });
  }

  /** Ends it. @param signal SIGKILL pulls the plug */
  async stop(signal: "SIGTERM" | "SIGKILL" = "SIGTERM") {
    const { child } = this;
    if (!child || child.exitCode !== null || child.signalCode !== null) return;
    const ended = new Promise((done) => child.on("exit", done));
    child.kill(signal);
    await ended;
  }

  async remove() {
    await this.stop();
    rmSync(this.folder, { recursive: true, force: true });
  }

  /** Memory that the process holds, in megabytes (Linux). */
  memory(): number {
    const status = readFileSync(`/proc/${this.child?.pid}/status`, "utf8");
    return Number(/VmRSS:\s+(\d+)/.exec(status)?.[1] ?? 0) / 1000;
  }

  /** Files and connections that the process holds open (Linux). */
  files(): number {
    return readdirSync(`/proc/${this.child?.pid}/fd`).length;
  }

  /** Threads that the process has (Linux). */
  threads(): number {
    return readdirSync(`/proc/${this.child?.pid}/task`).length;
  }

  /** Sends JSON. @returns status and what was answered; throws where there is no answer */
  async send(
    method: string,
    path: string,
    body?: unknown,
    signal?: AbortSignal,
  ): Promise<{ status: number; json: never }> {
    const response = await fetch(`${this.address}/api${path}`, {
      method,
      ...(signal ? { signal } : {}),
      ...(body === undefined ? {} : { headers: { "Content-Type": "application/json" }, body: JSON.stringify(body) }),
    });
    const text = await response.text();
    return { status: response.status, json: (text === "" ? null : JSON.parse(text)) as never };
  }
}
