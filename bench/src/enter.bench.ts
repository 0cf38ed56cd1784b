import { writeTrail } from "@hound/core/notation";
import { drawnInput } from "./cases.ts";
import { openPage } from "./page.ts";
import { median, row } from "./timing.ts";

/**
 * From Enter, right behind the last digit, to the new ranking (as far as single faults go), to the next reading proposed,
 * and to the reading on the board; milliseconds, in Chromium. Held values come the same way. Drawn circuits with a fault.
 */
const SIZES = [
  { parts: 20, readings: 10, target: 100 },
  { parts: 40, readings: 20, target: 250 },
] as const;
const ROUNDS = Number(process.env.HOUND_ROUNDS ?? 10);

const { page, address, close } = await openPage();
try {
  row("parts, readings", "what", "median", "slowest", "target");
  for (const { parts, readings, target } of SIZES) {
    const input = drawnInput(parts, readings, 3);
    const post = (path: string, body: object) =>
      fetch(`${address}/api${path}`, {
        method: "POST",
        headers: { "Content-Type": "application/json" },
        body: JSON.stringify(body),
      }).then((r) => r.json());
    const file = {
      format: "clever-hound-case",
      version: 1,
      title: `Drawn ${parts}`,
      circuit: writeTrail(input.circuit),
      readings: input.readings.slice(0, readings - 1),
    };
    const { id } = (await post("/cases", { text: JSON.stringify(file) })) as { id: string };
    await page.goto(`${address}/jobs/${id}/readings`);
    await page.getByText(/^(Next|At leisure): /).waitFor();
    await page.waitForTimeout(3000);
    const last = input.readings[readings - 1];
    const place = last.quantity === "voltage" ? last.from : last.quantity === "current" ? last.through : "";
    const unit = last.quantity === "current" ? "mA" : "V";
    const value = last.quantity === "observation" ? 0 : last.value * (unit === "mA" ? 1000 : 1);
    const seen: Record<"ranked" | "next" | "board", number>[] = [];
    for (let round = 0; round < ROUNDS; round += 1) {
      await page.evaluate(`
        window.times = null;
        performance.clearMarks();
        addEventListener("keydown", (e) => {
          if (e.key === "Enter") window.times = { entered: performance.now(), ranked: 0, next: 0, board: 0, waited: false };
        }, { capture: true, once: true });
        window.watcher?.disconnect();
        window.watcher = new MutationObserver(() => {
          const t = window.times;
          if (!t) return;
          const now = performance.now() - t.entered;
          const form = document.querySelector("form")?.textContent ?? "";
          if (/Working out what to read next/.test(form)) t.waited = true;
          if (t.waited && /(Next|At leisure): /.test(form)) t.next ||= now;
          // The newest stands first, however many are in sight.
          if (window.newest() !== window.before) t.board ||= now;
          const ranked = performance.getEntriesByName("hound:ranked").find((m) => m.startTime > t.entered);
          if (ranked) t.ranked ||= ranked.startTime - t.entered;
        });
        window.newest = () => document.querySelector('[aria-label="Readings"] li')?.textContent;
        window.before = window.newest();
        window.watcher.observe(document.body, { subtree: true, childList: true, attributes: true, characterData: true });
      `);
      await page
        .getByLabel("Reading", { exact: true })
        .fill(`${place} ${(value * (1 + 1e-3 * round)).toPrecision(4)}${unit}`);
      await page.keyboard.press("Enter");
      const told = await page.waitForFunction(() => {
        const { times } = window as unknown as { times: (typeof seen)[number] | null };
        return times && times.ranked > 0 && times.next > 0 && times.board > 0 && times;
      });
      seen.push((await told.jsonValue()) as (typeof seen)[number]);
      await page.waitForTimeout(1500);
      await page.keyboard.press("Control+z");
      await page.waitForTimeout(2500);
    }
    for (const what of ["ranked", "next", "board"] as const) {
      const list = seen.map((t) => t[what]);
      row(`${parts}, ${readings}`, what, median(list), Math.max(...list), target);
    }
  }
} finally {
  await close();
}
