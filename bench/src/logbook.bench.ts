import { readFileSync } from "node:fs";
import { join } from "node:path";
import { seededRandom } from "@hound/core/simulate";
import { chromium } from "@playwright/test";
import { strToU8, zipSync } from "fflate";
import { BenchServer } from "./server.ts";
import { median, row } from "./timing.ts";

/**
 * Ten thousand jobs with twenty readings each, two thirds of them closed: how long the list, a search, a filter and the
 * figures take at the server, beside asking for one job; and the frames while a thousand rows are scrolled in Chromium.
 * `HOUND_JOBS=10000`.
 */
const JOBS = Number(process.env.HOUND_JOBS ?? 10_000);
const READINGS = 20;
const TIMES = 15;
const ROOT = join(import.meta.dirname, "../..");
const WORDS =
  "valve pump lamp rail sensor corroded plug green wire warm slow dark smell relay fan heater left right wet".split(
    " ",
  );
const FAULTS = [
  { part: "J2", mode: "high" },
  { part: "K1", mode: "open" },
  { part: "R4", mode: "open" },
  { part: "F1", mode: "open" },
];

const random = seededRandom(10);
const pick = <T>(list: readonly T[]) => list[Math.floor(random.next() * list.length)];
const some = (n: number) => Array.from({ length: n }, () => pick(WORDS)).join(" ");
const uuid = (n: number) => `00000000-0000-4000-8000-${n.toString(16).padStart(12, "0")}`;

/** The folder of such a workshop, as somebody would bring it in. */
function folder(): Uint8Array {
  const trails = ["2-vent-drive", "4-pump-controller", "3-soil-bridge", "6-heater-panel"].map((name) =>
    readFileSync(join(ROOT, `demo/circuits/${name}.trail`), "utf8"),
  );
  const files: Record<string, Uint8Array> = {
    "workshop.json": strToU8(JSON.stringify({ format: "clever-hound-workshop", version: 1, rows: {}, library: [] })),
  };
  for (let n = 0; n < JOBS; n += 1) {
    const at = new Date(Date.UTC(2024, 0, 1) + n * 3_600_000).toISOString();
    const trail = pick(trails).replace("ri=", `ri=0.${n % 10}0`);
    const isClosed = n % 3 > 0;
    const said = {
      repairs: [{ repair: [{ part: pick(FAULTS).part }], probability: random.next() }],
      suspects: [],
      readings: 5,
    };
    const closing = { outcome: "found", faults: [pick(FAULTS)], used: [], minutes: 5 + 50 * random.next(), said, at };
    const readings = Array.from({ length: READINGS }, (_, r) => ({
      id: uuid(n * READINGS + r + 1e6),
      place: r + 1,
      revision: 0,
      createdAt: at,
      deletedAt: null,
      reading: { quantity: "voltage", from: "A", value: Number((24 * random.next()).toFixed(2)), step: 0.01 },
    }));
    const job = {
      id: uuid(n + 1),
      title: `${some(2)} ${n}`,
      complaint: some(8),
      finding: isClosed ? some(6) : "",
      details: { customer: `${pick(WORDS)} nursery` },
      state: isClosed ? "solved" : "open",
      meter: {},
      priors: {},
      situation: "complaint",
      standing: {},
      tags: [pick(WORDS)],
      work: null,
      closing: isClosed ? closing : null,
      revision: 1,
      circuit: { trail, revision: 0 },
      readings: [],
      createdAt: at,
      updatedAt: at,
      deletedAt: null,
    };
    const archived = {
      format: "clever-hound-job",
      version: 1,
      job,
      circuits: [{ revision: 0, trail, createdAt: at, who: null }],
      readings,
      history: [],
      minutes: {},
      pictures: [],
    };
    files[`jobs/${n}/job.json`] = strToU8(JSON.stringify(archived));
  }
  return zipSync(files, { level: 1 });
}

const server = new BenchServer();
const browser = await chromium.launch({
  executablePath: "/usr/bin/chromium-headless-shell",
  args: ["--disable-gpu", "--disable-quic", "--disable-background-networking", "--no-sandbox"],
});
try {
  await server.start();
  const begun = performance.now();
  const brought = await fetch(`${server.address}/api/workshop`, {
    method: "POST",
    headers: { "Content-Type": "application/octet-stream" },
    body: Buffer.from(folder()),
  });
  if (!brought.ok) throw new Error(await brought.text());
  row("jobs brought in", JSON.stringify(await brought.json()), `${((performance.now() - begun) / 1000).toFixed(0)} s`);
  const took = async (path: string) => {
    const times: number[] = [];
    for (let i = 0; i < TIMES; i += 1) {
      const start = performance.now();
      const response = await fetch(`${server.address}/api${path}`);
      await response.arrayBuffer();
      if (!response.ok) throw new Error(`${path}: ${response.status}`);
      times.push(performance.now() - start);
    }
    return times;
  };
  row("asked for", "median ms", "worst", "beside one job");
  const one = median(await took(`/jobs/${uuid(5)}`));
  for (const [name, path] of [
    ["the list", "/jobs"],
    ["a search, many found", "/jobs?search=pump"],
    ["a search, two words", "/jobs?search=corroded+plug"],
    ["a search, one found", "/jobs?search=4711"],
    ["a filter and another order", "/jobs?outcome=found&part=J2&sort=minutes"],
    ["a tag", "/jobs?tag=green"],
    ["what fails here", "/statistics"],
    ["habits", "/habits"],
  ] as const) {
    const times = await took(path);
    row(name.padEnd(28), median(times), Math.max(...times), median(times) / one);
  }
  const page = await browser.newPage({ viewport: { width: 1280, height: 800 } });
  await page.goto(`${server.address}/jobs`);
  const rows = page.getByRole("main").getByRole("listitem");
  for (let shown = 200; shown < 1000 && shown < JOBS; shown += 200) {
    await page.getByRole("button", { name: /more/i }).click();
    await rows.nth(shown + 100).waitFor({ state: "attached" });
  }
  await page.evaluate(`
    window.scrollTo(0, 0); window.frames_ = []; window.last_ = performance.now();
    requestAnimationFrame(function frame(now) { frames_.push(now - last_); last_ = now; window.scrollBy(0, 60); requestAnimationFrame(frame); });
  `);
  await page.waitForTimeout(6000);
  const frames = ((await page.evaluate("frames_")) as number[]).slice(5).sort((a, b) => a - b);
  row(`scrolling ${await rows.count()} rows`, "median ms", "95 %", "worst");
  row("a frame takes", median(frames), frames[Math.floor(frames.length * 0.95)], frames[frames.length - 1]);
} finally {
  await browser.close();
  await server.remove();
}
