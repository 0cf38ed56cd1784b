import { readFileSync } from "node:fs";
import { type BrowserContext, test as base, type Page } from "@playwright/test";
import { RunningServer } from "./runningServer.ts";

const PREPARED = process.env.HOUND_E2E_PREPARED as string;
/** The window of every page, unless a test changes it. */
export const WINDOW = { width: 1280, height: 800 } as const;

interface Own {
  readonly ownServer: boolean;
  readonly ownPage: boolean;
}

interface Kept {
  readonly keptServer: RunningServer;
  readonly keptContext: BrowserContext;
}

/**
 * Every test begins with the demo jobs and a browser that remembers nothing. Most share one server and one page a worker,
 * both put back each time: a page that goes on is opened anew for half of what a new one takes. An error thrown in a page
 * fails the test.
 */
export const test = base.extend<Own & { server: RunningServer }, Kept>({
  ownServer: [false, { option: true }],
  ownPage: [false, { option: true }],

  keptServer: [
    // biome-ignore lint/correctness/noEmptyPattern: the runner reads from it what a fixture needs
    async ({}, use) => {
      const server = new RunningServer(PREPARED);
      await server.start();
      await use(server);
      await server.remove();
    },
    { scope: "worker" },
  ],

  keptContext: [
    async ({ browser }, use) => {
      const context = await browser.newContext({ viewport: WINDOW, serviceWorkers: "block" });
      await use(context);
      await context.close();
    },
    { scope: "worker" },
  ],

  server: async ({ ownServer, keptServer, page }, use) => {
    const thrown: string[] = [];
    const note = (error: Error) => thrown.push(error.message);
    page.on("pageerror", note);
    if (ownServer) {
      const server = new RunningServer(PREPARED);
      await server.start();
      await use(server);
      await server.remove();
    } else {
      await putBack(keptServer);
      await use(keptServer);
    }
    page.off("pageerror", note);
    if (thrown.length > 0) throw new Error(`thrown in the page: ${thrown.join("; ")}`);
  },

  context: async ({ ownPage, keptContext, browser, contextOptions, serviceWorkers }, use) => {
    const context = ownPage
      ? await browser.newContext({ ...contextOptions, serviceWorkers, viewport: WINDOW })
      : keptContext;
    await use(context);
    for (const other of browser.contexts()) if (other !== keptContext) await other.close();
  },

  page: async ({ ownPage, context, keptServer }, use) => {
    const page = ownPage ? await context.newPage() : (context.pages()[0] ?? (await context.newPage()));
    await use(page);
    if (!ownPage) await forget(page, keptServer.address);
  },
});

/** For what asks for a page as new: it changes what pages are given, or their clock. */
export const fresh = test.extend({ ownPage: true });
/** For what kills, restarts or opens its server: that is the test's own, and so is the page. */
export const alone = fresh.extend({ ownServer: true });
export { expect } from "@playwright/test";

/** The demo as it was, in a server that goes on. */
async function putBack(server: RunningServer) {
  const response = await fetch(`${server.address}/api/restore`, {
    method: "POST",
    headers: { "Content-Type": "application/octet-stream" },
    body: readFileSync(PREPARED),
  });
  if (!response.ok) throw new Error(await response.text());
}

/** All that a test left in a page that goes on: what it stored, its size and look, permissions, other tabs. */
async function forget(page: Page, address: string) {
  const context = page.context();
  for (const other of context.pages()) if (other !== page) await other.close();
  if (page.isClosed()) return;
  await page.unrouteAll({ behavior: "ignoreErrors" });
  // A place of the same origin on which nothing runs.
  await page.goto(`${address}/mark.svg`);
  await page.evaluate(() => sessionStorage.clear());
  const client = await context.newCDPSession(page);
  await client.send("Storage.clearDataForOrigin", {
    origin: address,
    storageTypes: "cookies,local_storage,indexeddb,cache_storage",
  });
  await client.detach();
  await context.clearPermissions();
  await page.emulateMedia({ media: null, colorScheme: null, reducedMotion: null, forcedColors: null });
  await page.setViewportSize(WINDOW);
  await page.mouse.move(0, 0);
}
