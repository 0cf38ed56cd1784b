import { count, IS_DEEP } from "./deep.ts";
import { allInFull } from "./menu.ts";
import { patient } from "./patience.ts";
import { expect, test } from "./server.ts";

/** Forty parts in a row of forks, with a title that is far too long. */
const FORTY = `BT1 48V ri=0.2: F1 5A\n${Array.from({ length: 12 }, (_, i) => {
  const n = i * 3 + 1;
  return `+ [N${i}] R${n} ${n}0 + (R${n + 1} 1k | R${n + 2} 2k2)`;
}).join("\n")}\n+ R90 47 + R91 33`;

async function jobWith(address: string, title: string, trail: string): Promise<string> {
  const headers = { "Content-Type": "application/json" };
  const response = await fetch(`${address}/api/jobs`, {
    method: "POST",
    headers,
    body: JSON.stringify({ title, trail }),
  });
  const { id } = (await response.json()) as { id: string };
  return `${address}/jobs/${id}`;
}

test("forty parts are drawn, ranked and walked", async ({ page, server }) => {
  const job = await jobWith(server.address, "Greenhouse heating panel, north row ".repeat(5).trim(), FORTY);
  await page.goto(`${job}/readings`);
  const board = page.getByRole("listbox", { name: /Board of/ });
  await expect(board.getByRole("option", { name: /^R\d+/ })).toHaveCount(38);
  await expect(page.getByText(/^Next: volts/)).toBeVisible({ timeout: patient(60_000) });
  const line = page.getByLabel("Reading", { exact: true });
  for (const reading of IS_DEEP ? ["N1 47.4", "N6 40.1"] : ["N6 40.1"]) {
    await line.fill(reading);
    await page.keyboard.press("Enter");
  }
  await expect(page.getByRole("list", { name: "Leading suspects" }).getByRole("listitem")).toHaveCount(3);
  // The title gives way: nothing is pushed out of the window.
  const overflow = await page.evaluate(() => document.documentElement.scrollWidth - window.innerWidth);
  expect(overflow).toBeLessThanOrEqual(0);
  await board.focus();
  for (let i = 0; i < count(60, 12); i += 1) await page.keyboard.press("ArrowRight");
  await page.keyboard.press("End");
  const id = await board.getAttribute("aria-activedescendant");
  await expect(page.locator(`#${id}`)).toBeInViewport();
});

test("of many readings the newest are shown, and all when asked", async ({ page, server }) => {
  const readings = Array.from({ length: 70 }, (_, i) => ({ quantity: "voltage", from: "A", value: 9 + i / 1000 }));
  const file = { format: "clever-hound-case", version: 1, title: "Many", circuit: "BT1 9V: [A] R1 1k", readings };
  const response = await fetch(`${server.address}/api/cases`, {
    method: "POST",
    headers: { "Content-Type": "application/json" },
    body: JSON.stringify({ text: JSON.stringify(file) }),
  });
  const { id } = (await response.json()) as { id: string };
  await page.goto(`${server.address}/jobs/${id}/readings`);
  const rows = page.getByRole("list", { name: "Readings" }).getByRole("listitem");
  await expect(rows).toHaveCount(3);
  await allInFull(page);
  await expect(rows).toHaveCount(60);
  await expect(rows.first()).toContainText("9.069");
  await page.getByRole("button", { name: "Show all 70 readings" }).click();
  await expect(rows).toHaveCount(70);
});

test("nothing yet: every stage says what to do first", async ({ page, server }) => {
  const job = await jobWith(server.address, "Empty", "");
  await page.goto(`${job}/readings`);
  await expect(page.getByText("No circuit yet")).toBeVisible();
  await page.getByRole("button", { name: "Write the trail" }).click();
  await expect(page.getByText("The board appears here as you write the trail.")).toBeVisible();
  await expect(page.getByLabel("Trail of the circuit")).toBeFocused();
});

test("the look is remembered", async ({ page, server }) => {
  await page.goto(server.address);
  await page.getByRole("button", { name: "Use the dark look" }).click();
  await page.reload();
  await expect(page.locator("html")).toHaveAttribute("data-theme", "dark");
});
