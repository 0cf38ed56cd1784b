import type { Page } from "@playwright/test";
import { patient } from "./patience.ts";
import type { RunningServer } from "./runningServer.ts";
import { expect, test } from "./server.ts";

const board = (page: Page) => page.getByRole("listbox", { name: /Board of/ });
const part = (page: Page, name: RegExp) => board(page).getByRole("option", { name });

async function fromLibrary(page: Page, server: RunningServer, name: string, stage: string) {
  const { circuits } = (await (await fetch(`${server.address}/api/library?search=${name}`)).json()) as {
    circuits: { id: string; name: string }[];
  };
  const { trail } = (await (await fetch(`${server.address}/api/library/${circuits[0].id}`)).json()) as {
    trail: string;
  };
  const made = await fetch(`${server.address}/api/jobs`, {
    method: "POST",
    headers: { "Content-Type": "application/json" },
    body: JSON.stringify({ title: circuits[0].name, trail, libraryId: circuits[0].id }),
  });
  const { id } = (await made.json()) as { id: string };
  await page.goto(`${server.address}/jobs/${id}/${stage}`);
  await board(page).waitFor();
}

/** Pairs of texts of the board that lie over one another, as the browser measures them. */
const overlaps = (page: Page) =>
  board(page).evaluate((element) => {
    const boxes = [...element.querySelectorAll("svg text")]
      .filter((t) => t.textContent !== "" && t.textContent !== "!")
      .map((t) => ({ text: t.textContent, box: (t as SVGTextElement).getBoundingClientRect() }));
    return boxes.flatMap((a, i) =>
      boxes.slice(i + 1).flatMap((b) => {
        const across = Math.min(a.box.right, b.box.right) - Math.max(a.box.left, b.box.left);
        // Line boxes are higher than letters: a quarter of a line may touch.
        const down = Math.min(a.box.bottom, b.box.bottom) - Math.max(a.box.top, b.box.top);
        return across > 1 && down > 0.3 * Math.min(a.box.height, b.box.height) ? [`${a.text} / ${b.text}`] : [];
      }),
    );
  });

test("forty parts stay readable: in lanes, at every size, no text over another, an overview to go by", async ({
  page,
  server,
}) => {
  await fromLibrary(page, server, "propagation", "expected");
  await expect(board(page).getByRole("option")).toHaveCount(64, { timeout: patient(15_000) });
  expect(await overlaps(page)).toEqual([]);
  const label = board(page).locator("svg text", { hasText: /^HR1 / });
  expect((await label.boundingBox())?.height ?? 0).toBeGreaterThan(11);
  await board(page).focus();
  await page.keyboard.press("+");
  await page.keyboard.press("+");
  expect(await overlaps(page)).toEqual([]);
  const overview = page.getByRole("button", { name: /^Overview/ });
  await expect(overview).toBeVisible();
  const pane = page.locator(".board-pane");
  const box = await overview.boundingBox();
  if (!box) throw new Error("no overview");
  await page.mouse.click(box.x + box.width / 2, box.y + box.height - 8);
  await expect.poll(() => pane.evaluate((p) => p.scrollTop)).toBeGreaterThan(100);
  await page.keyboard.press("Tab");
  await board(page).focus();
  await page.keyboard.press("f");
  await expect
    .poll(() => pane.evaluate((p) => p.scrollHeight <= p.clientHeight + 2 && p.scrollWidth <= p.clientWidth + 2))
    .toBe(true);
});

test("what is pointed at lights up on the board and in the trail, the other way round too", async ({
  page,
  server,
}) => {
  await page.goto(await server.bench("vent", "circuit"));
  await part(page, /^R4 /).hover();
  await expect(page.locator(".trail-lit")).toHaveText("R4 330 5%");
  await page.locator(".cm-line", { hasText: "R9" }).getByText("R9").hover();
  await expect(part(page, /^R9 /).locator("g.text-copper").first()).toBeAttached();
  await page.locator(".cm-line", { hasText: "R2" }).getByText("R2").click();
  await expect(part(page, /^R2 /)).toHaveAttribute("aria-selected", "true");
  await expect(page.getByRole("region", { name: "Selected on the board" })).toContainText("R2 resistor, B to D");
});

test("the trail completes, folds, mends and puts its spaces in order by keys", async ({ page, server }) => {
  await page.goto(await server.bench("pump", "circuit"));
  const editor = page.locator(".cm-content");
  const text = () => editor.evaluate((e) => [...e.querySelectorAll(".cm-line")].map((l) => l.textContent).join("\n"));
  await editor.click();
  await page.keyboard.press("Control+End");
  await page.keyboard.type("[B]   R");
  await expect(page.getByRole("option", { name: /^R6/ }).first()).toBeVisible();
  await page.keyboard.press("Tab");
  await page.keyboard.type("4k");
  await expect(page.getByRole("option", { name: /^4k7/ })).toBeVisible();
  await page.keyboard.press("Escape");
  await page.keyboard.type("7 [");
  await page.keyboard.type("Q");
  await expect(page.getByRole("option", { name: /^Q/ })).toBeVisible();
  await page.keyboard.press("Tab");
  await expect.poll(text).toContain("[B]   R6 4k7 [Q]");
  await expect(part(page, /^R6 4\.7\skΩ/)).toBeAttached();
  await page.keyboard.press("Alt+Shift+F");
  await expect.poll(text).toContain("[B] R6 4k7 [Q]");
  await page.keyboard.type("\n[A] R7 R47 [Q]");
  await expect(page.getByRole("list", { name: "Mistakes in the trail" })).toContainText("R7 has no value");
  await page.keyboard.press("Alt+Enter");
  await expect.poll(text).toContain("[A] R7 0R47 [Q]");
  await page.locator(".cm-foldGutter [title=Fold]").first().click();
  await expect(page.locator(".cm-foldPlaceholder")).toBeVisible();
  expect(await text()).not.toContain("R2 470");
});

test("the current's way and the staircase come and go by a key, in the agreed convention", async ({ page, server }) => {
  await page.emulateMedia({ reducedMotion: "reduce" });
  await page.goto(await server.bench("vent", "expected"));
  await part(page, /^R9 /).click();
  await board(page).focus();
  await page.keyboard.press("i");
  const way = page.locator(".flowing");
  await expect(way).toHaveCount(5);
  expect(await way.first().evaluate((e) => getComputedStyle(e).animationName)).toBe("none");
  const first = await way.first().getAttribute("d");
  await page.keyboard.press("i");
  await expect(way).toHaveCount(0);
  await fetch(`${server.address}/api/conventions`, {
    method: "PUT",
    headers: { "Content-Type": "application/json" },
    body: JSON.stringify({ arrows: "electron" }),
  });
  await page.reload();
  await part(page, /^R9 /).click();
  await board(page).focus();
  await page.keyboard.press("i");
  await expect(way).toHaveCount(5);
  expect(await way.first().getAttribute("d")).not.toBe(first);
  const height = async () => (await board(page).locator("svg").boundingBox())?.height ?? 0;
  const tall = await height();
  await page.keyboard.press("t");
  await expect.poll(height).toBeLessThan(tall - 50);
});

test("two parts say how they lie to each other, and what is odd is marked and named", async ({ page, server }) => {
  await page.goto(await server.bench("vent", "circuit"));
  const words = page.getByRole("region", { name: "Selected on the board" });
  const both = async (a: RegExp, b: RegExp) => {
    await part(page, a).click();
    await part(page, b).click({ modifiers: ["Shift"] });
  };
  await both(/^R2 /, /^R9 /);
  await expect(words).toContainText("R2 and R9 are parallel: both lie between B and D");
  await both(/^R1 /, /^R2 /);
  await expect(words).toContainText(/R1 and R2 meet at B, where R3 and R9 also join/);
  await both(/^F1 /, /^R5 /);
  await expect(words).toContainText(/comes together again before the other/);
  await part(page, /^R5 /).click();
  await words.getByLabel("Power").fill("0.05W");
  await page.keyboard.press("Enter");
  await expect(page.getByRole("region", { name: "What is odd" })).toContainText(
    /R5 takes 104\smW when healthy, above its 50\smW/,
  );
  await expect(part(page, /^R5 .*odd: R5 takes/)).toBeAttached();
});
