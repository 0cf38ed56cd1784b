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
