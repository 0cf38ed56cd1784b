import type { Page } from "@playwright/test";
import { expect, type RunningServer, test } from "./server.ts";

const VIEWS: Readonly<Record<string, (server: RunningServer) => Promise<string>>> = {
  jobs: async (server) => server.address,
  circuit: (server) => server.bench("pump", "circuit"),
  expected: (server) => server.bench("vent", "expected"),
  readings: (server) => server.bench("pump", "readings"),
  whatif: (server) => server.bench("vent", "whatif"),
  suspects: (server) => server.bench("soil", "suspects"),
  repair: (server) => server.bench("vent", "repair"),
  "a closed job": (server) => server.bench("soil", "repair"),
  report: (server) => server.bench("soil", "sheets/report"),
  "as it was": (server) => server.bench("vent", "then"),
  "what fails here": async (server) => `${server.address}/failures`,
  library: async (server) => `${server.address}/library`,
  sums: async (server) => `${server.address}/sums`,
  workshop: async (server) => `${server.address}/workshop`,
  "a new job": (server) => server.bench("lantern", "readings"),
};

/** Views of one job, with its board. */
const BENCH = new Set(["circuit", "expected", "readings", "whatif", "suspects", "repair", "a closed job", "a new job"]);

async function open(page: Page, server: RunningServer, view: string) {
  await page.goto(await VIEWS[view](server));
  await page.getByRole("heading").first().waitFor();
  if (BENCH.has(view)) await page.getByRole("listbox", { name: /Board of/ }).waitFor();
  if (BENCH.has(view) && view !== "circuit" && view !== "expected") await page.getByText(/^Next: /).waitFor();
}

/** Families of fonts in use that do not come with the application. */
async function foreignFonts(page: Page): Promise<string[]> {
  for (const details of await page.locator("details").all()) await details.evaluate((d) => d.setAttribute("open", ""));
  // A still copy in the page's place: nothing that is being worked out can take a node away during the look.
  await page.evaluate(() => document.body.replaceWith(document.body.cloneNode(true)));
  const client = await page.context().newCDPSession(page);
  await client.send("DOM.enable");
  await client.send("CSS.enable");
  const { root } = await client.send("DOM.getDocument", { depth: -1 });
  const { nodeIds } = await client.send("DOM.querySelectorAll", { nodeId: root.nodeId, selector: "body *" });
  expect(nodeIds.length).toBeGreaterThan(30);
  const foreign = new Set<string>();
  for (const nodeId of nodeIds) {
    const { fonts } = await client.send("CSS.getPlatformFontsForNode", { nodeId });
    for (const font of fonts) if (!font.isCustomFont) foreign.add(font.familyName);
  }
  return [...foreign];
}

for (const view of Object.keys(VIEWS)) {
  test(`${view}: nothing sticks out at 390 px, shipped fonts only`, async ({ page, server }) => {
    test.setTimeout(120_000);
    await open(page, server, view);
    await page.setViewportSize({ width: 390, height: 800 });
    const overflow = () => page.evaluate(() => document.documentElement.scrollWidth - window.innerWidth);
    await expect.poll(overflow).toBeLessThanOrEqual(0);
    if (view === "readings") await expect(page.getByLabel("Reading", { exact: true })).toBeInViewport();
    await page.setViewportSize({ width: 1280, height: 800 });
    await expect(page.getByText(/Working out|Opening/)).toHaveCount(0);
    expect(await foreignFonts(page)).toEqual([]);
  });
}

test("the board is walked with the arrow keys and says what it shows", async ({ page, server }) => {
  await open(page, server, "readings");
  const board = page.getByRole("listbox", { name: /Board of/ });
  await board.focus();
  const active = async () => {
    const id = await board.getAttribute("aria-activedescendant");
    return page.locator(`#${id}`).getAttribute("aria-label");
  };
  expect(await active()).toMatch(/^node \+, expected 23\.\d+ ±\s/);
  await page.keyboard.press("ArrowRight");
  expect(await active()).toMatch(/^PS1 24\sV, from \+ to 0, expected current/);
  for (let i = 0; i < 3; i += 1) await page.keyboard.press("ArrowRight");
  await page.keyboard.press("Enter");
  await expect(page.getByLabel("Reading", { exact: true })).toHaveValue(/^\S+ $/);
});

test("shortcuts that are listed work", async ({ page, server }) => {
  await page.goto(server.address);
  await expect(page.getByRole("heading", { name: "Jobs" })).toBeVisible();
  await page.keyboard.press("?");
  await expect(page.getByRole("dialog", { name: "Shortcuts" })).toContainText("search jobs");
  await page.keyboard.press("Escape");
  await page.keyboard.press("/");
  await expect(page.getByLabel("Search jobs")).toBeFocused();
});
