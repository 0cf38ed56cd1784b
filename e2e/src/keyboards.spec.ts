import type { Page } from "@playwright/test";
import { IS_DEEP } from "./deep.ts";
import { Keyboard, LAYOUTS, type LayoutName } from "./layouts.ts";
import { expect, fresh, test } from "./server.ts";

const TRAIL = "BT1 24V 2% ri=0,3: F1 1A + <A> R1 220 5% + <B> (R2 1k 5% ! R3 470 2% + <C> R4 330 5%) + <D> R5 100 1%";

/** Numbers with a decimal point in what is shown; a trail is as it was typed. */
async function pointsIn(page: Page): Promise<string[]> {
  const text = (await page.locator("body").textContent()) ?? "";
  return text.match(/\S*\d\.\d\S*/g) ?? [];
}

/** In an ordinary run the layout that differs most: digits need Shift, letters lie elsewhere. */
const WALKED = IS_DEEP ? (Object.keys(LAYOUTS) as LayoutName[]) : (["azerty"] as const);

for (const name of WALKED) {
  test(`the five-minute walk by keys alone, on a keyboard like ${name}, with decimal commas`, async ({
    page,
    server,
  }) => {
    await fetch(`${server.address}/api/conventions`, {
      method: "PATCH",
      headers: { "content-type": "application/json" },
      body: JSON.stringify({ decimal: "comma" }),
    });
    const keys = await Keyboard.on(page, name);
    await page.goto(server.address);
    await expect(page.getByRole("heading", { name: "Jobs" })).toBeVisible();
    await page.getByText("Pump controller").first().waitFor();
    await keys.type("n");
    await expect(page.getByLabel("What is on the bench?")).toBeFocused();
    await keys.type("Vent drive");
    await keys.press("Enter");
    await expect(page.locator(".cm-content")).toBeFocused();
    await keys.type(TRAIL);
    await expect(page.locator(".cm-content")).toHaveText(
      TRAIL.replaceAll("<", "[").replaceAll(">", "]").replace("!", "|"),
    );
    await expect(page.getByRole("option", { name: /^R5 100\sΩ, from D to 0/ })).toBeVisible();
    await keys.altDigit(3);
    const line = page.getByLabel("Reading", { exact: true });
    await expect(line).toBeFocused();
    await page.getByText(/^Next: /).waitFor();
    for (const [words, place] of [
      ["A 23,97", "A"],
      ["B 19,99", "B"],
      ["D 1,82", "D"],
    ]) {
      await keys.type(words);
      await keys.press("Enter");
      await expect(page.getByRole("list", { name: "Readings" }).getByText(place, { exact: true })).toBeVisible();
      await expect(line).toHaveValue("");
    }
    await expect(page.getByText("volts at C", { exact: false }).first()).toBeVisible();
    await keys.type("C 1,82");
    await keys.press("Enter");
    await expect(page.getByRole("heading", { name: "Settled: replace R3" })).toBeVisible();
    expect(await pointsIn(page)).toEqual([]);
    // The last one is taken back by the key that has the letter z, wherever that is.
    await keys.command("z");
    await expect(page.getByRole("list", { name: "Readings" }).getByText("C", { exact: true })).toHaveCount(0);
    for (const stage of [2, 5, 4]) {
      await keys.altDigit(stage);
      await expect(
        page.getByRole("link", { name: ["", "", "Expected", "", "What-if", "Suspects"][stage], exact: true }),
      ).toHaveAttribute("aria-current", "page");
      await expect(page.getByText(/Working|Loading/)).toHaveCount(0);
      expect(await pointsIn(page), `stage ${stage}`).toEqual([]);
    }
  });
}

test("AltGr types what it types and steers nothing; keys of one letter can be changed and switched off", async ({
  page,
  server,
}) => {
  const keys = await Keyboard.on(page, "german");
  await page.goto(await server.bench("vent", "circuit"));
  await page.locator(".cm-content").click();
  await keys.altGr("[", "Digit8");
  await expect(page.locator(".cm-content")).toContainText("[");
  await keys.altGr("²", "Digit2");
  expect(page.url()).toMatch(/\/circuit$/);
  await page.goto(`${server.address}/jobs`);
  await page.getByText("Pump controller").first().waitFor();
  await keys.type("n");
  await expect(page.getByRole("dialog", { name: "New job" })).toBeVisible();
  await keys.press("Escape");
  await page.getByRole("button", { name: "Shortcuts" }).click();
  await page.getByLabel("on the jobs page: new job").fill("j");
  await page.keyboard.press("Escape");
  await keys.type("n");
  await keys.type("j");
  await expect(page.getByRole("dialog", { name: "New job" })).toBeVisible();
  await keys.press("Escape");
  await page.getByRole("button", { name: "Shortcuts" }).click();
  await page.getByLabel("Keys of one letter").uncheck();
  await page.keyboard.press("Escape");
  await keys.type("j");
  await expect(page.getByRole("dialog")).toHaveCount(0);
});

fresh(
  "Home, End and a name typed walk the board; Ctrl+Z in a cell takes back the last edit",
  async ({ page, server }) => {
    await page.clock.install();
    await page.goto(await server.bench("pump", "circuit"));
    const board = page.getByRole("listbox", { name: /Board of/ });
    await board.focus();
    const active = async () =>
      page.locator(`#${await board.getAttribute("aria-activedescendant")}`).getAttribute("aria-label");
    await page.keyboard.press("End");
    const last = await active();
    await page.keyboard.press("Home");
    expect(await active()).not.toBe(last);
    await page.keyboard.type("HR1");
    expect(await active()).toMatch(/^HR1 /);
    await page.keyboard.type("RT");
    expect(await active()).not.toMatch(/^RT1 /);
    await page.clock.fastForward(1000);
    await page.keyboard.type("RT");
    expect(await active()).toMatch(/^RT1 /);
    await page.getByRole("tab", { name: "Parts" }).click();
    const cell = page.getByLabel("R1 value", { exact: true });
    const before = await cell.inputValue();
    await cell.fill("3k3");
    await page.keyboard.press("Enter");
    await expect(cell).toHaveValue("3k3");
    await cell.focus();
    await page.keyboard.press("Control+z");
    await expect(cell).toHaveValue(before);
  },
);
