import { jobOfForty, openPage } from "./page.ts";
import { row } from "./timing.ts";

/** What the page works while the pointer goes over the board of forty parts, part by part, in Chromium. */
const ROUNDS = 4;
const { page, address, close } = await openPage();
try {
  const id = await jobOfForty(address);
  const client = await page.context().newCDPSession(page);
  await client.send("Performance.enable");
  const workedUntilNow = async () => {
    const { metrics } = await client.send("Performance.getMetrics");
    const of = (name: string) => metrics.find((m) => m.name === name)?.value ?? 0;
    return { script: of("ScriptDuration"), all: of("TaskDuration") };
  };
  row("");
  row("pointing at a part, forty parts", "ms of script", "ms of page");
  for (const stage of ["circuit", "readings"]) {
    await page.goto(`${address}/jobs/${id}/${stage}`);
    const parts = page.locator("[data-board] [id^=board-branch-]");
    await parts.first().waitFor();
    await page.waitForTimeout(6000);
    const boxes = (await Promise.all((await parts.all()).map((part) => part.boundingBox()))).filter(
      (box) => box !== null && box.y > 0 && box.y + box.height < 800,
    );
    const before = await workedUntilNow();
    let count = 0;
    for (let round = 0; round < ROUNDS; round += 1) {
      for (const box of boxes) {
        if (!box) continue;
        await page.mouse.move(box.x + box.width / 2, box.y + box.height / 2);
        await page.waitForTimeout(20);
        count += 1;
      }
    }
    const after = await workedUntilNow();
    row(`stage ${stage}`, (1000 * (after.script - before.script)) / count, (1000 * (after.all - before.all)) / count);
  }
} finally {
  await close();
}
