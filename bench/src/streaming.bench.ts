import { spawn } from "node:child_process";
import { join } from "node:path";
import { createInterface } from "node:readline";
import { setTimeout as wait } from "node:timers/promises";
import { chromium } from "@playwright/test";
import { BenchServer } from "./server.ts";
import { row } from "./timing.ts";

/**
 * A meter that sends twenty readings a second, heard by a page of Chromium for ten minutes; it is killed and started again
 * twice, and the page is reloaded. Every reading that was held has to be stored once. `HOUND_MINUTES=10`.
 */
const MINUTES = Number(process.env.HOUND_MINUTES ?? 10);
const ROOT = join(import.meta.dirname, "../..");

class Meter {
  private child: ReturnType<typeof spawn> | null = null;
  private port = "0";

  async start(): Promise<string> {
    const options = ["--port", this.port, "--protocol", "lines", "--rate", "20"];
    const child = spawn(process.execPath, [join(ROOT, "scripts/meter.mjs"), join(ROOT, "demo/cases"), ...options], {
      stdio: ["ignore", "pipe", "inherit"],
    });
    this.child = child;
    return new Promise((done) => {
      createInterface({ input: child.stdout }).on("line", (line) => {
        const address = /at (\S+:\d+)/.exec(line)?.[1];
        if (!address) return;
        this.port = address.slice(address.lastIndexOf(":") + 1);
        done(address);
      });
    });
  }

  kill() {
    this.child?.kill("SIGKILL");
  }
}

const meter = new Meter();
const address = await meter.start();
const server = new BenchServer({ HOUND_DEMO: join(ROOT, "demo") });
await server.start();
const browser = await chromium.launch({
  executablePath: "/usr/bin/chromium-headless-shell",
  args: ["--disable-gpu", "--disable-quic", "--no-sandbox"],
});
try {
  await server.send("PUT", "/meter-link", { isOn: true, address, protocol: "lines" });
  const { json } = await server.send("GET", "/library?search=forty");
  const { trail } = (await server.send("GET", `/library/${(json as { circuits: { id: string }[] }).circuits[0].id}`))
    .json as { trail: string };
  const { id } = (await server.send("POST", "/jobs", { title: "Forty, streamed", trail })).json as { id: string };
  /** What the server held, as anybody may hear. */
  const held = new Set<string>();
  const hearing = new AbortController();
  void (async () => {
    const response = await fetch(`${server.address}/api/meter-link/events`, { signal: hearing.signal });
    const decoder = new TextDecoder();
    let rest = "";
    for await (const chunk of response.body as unknown as AsyncIterable<Uint8Array>) {
      const events = (rest + decoder.decode(chunk, { stream: true })).split("\n\n");
      rest = events.pop() ?? "";
      for (const event of events)
        if (event.startsWith("data: ")) for (const h of JSON.parse(event.slice(6)).held) held.add(h.id);
    }
  })().catch(() => {});
  const stored = new Map<string, number>();
  const look = async () => {
    const { readings } = (await server.send("GET", `/jobs/${id}`)).json as { readings: { id: string }[] };
    const ids = readings.map((r) => r.id);
    for (const one of ids) stored.set(one, Math.max(stored.get(one) ?? 0, ids.filter((other) => other === one).length));
    return ids;
  };
  const page = await browser.newPage({ viewport: { width: 1280, height: 800 } });
  await page.goto(`${server.address}/jobs/${id}/readings`);
  await page.getByText(/^(Next|At leisure): /).waitFor();
  await page.getByRole("button", { name: "Bench set-up" }).click();
  await page.getByRole("button", { name: "Listen to the meter" }).click();
  const start = Date.now();
  const events = [
    { at: 0.2, what: "killed", run: () => meter.kill() },
    { at: 0.23, what: "started", run: () => meter.start() },
    { at: 0.45, what: "reloaded", run: () => page.reload() },
    { at: 0.6, what: "killed", run: () => meter.kill() },
    { at: 0.64, what: "started", run: () => meter.start() },
    { at: 0.8, what: "reloaded", run: () => page.reload() },
  ];
  let quiet = 0;
  let before = 0;
  let rounds = 0;
  while (Date.now() - start < MINUTES * 60_000) {
    await wait(1000);
    const share = (Date.now() - start) / (MINUTES * 60_000);
    while (events[0] && events[0].at <= share) {
      const event = events.shift();
      await event?.run();
      row(`${((Date.now() - start) / 1000).toFixed(0)} s`, event?.what ?? "");
    }
    const ids = await look();
    quiet = stored.size === before ? quiet + 1 : 0;
    before = stored.size;
    // All points are read: they are put away, and read again.
    if (quiet > 20 && ids.length > 0) {
      for (const one of ids) await server.send("DELETE", `/jobs/${id}/readings/${one}`);
      rounds += 1;
      quiet = 0;
      await page.reload();
    }
  }
  await page.getByRole("button", { name: "Stop listening" }).click();
  await wait(4000);
  await look();
  hearing.abort();
  row("held", held.size);
  row("stored", stored.size);
  row("lost", [...held].filter((h) => !stored.has(h)).length);
  row("doubled", [...stored.values()].filter((n) => n > 1).length);
  row("stored that were never held", [...stored.keys()].filter((s) => !held.has(s)).length);
  row("times all points were read", rounds);
} finally {
  await browser.close();
  await server.remove();
  meter.kill();
}
