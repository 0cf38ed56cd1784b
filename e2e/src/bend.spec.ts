import type { Page } from "@playwright/test";
import { expect, test } from "./server.ts";

const line = (page: Page) => page.getByRole("textbox", { name: "Reading", exact: true });
const headline = (page: Page) => page.locator("main h2:not(.sr-only)").first();

async function record(page: Page, words: string) {
  await line(page).fill(words);
  await line(page).press("Enter");
  await expect(line(page)).toHaveValue("");
}

test("a shining diode of a new build is found the wrong way round, and turned", async ({ page, server }) => {
  const made = await page.request.post(`${server.address}/api/jobs`, { data: { title: "Pilot light" } });
  await page.goto(`${server.address}/jobs/${((await made.json()) as { id: string }).id}/circuit`);
  const editor = page.locator(".cm-content");
  await editor.fill("BT1 12V: [P] R1 470 5% + [A] LED1 red");
  await expect(page.getByRole("option", { name: /^LED1 red/ })).toBeVisible();
  // As drawn it lights: what is expected at its anode is what it drops.
  await page.getByRole("link", { name: "Expected" }).click();
  await expect(page.getByRole("row", { name: /^LED1/ }).first()).toContainText("1.98");
  await page.getByRole("link", { name: "Readings" }).click();
  await page.getByRole("button", { name: "Bench set-up" }).click();
  await page.getByLabel("Here because").selectOption("newBuild");
  await page.keyboard.press("Escape");
  await record(page, "LED1 dark");
  await record(page, "A 12.00");
  await expect(headline(page)).toHaveText("Settled: replace LED1, or turn it round");
  await record(page, "LED1 diode OL");
  await record(page, "LED1 diode rev 1.80");
  await expect(headline(page)).toHaveText("Settled: turn LED1 round");
  await expect(page.getByRole("list", { name: "Leading suspects" }).getByRole("listitem").first()).toContainText(
    "LED1 fitted the wrong way round",
  );
  // The diode test's volts are the meter's: the staircase and the sums have none of them.
  await expect(page.getByText("diode test").first()).toBeVisible();
});

test("a flyback diode that shorts blows the fuse, and its relay lets go: cause and consequence", async ({
  page,
  server,
}) => {
  await page.goto(await server.bench("frost", "whatif"));
  const suppose = page.getByRole("textbox", { name: "What if" });
  await suppose.fill("D1 short");
  await suppose.press("Enter");
  await expect(page.getByText(/F1 (blows|would blow|carries)/).first()).toBeVisible();
  await suppose.fill("D1 short; K1.no stuck closed");
  await suppose.press("Enter");
  await expect(page.getByRole("option", { name: /^K1\.no/ }).first()).toBeVisible();
});

test("one diode of a bridge rectifier is found, and the bridge replaced; the table says where its leads go", async ({
  page,
  server,
}) => {
  const made = await page.request.post(`${server.address}/api/jobs`, {
    data: {
      title: "Charger",
      complaint: "No charge",
      trail: "BT1 12V: F1 1A + [A] BR1 plus=[P] minus=[M]\n[P] R1 100 + [B] LED1 red [M]",
    },
  });
  await page.goto(`${server.address}/jobs/${((await made.json()) as { id: string }).id}/readings`);
  await record(page, "A 12.0");
  await record(page, "P-M 0.00");
  await record(page, "M 10.35");
  await expect(headline(page)).toHaveText("Settled: replace BR1");
  await expect(page.getByRole("list", { name: "Leading suspects" }).getByRole("listitem").first()).toContainText(
    "BR1.4 open",
  );
  await line(page).fill("BR1 80mA");
  await expect(page.getByText(/which of its diodes\? BR1\.1 from A to P/)).toBeVisible();
  await line(page).fill("");
  await page.getByRole("link", { name: "Circuit" }).click();
  await page.getByRole("tab", { name: "Parts" }).click();
  const leads = page.getByLabel("BR1 value");
  await expect(leads).toHaveValue("plus=[P] minus=[M]");
  await leads.fill("schottky plus=[P] minus=[M]");
  await leads.press("Enter");
  await page.getByRole("tab", { name: "Trail" }).click();
  await expect(page.locator(".cm-content")).toContainText("BR1 schottky plus=[P] minus=[M]");
});
