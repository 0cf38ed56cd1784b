import { expect, test } from "./server.ts";

test("the board is walked with the arrow keys and says what it shows", async ({ page, server }) => {
  await page.goto(await server.bench("pump", "readings"));
  const board = page.getByRole("listbox", { name: /Board of/ });
  await page.getByText(/^(Next|At leisure): /).waitFor();
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

test("on a phone, upright or on its side, line and proposal are in sight under one low bar; the window never scrolls", async ({
  page,
  server,
}) => {
  for (const size of [
    { width: 390, height: 800 },
    { width: 844, height: 390 },
  ]) {
    await page.setViewportSize(size);
    await page.goto(await server.bench("pump", "readings"));
    await expect(page.getByText(/^(Next|At leisure): /)).toBeInViewport();
    await expect(page.getByLabel("Reading", { exact: true })).toBeInViewport();
    const bar = await page.getByRole("banner").boundingBox();
    expect(bar?.height).toBeLessThanOrEqual(48);
    const stages = page.getByLabel("Stage", { exact: true });
    for (const stage of ["Suspects", "Repair", "What-if", "Expected", "Circuit", "Readings"]) {
      await stages.selectOption(stage);
      await expect(page.getByRole("heading", { level: 2, name: stage, exact: true })).toBeAttached();
      const beyond = await page.evaluate(() => document.documentElement.scrollHeight - window.innerHeight);
      expect(beyond, `${stage} at ${size.width}`).toBeLessThanOrEqual(0);
    }
  }
  await page.getByRole("button", { name: "More" }).click();
  await page.getByRole("menuitemradio", { name: "New" }).click();
  await page.setViewportSize({ width: 1280, height: 800 });
  await expect(page.getByLabel("State of the job")).toHaveValue("new");
});

test("shortcuts that are listed work", async ({ page, server }) => {
  await page.goto(server.address);
  await expect(page.getByRole("heading", { name: "Jobs" })).toBeVisible();
  await page.keyboard.press("?");
  await expect(page.getByRole("dialog", { name: "Shortcuts" })).toContainText("search jobs");
  await page.keyboard.press("Escape");
  await expect(page.getByRole("dialog")).toHaveCount(0);
  await page.keyboard.press("/");
  await expect(page.getByLabel("Search jobs")).toBeFocused();
});

test("help shows what can be typed: a click tries it, a search finds it", async ({ page, server }) => {
  await page.goto(server.address);
  await expect(page.getByRole("heading", { name: "Jobs" })).toBeVisible();
  await page.keyboard.press("?");
  await page.getByRole("dialog").getByRole("link", { name: "Help" }).click();
  await expect(page.getByRole("heading", { name: "The first job" })).toBeVisible();
  await expect(page.getByRole("img", { name: /^Stage Readings/ })).toHaveJSProperty("complete", true);
  await page.getByRole("link", { name: "Type a reading" }).click();
  await page.getByRole("button", { name: "R2 12mA" }).click();
  const tried = page.getByRole("textbox", { name: /^Try it here/ });
  const answer = page.getByRole("region", { name: "Type a reading" }).getByRole("status");
  await expect(tried).toHaveValue("R2 12mA");
  await expect(answer).toHaveText(/^records 12\smA through R2, B to D$/);
  await tried.fill("R2 12");
  await expect(answer).toHaveText(/volts across R2, amperes through it, or ohms/);
  await page.getByLabel("Search help").fill("fuse blown");
  const row = page.getByRole("region", { name: "Found" }).getByRole("listitem").filter({ hasText: "F1 looks intact" });
  await row.getByRole("link").click();
  await page.getByRole("button", { name: "F1 blown" }).click();
  await expect(tried).toHaveValue("F1 blown");
});

test("a key pressed the moment a sheet or a menu is gone moves the focus where it should, and it stays", async ({
  page,
  server,
}) => {
  /** Presses a key in the very step that takes something away, before the page gives the focus back. */
  const pressAsGone = (gone: string, key: string) =>
    page.evaluate(
      ([of, pressed]) => {
        const seen = new MutationObserver(() => {
          if (document.querySelector(of)) return;
          seen.disconnect();
          document.body.dispatchEvent(new KeyboardEvent("keydown", { key: pressed, bubbles: true }));
        });
        seen.observe(document.body, { childList: true, subtree: true });
      },
      [gone, key],
    );
  await page.goto(server.address);
  await expect(page.getByRole("heading", { name: "Jobs" })).toBeVisible();
  await page.keyboard.press("?");
  await expect(page.getByRole("dialog", { name: "Shortcuts" })).toBeVisible();
  await pressAsGone("[role=dialog]", "/");
  await page.keyboard.press("Escape");
  await expect(page.getByRole("dialog")).toHaveCount(0);
  await page.evaluate(() => new Promise((done) => setTimeout(() => setTimeout(done, 0), 0)));
  await expect(page.getByLabel("Search jobs")).toBeFocused();
  await page.goto(await server.bench("vent", "readings"));
  await page.getByRole("button", { name: "More" }).click();
  await expect(page.getByRole("menuitem").first()).toBeVisible();
  await pressAsGone("[role=menu]", "/");
  await page.keyboard.press("Escape");
  await expect(page.getByRole("menu")).toHaveCount(0);
  await page.evaluate(() => new Promise((done) => setTimeout(() => setTimeout(done, 0), 0)));
  await expect(page.getByLabel("Reading", { exact: true })).toBeFocused();
});

test("a key pressed the moment its page is seen is not lost", async ({ page, server }) => {
  await page.goto(`${server.address}/workshop`);
  await expect(page.getByRole("heading", { name: "Workshop" })).toBeVisible();
  // Earlier than any hand: in the very step that puts the page there, before it is painted.
  await page.evaluate(() => {
    const press = (key: string) => document.body.dispatchEvent(new KeyboardEvent("keydown", { key, bubbles: true }));
    const look = () => {
      if (![...document.querySelectorAll("button")].some((b) => b.textContent?.includes("New job"))) return;
      seen.disconnect();
      press("n");
    };
    const seen = new MutationObserver(look);
    seen.observe(document.body, { childList: true, subtree: true });
  });
  await page.getByRole("link", { name: "Jobs" }).first().click();
  await expect(page.getByRole("dialog", { name: "New job" })).toBeVisible();
});
