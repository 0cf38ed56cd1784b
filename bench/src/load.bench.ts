import { seededRandom } from "@hound/core/simulate";
import { picture } from "./picture.ts";
import { BenchServer } from "./server.ts";
import { median, row } from "./timing.ts";

/** Fifty clients at once, each on a job of its own, as pages use the server, pictures among it; and how soon health answers under the worst that is allowed. Milliseconds, megabytes. */
const CLIENTS = 50;
const SECONDS = Number(process.env.HOUND_SECONDS ?? 60);
/** Share of what they send that is a picture. */
const PICTURES = Number(process.env.HOUND_PICTURE_SHARE ?? 0.01);
/** Parts of the circuit that is diagnosed meanwhile. */
const PARTS = Number(process.env.HOUND_PARTS ?? 400);
/** Pages pause between what they send. */
const PAUSE = 250;
const FIFTHS = [1, 2, 3, 4, 5];
const server = new BenchServer();
const share = (list: number[], part: number) => [...list].sort((a, b) => a - b)[Math.floor(list.length * part)];

try {
  await server.start();
  const took: number[] = [];
  const wrong: number[] = [];
  const timed = async (method: string, path: string, body?: unknown) => {
    const start = performance.now();
    const { status, json } = await server.send(method, path, body);
    took.push(performance.now() - start);
    if (status >= 400) wrong.push(status);
    return json as never;
  };
  const photograph = picture(320, 240);
  const timedPicture = async (id: string) => {
    const start = performance.now();
    const body = { method: "POST", body: photograph, headers: { "Content-Type": "application/octet-stream" } };
    const response = await fetch(`${server.address}/api/jobs/${id}/pictures?name=bench`, body as RequestInit);
    await response.arrayBuffer();
    took.push(performance.now() - start);
    if (!response.ok) wrong.push(response.status);
  };
  const end = performance.now() + 1000 * SECONDS;
  const memory: number[] = [];
  const files: number[] = [];
  const watch = setInterval(() => {
    memory.push(server.memory());
    files.push(server.files());
  }, 1000);
  await Promise.all(
    Array.from({ length: CLIENTS }, async (_, n) => {
      const random = seededRandom(n + 1);
      let job = (await timed("POST", "/jobs", { title: `Client ${n}`, trail: "BT1 24V: [A] R1 220 + [B] R2 1k" })) as {
        id: string;
        circuit: { revision: number };
        readings: { id: string }[];
      };
      while (performance.now() < end) {
        const { id } = job;
        const what = random.next();
        if (what < 0.5 && job.readings.length < 30) {
          const reading = { quantity: "voltage", from: "B", value: random.next() * 24 };
          const sent = { id: crypto.randomUUID(), circuitRevision: job.circuit.revision, reading };
          job = await timed("POST", `/jobs/${id}/readings`, sent);
        } else if (what < 0.7) {
          const trail = `BT1 24V: [A] R1 ${100 + Math.floor(random.next() * 900)} + [B] R2 1k`;
          job = await timed("PUT", `/jobs/${id}/circuit`, { revision: job.circuit.revision, trail });
        } else if (what < 0.7 + PICTURES) await timedPicture(id);
        else if (what < 0.85 && job.readings.length > 0)
          job = await timed("DELETE", `/jobs/${id}/readings/${job.readings[0].id}`);
        else if (what < 0.95) job = await timed("GET", `/jobs/${id}`);
        else await timed("GET", "/jobs?search=client");
        await new Promise((done) => setTimeout(done, random.next() * 2 * PAUSE));
      }
    }),
  );
  clearInterval(watch);
  row("clients", "requests", "errors", "median", "p99", "worst");
  row(String(CLIENTS), String(took.length), String(wrong.length), median(took), share(took, 0.99), Math.max(...took));
  row("");
  row("at the end of each fifth", ...FIFTHS.map((n) => `${n}/5`));
  const at = (list: number[], n: number) => list[Math.floor((list.length * n) / 5) - 1] ?? 0;
  row("memory, MB", ...FIFTHS.map((n) => at(memory, n)));
  row("files and connections", ...FIFTHS.map((n) => String(at(files, n))));

  // The worst text that may be saved, and a large circuit to be diagnosed, all the time.
  const long = "title x\n".repeat(12_400);
  const chain = `BT1 24V: F1 1A${Array.from({ length: PARTS - 2 }, (_, i) => ` + R${i + 1} ${100 + i} 5% [N${i}]`).join("\n")}`;
  const readings = [{ quantity: "voltage", from: "N20", value: 20.1, plusMinus: 0.1 }];
  const file = { format: "clever-hound-case", version: 1, title: "Long", circuit: chain, readings };
  let isBusy = true;
  const busy = [
    async () => server.send("POST", "/jobs", { title: "Long", trail: long }),
    async () => server.send("POST", "/next", { cases: [file] }),
  ].map(async (work) => {
    while (isBusy) await work();
  });
  const health: number[] = [];
  for (const until = performance.now() + (1000 * SECONDS) / 3; performance.now() < until; ) {
    const start = performance.now();
    await server.send("GET", "/health");
    health.push(performance.now() - start);
    await new Promise((done) => setTimeout(done, 20));
  }
  isBusy = false;
  row("");
  row("health under load", "median", median(health), "p99", share(health, 0.99), "worst", Math.max(...health));
  await Promise.all(busy);
  process.exitCode = wrong.length > 0 ? 1 : 0;
} finally {
  await server.remove();
}
