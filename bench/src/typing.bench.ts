import { openPage } from "./page.ts";
import { median, row } from "./timing.ts";

/**
 * From a key in the reading line to the new ranking on the screen, in Chromium, by the page's own performance marks; and
 * the compressed script that the jobs page loads. Milliseconds and kilobytes.
 */
const { page, address, close } = await openPage();
try {
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

  // From Enter, straight after the last digit, to a list that says it is old, to the new one as far as single faults
  // go (typing began it: it may be there before), and to all of it.
  row("");
  row("from Enter, fourteen parts", "median", "slowest");
  const { jobs: pumps } = (await (await fetch(`${address}/api/jobs?search=pump`)).json()) as { jobs: { id: string }[] };
  await page.goto(`${address}/jobs/${pumps[0].id}/readings`);
  await page.getByRole("list", { name: "Leading suspects" }).waitFor();
  await page.waitForTimeout(2500);
  await page.evaluate(`
    window.times = null;
    const since = () => performance.now() - times.entered;
    addEventListener("keydown", (e) => {
      if (e.key !== "Enter") return;
      times = { entered: performance.now(), frame: 0, old: 0, all: 0 };
      requestAnimationFrame(() => { times.frame = since(); });
    }, true);
    new MutationObserver(() => {
      const list = document.querySelector('[aria-label="Leading suspects"]');
      if (!list || !times) return;
      if (list.ariaBusy === "true") times.old ||= since();
      if (times.old && list.ariaBusy === "false") times.all ||= since();
    }).observe(document.body, { subtree: true, childList: true, attributes: true, characterData: true });
  `);
  const STEPS = { frame: "next frame", old: "marked as old", first: "single faults", all: "all weighed" } as const;
  const seen: Record<keyof typeof STEPS, number>[] = [];
  for (const typed of [
    "A 23.9",
    "B 23.8",
    "G 16.4",
    "H 4.1",
    "E 0.85",
    "Q 0.6",
    "C 23.8",
    "G-H 12.3",
    "D 0.61",
    "B 23.9",
  ]) {
    await page.evaluate(() => performance.clearMarks());
    await page.getByLabel("Reading", { exact: true }).fill(typed);
    await page.keyboard.press("Enter");
    const told = await page.waitForFunction(() => {
      const { times } = window as unknown as { times: (typeof seen)[number] & { entered: number } };
      const [typed] = performance.getEntriesByName("hound:typed");
      const ranked = performance.getEntriesByName("hound:ranked").find((e) => e.startTime > typed.startTime);
      return (
        times.all > 0 && times.frame > 0 && ranked && { ...times, first: Math.max(0, ranked.startTime - times.entered) }
      );
    });
    seen.push((await told.jsonValue()) as (typeof seen)[number]);
    await page.waitForTimeout(1200);
  }
  for (const [step, words] of Object.entries(STEPS)) {
    const list = seen.map((t) => t[step as keyof typeof STEPS]);
    row(words, median(list), Math.max(...list));
  }

  // Typing in the trail of forty parts, and drawing ten thousand circuits beside it.
  const { circuits } = (await (await fetch(`${address}/api/library?search=forty`)).json()) as {
    circuits: { id: string }[];
  };
  const { trail } = (await (await fetch(`${address}/api/library/${circuits[0].id}`)).json()) as { trail: string };
  const made = await fetch(`${address}/api/jobs`, {
    method: "POST",
    headers: { "Content-Type": "application/json" },
    body: JSON.stringify({ title: "Forty", trail }),
  });
  const { id } = (await made.json()) as { id: string };
  // As text: what compiles this file would name the inner function by a helper that the page does not have.
  const watch = () =>
    page.evaluate(`
      window.seen = { frames: 0, longest: 0, last: performance.now(), start: performance.now() };
      requestAnimationFrame(function frame(now) {
        seen.longest = Math.max(seen.longest, now - seen.last);
        seen.last = now;
        seen.frames += 1;
        requestAnimationFrame(frame);
      });
    `);
  const report = () =>
    page.evaluate(() => {
      const { seen } = window as unknown as { seen: { frames: number; longest: number; start: number } };
      return { rate: (1000 * seen.frames) / (performance.now() - seen.start), longest: seen.longest };
    });
  row("");
  row("forty parts", "frames a second", "longest frame, ms");
  await page.goto(`${address}/jobs/${id}/circuit`);
  await page.getByLabel("Trail of the circuit").click();
  await page.keyboard.press("Control+End");
  await page.waitForTimeout(1000);
  await watch();
  await page.keyboard.type("[B] R77 4k7 5% + [X1] R78 10k [Z]", { delay: 60 });
  const typed = await report();
  row("typing in the trail", typed.rate, typed.longest);
  await page.goto(`${address}/jobs/${id}/expected`);
  await page.getByRole("row", { name: /^HR1/ }).getByRole("button").nth(0).click();
  await page.waitForTimeout(1000);
  await watch();
  await page.getByRole("button", { name: /^Draw 10,000/ }).click();
  await page.getByRole("img", { name: /^Histogram/ }).waitFor();
  const drawn = await report();
  row("drawing 10,000 circuits", drawn.rate, drawn.longest);
} finally {
  await close();
}
