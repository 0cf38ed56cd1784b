import { AxeBuilder } from "@axe-core/playwright";
import type { Page } from "@playwright/test";
import { expect, type RunningServer, test } from "./server.ts";

const VIEWS: Readonly<Record<string, (server: RunningServer) => Promise<string>>> = {
  jobs: async (server) => server.address,
  circuit: (server) => server.bench("pump", "circuit"),
  readings: (server) => server.bench("pump", "readings"),
  suspects: (server) => server.bench("soil", "suspects"),
  library: async (server) => `${server.address}/library`,
  workshop: async (server) => `${server.address}/workshop`,
  "a new job": (server) => server.bench("lantern", "readings"),
};

/** Views of one job, with its board. */
const BENCH = new Set(["circuit", "readings", "suspects", "a new job"]);

async function open(page: Page, server: RunningServer, view: string, theme: "light" | "dark") {
  await page.addInitScript((t) => localStorage.setItem("hound:theme", t), theme);
  await page.goto(await VIEWS[view](server));
  await page.getByRole("heading").first().waitFor();
  if (BENCH.has(view)) await page.getByRole("listbox", { name: /Board of/ }).waitFor();
  if (BENCH.has(view) && view !== "circuit") await page.getByText(/^Next: volts/).waitFor();
}

for (const view of Object.keys(VIEWS)) {
  for (const theme of ["light", "dark"] as const) {
    test(`${view}, ${theme}: nothing serious for axe`, async ({ page, server }) => {
      await open(page, server, view, theme);
      const { violations } = await new AxeBuilder({ page }).analyze();
      const serious = violations.filter((v) => v.impact === "serious" || v.impact === "critical");
      expect(serious.map((v) => `${v.id}: ${v.nodes.map((n) => n.html).join(" | ")}`)).toEqual([]);
    });
  }

  test(`${view}: every character comes from a font that is shipped`, async ({ page, server }) => {
    await open(page, server, view, "light");
    for (const details of await page.locator("details").all())
      await details.evaluate((d) => d.setAttribute("open", ""));
    await expect(page.getByText(/Working out|Opening/)).toHaveCount(0);
    await page.waitForTimeout(500);
    const client = await page.context().newCDPSession(page);
    await client.send("DOM.enable");
    await client.send("CSS.enable");
    // A still copy in the page's place: nothing that is being worked out can take a node away during the look.
    await page.evaluate(() => document.body.replaceWith(document.body.cloneNode(true)));
    const { root } = await client.send("DOM.getDocument", { depth: -1 });
    const { nodeIds } = await client.send("DOM.querySelectorAll", { nodeId: root.nodeId, selector: "body *" });
    const foreign = new Set<string>();
    for (const nodeId of nodeIds) {
      const { fonts } = await client.send("CSS.getPlatformFontsForNode", { nodeId });
      for (const font of fonts) if (!font.isCustomFont) foreign.add(font.familyName);
    }
    expect([...foreign]).toEqual([]);
    expect(nodeIds.length).toBeGreaterThan(30);
  });

  test(`${view} at 390 px: nothing sticks out, and the main thing is in reach`, async ({ page, server }) => {
    await page.setViewportSize({ width: 390, height: 800 });
    await open(page, server, view, "light");
    const overflow = await page.evaluate(() => document.documentElement.scrollWidth - window.innerWidth);
    expect(overflow).toBeLessThanOrEqual(0);
    if (view === "readings") await expect(page.getByLabel("Reading", { exact: true })).toBeInViewport();
  });
}

test("the board is walked with the arrow keys and says what it shows", async ({ page, server }) => {
  await open(page, server, "readings", "light");
  const board = page.getByRole("listbox", { name: /Board of/ });
  await board.focus();
  const active = async () => {
    const id = await board.getAttribute("aria-activedescendant");
    return page.locator(`#${id}`).getAttribute("aria-label");
  };
  expect(await active()).toMatch(/^node \+, expected 23\.\d+ ± /);
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
