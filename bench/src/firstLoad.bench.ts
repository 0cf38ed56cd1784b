import { openPage } from "./page.ts";
import { row } from "./timing.ts";

/**
 * The first load of a job's Readings by a browser that has nothing yet: kilobytes as sent, of scripts, styles and data, and
 * of fonts; milliseconds to the board and to the first proposal, the processor as it is and slowed four times.
 */
const { page, address, close } = await openPage();
try {
  row("circuit", "slowed", "scripts, data", "fonts", "requests", "board", "proposal");
  for (const word of ["lantern", "vent", "pump"])
    for (const rate of [1, 4]) {
      const { jobs } = (await (await fetch(`${address}/api/jobs?search=${word}`)).json()) as { jobs: { id: string }[] };
      const context = await page
        .context()
        .browser()
        ?.newContext({ viewport: { width: 1280, height: 800 }, serviceWorkers: "block" });
      if (!context) throw new Error("no browser");
      const fresh = await context.newPage();
      const client = await context.newCDPSession(fresh);
      const sent = { other: 0, fonts: 0, requests: 0 };
      const fonts = new Set<string>();
      await client.send("Network.enable");
      client.on("Network.responseReceived", (e) => e.type === "Font" && fonts.add(e.requestId));
      client.on("Network.loadingFinished", (e) => {
        sent.requests += 1;
        sent[fonts.has(e.requestId) ? "fonts" : "other"] += e.encodedDataLength / 1000;
      });
      await client.send("Emulation.setCPUThrottlingRate", { rate });
      await fresh.goto(`${address}/jobs/${jobs[0].id}/readings`, { waitUntil: "commit" });
      const now = () => fresh.evaluate(() => performance.now());
      await fresh.locator("[data-board]").waitFor();
      const board = await now();
      await fresh.getByText(/^(Next|At leisure): /).waitFor();
      const proposal = await now();
      row(word, `${rate}×`, sent.other, sent.fonts, String(sent.requests), board, proposal);
      await context.close();
    }
} finally {
  await close();
}
