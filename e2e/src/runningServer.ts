import { type ChildProcess, spawn } from "node:child_process";
import { copyFileSync, cpSync, mkdtempSync, rmSync, symlinkSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import Database from "better-sqlite3";

export const ROOT = join(import.meta.dirname, "../..");

/** The built server on a database of its own, as a user would start it. */
export class RunningServer {
  private child: ChildProcess | null = null;
  private port = "0";
  readonly folder = mkdtempSync(join(tmpdir(), "hound-e2e-"));
  private home = ROOT;
  address = "";
  /** Where the meter is that streams, from the next start on. */
  meter: string | null = null;

  /** @param prepared a database that has the demo in it; without one it is made and loaded at the first start */
  constructor(prepared?: string) {
    if (prepared !== undefined) copyFileSync(prepared, this.database);
  }

  get database(): string {
    return join(this.folder, "hound.sqlite");
  }

  /** Where the pages lie that it serves. */
  get pages(): string {
    return join(this.home, "web/dist");
  }

  /** Goes on from a copy of what was built, in which a test can change something. */
  async moveOut() {
    await this.kill();
    this.home = join(this.folder, "home");
    for (const part of ["server/dist", "server/package.json", "web/dist"])
      cpSync(join(ROOT, part), join(this.home, part), { recursive: true });
    symlinkSync(join(ROOT, "node_modules"), join(this.home, "node_modules"));
    await this.start();
  }

  async start() {
    const env = {
      ...process.env,
      PORT: this.port,
      HOUND_DB: this.database,
      HOUND_DEMO: join(ROOT, "demo"),
      ...(this.meter === null ? {} : { HOUND_DEMO_METER: this.meter }),
    };
    const child = spawn(process.execPath, [join(this.home, "server/dist/server.js")], { env });
    this.child = child;
    this.address = await new Promise<string>((done, fail) => {
      let output = "";
      const read = (chunk: Buffer) => {
        output += chunk;
        const ready = /ready: (\S+)/.exec(output);
        if (ready) done(ready[1].replace(/\/$/, ""));
      };
      child.stdout?.on("data", read);
      child.stderr?.on("data", read);
      child.on("exit", () => fail(new Error(output)));
    });
    this.port = new URL(this.address).port;
  }

  /** Changes a stored text behind the database's back, as a bad disk would. */
  async damage(table: string, column: string, from: string, to: string) {
    const db = new Database(this.database);
    db.prepare(`UPDATE ${table} SET ${column} = replace(${column}, ?, ?)`).run(from, to);
    db.close();
  }

  /** Pulls the plug. */
  async kill() {
    await this.end("SIGKILL");
  }

  /** Stops it as Ctrl-C does: all that was written is in the one file then. */
  async stop() {
    await this.end("SIGINT");
  }

  async remove() {
    await this.kill();
    rmSync(this.folder, { recursive: true, force: true });
  }

  /** Address of the bench of a demo job, by a word of its title. */
  async bench(word: string, stage: string): Promise<string> {
    const response = await fetch(`${this.address}/api/jobs?search=${encodeURIComponent(word)}`);
    const { jobs } = (await response.json()) as { jobs: { id: string }[] };
    return `${this.address}/jobs/${jobs[0].id}/${stage}`;
  }

  private async end(signal: "SIGKILL" | "SIGINT") {
    const { child } = this;
    if (!child || child.exitCode !== null || child.signalCode !== null) return;
    const ended = new Promise((done) => child.on("exit", done));
    child.kill(signal);
    await ended;
  }
}
