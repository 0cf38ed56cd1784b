import { readFileSync } from "node:fs";
import { type BrowserContext, test as base } from "@playwright/test";
import { RunningServer } from "./runningServer.ts";

const PREPARED = process.env.HOUND_E2E_PREPARED as string;
const WINDOW = { width: 1280, height: 800 } as const;

interface Own {
  /** The test kills, restarts or opens its server, or changes it in a way that no restored database takes back. */
  readonly ownServer: boolean;
  /** The test needs a browser as new: its pages kept, its clock, its network. */
  readonly ownContext: boolean;
}

interface Kept {
  readonly keptServer: RunningServer;
  readonly keptContext: BrowserContext;
}

/**
 * Every test begins with the demo jobs and a browser that remembers nothing. Most share one server and one browser
 * context a worker, both put back each time. An error thrown in a page fails the test.
 */
export const test = base.extend<Own & { server: RunningServer }, Kept>({
  ownServer: [false, { option: true }],
  ownContext: [false, { option: true }],

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

  // What the browser has compiled of the pages it keeps with the context.
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
    page.on("pageerror", (error) => thrown.push(error.message));
    if (ownServer) {
      const server = new RunningServer(PREPARED);
      await server.start();
      await use(server);
      await server.remove();
    } else {
      await putBack(keptServer);
      await use(keptServer);
    }
    if (thrown.length > 0) throw new Error(`thrown in the page: ${thrown.join("; ")}`);
  },

  context: async ({ ownContext, keptContext, keptServer, browser, contextOptions, serviceWorkers }, use) => {
    if (ownContext) {
      const context = await browser.newContext({ ...contextOptions, serviceWorkers, viewport: WINDOW });
      await use(context);
      await context.close();
      return;
    }
    await use(keptContext);
    for (const other of browser.contexts()) if (other !== keptContext) await other.close();
    await forget(keptContext, keptServer.address);
  },
});

/** For what kills, restarts or opens its server, or needs a browser as new: both are the test's own. */
export const alone = test.extend({ ownServer: true, ownContext: true });
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

/** All that a test left in a browser: pages, what they stored, permissions. */
async function forget(context: BrowserContext, origin: string) {
  for (const page of context.pages()) await page.close();
  const page = await context.newPage();
  const client = await context.newCDPSession(page);
  const storageTypes = "cookies,local_storage,indexeddb,cache_storage,file_systems,shared_storage";
  await client.send("Storage.clearDataForOrigin", { origin, storageTypes });
  await page.close();
  await context.clearPermissions();
}
