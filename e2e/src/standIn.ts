import { type ChildProcess, spawn } from "node:child_process";
import { connect } from "node:net";
import { join } from "node:path";
import { createInterface } from "node:readline";

const ROOT = join(import.meta.dirname, "../..");

/** So many answers that differ by no more than this are of a meter that has settled. */
const STEADY = 4;
const NOISE = 0.02;
/** Milliseconds after which its probes are where they were put. */
const MOVED = 400;

/** The simulated meter on the demo's circuits, as `npm run meter` starts it. */
export class StandIn {
  private child: ChildProcess | null = null;
  private port = "0";
  address = "";

  async start() {
    const script = join(ROOT, "scripts/meter.mjs");
    const child = spawn(process.execPath, [script, join(ROOT, "demo/cases"), "--port", this.port], { cwd: ROOT });
    this.child = child;
    this.address = await new Promise<string>((done, fail) => {
      const said: string[] = [];
      createInterface({ input: child.stdout }).on("line", (line) => {
        said.push(line);
        const at = /at (\S+:\d+)/.exec(line)?.[1];
        if (at) done(at);
      });
      child.stderr?.on("data", (chunk) => said.push(String(chunk)));
      child.on("exit", () => fail(new Error(said.join("\n"))));
    });
    this.port = this.address.slice(this.address.lastIndexOf(":") + 1);
  }

  async kill() {
    const { child } = this;
    this.child = null;
    if (!child || child.exitCode !== null || child.signalCode !== null) return;
    const ended = new Promise((done) => child.on("exit", done));
    child.kill("SIGKILL");
    await ended;
  }

  /** What it shows at a point, once settled: the answer to one query. */
  read(title: string, reading: object, query = "MEAS:VOLT:DC?"): Promise<number> {
    return new Promise((done, fail) => {
      const socket = connect({ host: "127.0.0.1", port: Number(this.port) });
      const shown: number[] = [];
      socket.on("error", fail);
      createInterface({ input: socket })
        .on("line", (line) => {
          shown.push(Number(line));
          const last = shown.slice(-STEADY);
          if (last.length < STEADY || Math.max(...last) - Math.min(...last) > NOISE) {
            setTimeout(() => socket.write(`${query}\n`), 60);
            return;
          }
          done(shown.at(-1) as number);
          socket.destroy();
        })
        .on("error", () => {});
      socket.write(`SIM:CASE ${JSON.stringify({ title })}\nSIM:PROB ${JSON.stringify(reading)}\n`);
      // While the probes are moved it shows nothing, which is steady too.
      setTimeout(() => socket.write(`${query}\n`), MOVED);
    });
  }
}
