import type { BrowserContext, Page } from "@playwright/test";
import { count } from "./deep.ts";
import { patient } from "./patience.ts";
import type { RunningServer } from "./runningServer.ts";
import { expect, alone as test } from "./server.ts";

/** How often it is tried; the benchmark tries it hundreds of times. */
const RUNS = Number(process.env.HOUND_RUNS ?? count(4, 1));
const LINES = 10;
const ENDS = ["server", "close", "crash", "network"] as const;

/** Mulberry32: the same runs every time. */
function randomFrom(seed: number): () => number {
  let state = seed;
  return () => {
    state = (state + 0x6d2b79f5) | 0;
    let t = Math.imul(state ^ (state >>> 15), 1 | state);
    t = (t + Math.imul(t ^ (t >>> 7), 61 | t)) ^ t;
    return ((t ^ (t >>> 14)) >>> 0) / 4294967296;
  };
}

test(`whatever dies while lines are typed in two tabs, each arrives once: ${RUNS} runs`, async ({
  page,
  context,
  server,
}) => {
  test.setTimeout(patient(60_000 + 60_000 * RUNS));
  await page.goto(`${server.address}/jobs`);
  const counts = { server: 0, close: 0, crash: 0, network: 0 };
  for (let run = 0; run < RUNS; run += 1) {
    const random = randomFrom(run + 1);
    const end = ENDS[Math.floor(random() * ENDS.length)];
    counts[end] += 1;
    const { typed, id } = await typeThrough(context, server, run, end, random);
    const stored = async () => {
      const answer = await context.request.get(`${server.address}/api/jobs/${id}`).catch(() => null);
      const { readings = [] } = answer?.ok() ? await answer.json() : {};
      return readings.map((r: { reading: { value: number } }) => r.reading.value).sort((a: number, b: number) => a - b);
    };
    const expected = [...typed].sort((a, b) => a - b);
    await expect.poll(stored, { timeout: patient(50_000), message: `run ${run}, ${end}` }).toEqual(expected);
    for (const tab of context.pages().slice(1)) await tab.close();
  }
  test.info().annotations.push({ type: "runs", description: JSON.stringify(counts) });
});

/** Types in two tabs while something dies. @returns what was typed, as far as Enter went through */
async function typeThrough(
  context: BrowserContext,
  server: RunningServer,
  run: number,
  end: (typeof ENDS)[number],
  random: () => number,
): Promise<{ typed: number[]; id: string }> {
  const data = { title: `Run ${run}`, trail: "BT1 24V: F1 1A + [A] R1 220 + [B] R2 1k + [C] R3 470" };
  const { id } = await (await context.request.post(`${server.address}/api/jobs`, { data })).json();
  const tabs = await Promise.all([context.newPage(), context.newPage()]);
  for (const tab of tabs) {
    await tab.goto(`${server.address}/jobs/${id}/readings`);
    await tab.getByText(/^Next: /).waitFor();
  }
  const moment = Math.floor(random() * LINES);
  const typed: number[] = [];
  let gone: Page | null = null;
  let repair: (() => Promise<unknown>) | null = null;
  for (let k = 0; k < LINES; k += 1) {
    for (const [t, tab] of tabs.entries()) {
      if (tab === gone) continue;
      const value = 10 * (t + 1) + k / 10;
      await tab.getByLabel("Reading", { exact: true }).fill(`${"ABC"[Math.floor(random() * 3)]} ${value}V`);
      await tab.keyboard.press("Enter");
      typed.push(value);
    }
    if (k === moment) [gone, repair] = await die(context, server, tabs, end, random);
    else if (k === moment + 3) await repair?.();
  }
  if (moment + 3 >= LINES) await repair?.();
  return { typed, id };
}

async function die(
  context: BrowserContext,
  server: RunningServer,
  tabs: readonly Page[],
  end: (typeof ENDS)[number],
  random: () => number,
): Promise<[Page | null, (() => Promise<unknown>) | null]> {
  const tab = tabs[Math.floor(random() * 2)];
  switch (end) {
    case "server":
      await server.kill();
      return [null, () => server.start()];
    case "network":
      await context.setOffline(true);
      return [null, () => context.setOffline(false)];
    case "close":
      await tab.close();
      return [tab, null];
    default:
      await tab.goto("chrome://crash").catch(() => {});
      return [tab, null];
  }
}
