import { strToU8, unzipSync, zipSync } from "fflate";
import { picture } from "./picture.ts";
import { BenchServer } from "./server.ts";
import { row } from "./timing.ts";

/**
 * What is meant to stop the server: packed files that lie about their size, thousands of jobs at once, an export full of
 * pictures, heavy work that nobody waits for, an end in the middle of it. Seconds in all, the longest that health took
 * meanwhile in milliseconds, most megabytes and threads; faults are what was not held.
 */
const JOBS = Number(process.env.HOUND_JOBS ?? 2000);
const PICTURES = Number(process.env.HOUND_PICTURES ?? 120);
const ABANDONED = Number(process.env.HOUND_ABANDONED ?? 200);
/** How many times slower than usual the machine is. */
const PATIENCE = Number(process.env.HOUND_PATIENCE ?? 1);
/** Threads that may stay for what comes next. */
const SPARE = 3;
const TRAIL = "BT1 24V: F1 1A + [A] R1 220 + [B] R2 1k";
const faults: string[] = [];

interface Seen {
  readonly answer: unknown;
  readonly status: number;
}

/** Does something, and watches the server meanwhile. */
async function watched(server: BenchServer, what: string, work: () => Promise<Seen>, due: number): Promise<Seen> {
  const before = { megabytes: server.memory(), threads: server.threads() };
  const most = { health: 0, ...before };
  let isDone = false;
  const watch = (async () => {
    while (!isDone) {
      const start = performance.now();
      const { status } = await server.send("GET", "/health");
      if (status !== 200) faults.push(`${what}: health says ${status}`);
      most.health = Math.max(most.health, performance.now() - start);
      most.megabytes = Math.max(most.megabytes, server.memory());
      most.threads = Math.max(most.threads, server.threads());
      await new Promise((done) => setTimeout(done, 20));
    }
  })();
  const start = performance.now();
  const seen = await work();
  const seconds = (performance.now() - start) / 1000;
  isDone = true;
  await watch;
  if (seen.status !== due) faults.push(`${what}: answered with ${seen.status}`);
  row(what, String(seen.status), seconds, most.health, most.megabytes - before.megabytes, String(most.threads));
  return seen;
}

async function send(server: BenchServer, path: string, body: Uint8Array): Promise<Seen> {
  const headers = { "Content-Type": "application/octet-stream" };
  const response = await fetch(`${server.address}/api${path}`, { method: "POST", headers, body: Buffer.from(body) });
  return { status: response.status, answer: await response.json() };
}

/** A zip whose records say that each file has so many bytes. APPNOTE 4.3.7 and 4.3.12. */
function saying(zip: Uint8Array, size: number): Uint8Array {
  const bytes = Buffer.from(zip);
  for (let at = 0; at + 46 <= bytes.length; at += 1) {
    if (bytes.readUInt32LE(at) === 0x04034b50) bytes.writeUInt32LE(size, at + 22);
    if (bytes.readUInt32LE(at) === 0x02014b50) bytes.writeUInt32LE(size, at + 24);
  }
  return bytes;
}

const [one, two] = [new BenchServer(), new BenchServer()];
try {
  await one.start();
  await two.start();
  row("", "answer", "seconds", "health ms", "MB more", "threads");

  const zeros = zipSync({ "workshop.json": new Uint8Array(200_000_000) });
  await watched(one, "200 MB of nothing that say 1 kB", () => send(one, "/workshop", saying(zeros, 1000)), 422);
  await watched(one, "200 MB of nothing that say so", () => send(one, "/workshop", zeros), 413);

  // A workshop of one job, and of as many as asked for.
  const { json: job } = await one.send("POST", "/jobs", { title: "Vent", trail: TRAIL });
  const { id } = job as { id: string };
  const folder = async () => new Uint8Array(await (await fetch(`${one.address}/api/workshop.zip`)).arrayBuffer());
  const files = unzipSync(await folder());
  const text = new TextDecoder().decode(files[Object.keys(files).find((path) => path.endsWith("job.json")) as string]);
  const many: Record<string, Uint8Array> = { "workshop.json": files["workshop.json"] };
  for (let n = 0; n < JOBS; n += 1) many[`jobs/${n}/job.json`] = strToU8(text.replaceAll(id, crypto.randomUUID()));
  await watched(two, `${JOBS} jobs brought in`, () => send(two, "/workshop", zipSync(many, { level: 1 })), 200);

  const noise = picture(700, 500);
  for (let n = 0; n < PICTURES; n += 1) await send(one, `/jobs/${id}/pictures?name=${n}`, noise);
  const taken = async () => ({ status: 200, answer: (await folder()).length });
  const { answer: bytes } = await watched(one, `an export with ${PICTURES} pictures`, taken, 200);
  if (Number(bytes) < 50_000 * PICTURES) faults.push(`the export has only ${bytes} bytes`);

  // A ladder is the worst to plan on: it is asked for and left.
  const ladder = `BT1 24V: [A] ${Array.from({ length: 40 }, (_, i) => `R${3 * i + 1} 100 + (R${3 * i + 2} 1k | R${3 * i + 3} 2k)`).join(" + ")}`;
  const cases = [
    {
      format: "clever-hound-case",
      version: 1,
      circuit: ladder,
      readings: [{ quantity: "voltage", from: "A", value: 23 }],
    },
  ];
  const before = { megabytes: one.memory(), threads: one.threads() };
  const abandon = async () => {
    let left = ABANDONED;
    const leave = async () => {
      while (left > 0) {
        left -= 1;
        const signal = AbortSignal.timeout(150);
        await one.send("POST", "/next", { cases }, signal).catch(() => {});
      }
    };
    await Promise.all(Array.from({ length: 20 }, leave));
    return { status: 200, answer: null };
  };
  await watched(one, `${ABANDONED} plans asked for and left`, abandon, 200);
  const left = performance.now();
  const isBack = () => one.threads() <= before.threads + SPARE;
  while (!isBack() && performance.now() - left < 10_000 * PATIENCE) await new Promise((done) => setTimeout(done, 100));
  if (!isBack()) faults.push(`${one.threads()} threads are left of ${before.threads}`);
  row("after it", "", (performance.now() - left) / 1000, "", one.memory() - before.megabytes, String(one.threads()));

  const unanswered = Array.from({ length: 8 }, () => one.send("POST", "/next", { cases }).catch(() => null));
  await new Promise((done) => setTimeout(done, 500));
  const start = performance.now();
  await one.stop("SIGTERM");
  const seconds = (performance.now() - start) / 1000;
  await Promise.all(unanswered);
  row("ended in the middle of it", "", seconds);
  if (seconds > 5 * PATIENCE) faults.push(`it took ${seconds} s to end`);
  for (const fault of faults) row(fault);
  if (faults.length > 0) process.exitCode = 1;
} finally {
  await one.remove();
  await two.remove();
}
