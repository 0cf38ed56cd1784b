import { type ChildProcess, spawn } from "node:child_process";
import { mkdtempSync, rmSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { chromium } from "@playwright/test";
import { median, row } from "./timing.ts";

/**
 * From a key in the reading line to the new ranking on the screen, in Chromium, by the page's own performance marks; and
 * the compressed script that the jobs page loads. Milliseconds and kilobytes.
 */
const ROOT = join(import.meta.dirname, "../..");
const folder = mkdtempSync(join(tmpdir(), "hound-bench-"));

function start(): Promise<{ child: ChildProcess; address: string }> {
  const env = { ...process.env, PORT: "0", HOUND_DB: join(folder, "db.sqlite"), HOUND_DEMO: join(ROOT, "demo/cases") };
  const child = spawn(process.execPath, [join(ROOT, "server/dist/main.js")], { env });
  return new Promise((done, fail) => {
    let output = "";
    child.stdout?.on("data", (chunk) => {
      output += chunk;
      const ready = /ready: (\S+?)\/?\s/.exec(output);
      if (ready) done({ child, address: ready[1] });
    });
    child.on("exit", () => fail(new Error(output)));
  });
}

const { child, address } = await start();
const browser = await chromium.launch({
  executablePath: "/usr/bin/chromium",
  args: ["--disable-gpu", "--disable-quic", "--disable-background-networking", "--no-sandbox"],
});
try {
  const page = await browser.newPage({ viewport: { width: 1280, height: 800 } });
  await page.goto(address);
  await page.getByRole("main").getByRole("listitem").first().waitFor();
  const bytes = await page.evaluate(() =>
    performance
      .getEntriesByType("resource")
      .filter((e) => e.name.endsWith(".js"))
      .reduce((sum, e) => sum + (e as PerformanceResourceTiming).encodedBodySize, 0),
  );
  row("jobs page", `${(bytes / 1000).toFixed(0)} kB of script as sent`);
  row("circuit", "typed to first ranking", "median", "slowest");
  for (const word of ["vent", "pump"]) {
    const { jobs } = (await (await fetch(`${address}/api/jobs?search=${word}`)).json()) as { jobs: { id: string }[] };
    await page.goto(`${address}/jobs/${jobs[0].id}/readings`);
    await page.getByRole("list", { name: "Leading suspects" }).waitFor();
    await page.waitForTimeout(2500);
    const line = page.getByLabel("Reading", { exact: true });
    const latencies: number[] = [];
    for (const typed of ["B 1", "B 12", "B 12.", "B 12.3", "B 12.34", "B 9", "B 9.8", "B 9.87"]) {
      await page.evaluate(() => performance.clearMarks());
      await line.fill(typed);
      // The ranking of what was typed before may still come in: the first one after the key counts.
      const latency = await page.waitForFunction(() => {
        const [typed] = performance.getEntriesByName("hound:typed");
        const ranked = performance.getEntriesByName("hound:ranked").find((e) => typed && e.startTime > typed.startTime);
        return ranked && ranked.startTime - typed.startTime;
      });
      latencies.push((await latency.jsonValue()) as number);
      await page.waitForTimeout(400);
    }
    row(word, latencies.map((l) => l.toFixed(0)).join(" "), median(latencies), Math.max(...latencies));
  }
} finally {
  await browser.close();
  child.kill("SIGTERM");
  await new Promise((done) => child.on("exit", done));
  rmSync(folder, { recursive: true, force: true });
}
