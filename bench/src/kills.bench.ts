import { seededRandom } from "@hound/core/simulate";
import { BenchServer } from "./server.ts";
import { row } from "./timing.ts";

/**
 * The server is killed in the middle of writes, again and again, while three clients write readings, trails and fields;
 * whatever it acknowledged has to be there after the next start.
 */
const KILLS = Number(process.env.HOUND_KILLS ?? 500);
const random = seededRandom(4);
const server = new BenchServer();
let acknowledged = 0;
let lost = 0;

try {
  await server.start();
  const { json: job } = await server.send("POST", "/jobs", { title: "Killed", trail: "BT1 9V: [A] R1 1k" });
  const { id } = job as { id: string };
  const readings = new Set<string>();
  const trails = new Set<string>();
  for (let kill = 0; kill < KILLS; kill += 1) {
    let isUp = true;
    // As pages do: what meets another's change is sent again on top of it.
    const reader = async () => {
      while (isUp) {
        const reading = { quantity: "voltage", from: "A", value: readings.size };
        const known = (await server.send("GET", `/jobs/${id}`)).json as { circuit: { revision: number } };
        const sent = { id: crypto.randomUUID(), circuitRevision: known.circuit.revision, reading };
        const { status } = await server.send("POST", `/jobs/${id}/readings`, sent);
        if (status === 201) readings.add(sent.id);
      }
    };
    const writer = async () => {
      while (isUp) {
        const known = (await server.send("GET", `/jobs/${id}`)).json as { circuit: { revision: number } };
        const trail = `BT1 9V: [A] R1 ${1 + trails.size}k # ${crypto.randomUUID()}`;
        const { status } = await server.send("PUT", `/jobs/${id}/circuit`, { revision: known.circuit.revision, trail });
        if (status === 200) trails.add(trail);
      }
    };
    const clients = [reader(), reader(), writer()].map((c) => c.catch(() => {}));
    await new Promise((done) => setTimeout(done, 100 + random.next() * 500));
    await server.stop("SIGKILL");
    isUp = false;
    await Promise.all(clients);
    await server.start();
    // Every so often all of it is compared, and what is stored so far is cut short: a job is no log of a benchmark.
    if (kill % 25 !== 24 && kill !== KILLS - 1) continue;
    const now = (await server.send("GET", `/jobs/${id}`)).json as { readings: { id: string }[]; damaged: unknown[] };
    const versions = (await server.send("GET", `/jobs/${id}/circuit/revisions?limit=10000`)).json as {
      revisions: { trail: string }[];
    };
    const there = new Set([...now.readings.map((r) => r.id), ...versions.revisions.map((r) => r.trail)]);
    const missing = [...readings, ...trails].filter((one) => !there.has(one)).length + now.damaged.length;
    acknowledged = readings.size + trails.size;
    lost += missing;
  }
  row("kills", "acknowledged", "lost");
  row(String(KILLS), String(acknowledged), String(lost));
} finally {
  await server.remove();
}
process.exitCode = lost > 0 ? 1 : 0;
