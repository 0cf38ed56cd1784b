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

test("on a phone the reading line is in sight", async ({ page, server }) => {
  await page.setViewportSize({ width: 390, height: 800 });
  await page.goto(await server.bench("pump", "readings"));
  await page.getByText(/^(Next|At leisure): /).waitFor();
  await expect(page.getByLabel("Reading", { exact: true })).toBeInViewport();
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
