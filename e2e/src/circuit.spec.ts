import { readFile } from "node:fs/promises";
import type { Download, Page } from "@playwright/test";
import { expect, test } from "./server.ts";

const trailOf = (page: Page) =>
  page.locator(".cm-content").evaluate((e) => [...e.querySelectorAll(".cm-line")].map((l) => l.textContent).join("\n"));
const board = (page: Page) => page.getByRole("listbox", { name: /Board of/ });
const part = (page: Page, name: RegExp) => board(page).getByRole("option", { name });

async function download(page: Page, click: () => Promise<void>): Promise<{ file: Download; contents: Buffer }> {
  const [file] = await Promise.all([page.waitForEvent("download"), click()]);
  return { file, contents: await readFile(await file.path()) };
}

test("the board is edited by keys, by buttons and by picking; one undo takes all of it back", async ({
  page,
  server,
}) => {
  await page.goto(await server.bench("vent", "circuit"));
  await part(page, /^R1 220/).click();
  const before = await trailOf(page);
  await board(page).focus();
  await page.keyboard.press("a");
  await page.keyboard.type("47 1%");
  await page.keyboard.press("Enter");
  await expect(part(page, /^R10 47\sΩ/)).toBeAttached();
  expect(await trailOf(page)).toContain("R1 220 5% + R10 47 1%");
  // A stretch of two, wrapped in a branch.
  await part(page, /^R3 /).click();
  await part(page, /^R4 /).click({ modifiers: ["Shift"] });
  await expect(page.getByText(/R3 and R4 are in series: at C they meet and nothing else joins/)).toBeVisible();
  await page.getByRole("button", { name: "Parallel" }).click();
  await page.getByLabel(/^New branch round R3, R4/).fill("R11 1k5");
  await page.keyboard.press("Enter");
  await expect(part(page, /^R11 1.5\skΩ/)).toBeAttached();
  // Escape leaves what is asked, and one goes on at the board: a question in words, one that waits for a pick, a field.
  await part(page, /^R9 /).click();
  for (const leave of [
    () => page.keyboard.press("a"),
    () => page.keyboard.press("m"),
    () => page.getByLabel("Value").fill("1"),
  ]) {
    await board(page).focus();
    await leave();
    await page.keyboard.press("Escape");
    await expect(page.getByRole("button", { name: "Leave it (Esc)" })).toHaveCount(0);
    await expect(board(page)).toBeFocused();
    await expect(page.getByLabel("Value")).toHaveValue("10k");
  }
  // What cannot be is refused, with the reason, and nothing is lost.
  await part(page, /^R9 /).click();
  await page.getByLabel("Value").fill("10q");
  await page.keyboard.press("Enter");
  await expect(page.getByRole("alert")).toContainText("10q");
  await expect(page.getByLabel("Value")).toHaveValue("10q");
  await page.getByLabel("Value").fill("22k");
  await page.keyboard.press("Enter");
  await expect(part(page, /^R9 22\skΩ/)).toBeAttached();
  await page.getByRole("button", { name: "Swap" }).click();
  await part(page, /^R1 /).click();
  await expect.poll(() => trailOf(page)).toContain("R9 22k 5% + R10");
  await board(page).focus();
  for (let i = 0; i < 4; i += 1) await page.keyboard.press("Control+z");
  expect(await trailOf(page)).toBe(before);
  await page.keyboard.press("Control+Shift+z");
  await expect(part(page, /^R10 47\sΩ/)).toBeAttached();
});

for (const [where, first, back, typed, whole] of [
  ["in the middle", "BT1 12V: R1 1k + R3 3k", 5, "R2 2k + ", "BT1 12V: R1 1k + R2 2k + R3 3k"],
  // In a line of one part, which lights up then: around a text that is wrapped the browser loses the cursor.
  ["behind the first part", "BT1 12V", 0, ": R1 1k + R3 3k", "BT1 12V: R1 1k + R3 3k"],
] as const) {
  test(`what is typed while the editor is on its way is in the trail, and typing goes on where it was: ${where}`, async ({
    page,
    server,
  }) => {
    let arrive = () => {};
    const held = new Promise<void>((done) => {
      arrive = done;
    });
    await page.route(/trailEngine/, async (route) => {
      await held;
      await route.continue();
    });
    await page.goto(`${server.address}/jobs`);
    await page.getByRole("button", { name: "New job" }).click();
    await page.getByLabel("What is on the bench?").fill("Soil heater");
    await page.keyboard.press("Enter");
    await expect(page.getByRole("heading", { name: "Soil heater" })).toBeVisible();
    await expect(page.getByLabel("Trail of the circuit")).toBeFocused();
    await page.keyboard.type(first);
    for (let n = 0; n < back; n += 1) await page.keyboard.press("ArrowLeft");
    // The last key comes up when the editor has the focus.
    await page.evaluate(() =>
      document.addEventListener("focusin", ({ target }) =>
        setTimeout(() => target?.dispatchEvent(new KeyboardEvent("keyup", { key: "k", bubbles: true }))),
      ),
    );
    arrive();
    await expect(page.locator(".cm-content")).toBeFocused();
    await expect(page.locator(".trail-lit")).toHaveText(back > 0 ? "R3 3k" : first);
    await page.keyboard.type(typed);
    await expect(page.locator(".cm-content")).toContainText(whole);
  });
}

test("readings follow a node to its new name, and back", async ({ page, server }) => {
  await page.goto(await server.bench("pump", "circuit"));
  await part(page, /^node G/).click();
  await page.getByRole("button", { name: "Name" }).click();
  await page.getByLabel(/^Name of node G/).fill("TAP");
  await page.keyboard.press("Enter");
  await expect(part(page, /^node TAP.*read 16\.37/)).toBeAttached();
  await page.keyboard.press("Alt+3");
  await expect(page.getByRole("list", { name: "Readings" })).toContainText("TAP");
  await page.keyboard.press("Alt+1");
  await expect(page.getByLabel("Trail of the circuit")).toBeVisible();
  await board(page).focus();
  await page.keyboard.press("Control+z");
  await expect(part(page, /^node G.*read 16\.37/)).toBeAttached();
});

test("the parts table edits in place, takes a block from a spreadsheet, sorts and filters", async ({
  page,
  server,
}) => {
  await page.goto(await server.bench("vent", "circuit"));
  await page.getByRole("tab", { name: "Parts" }).click();
  const table = page.getByRole("table", { name: "Parts" });
  await table.getByLabel("R1 value").fill("4q");
  await page.keyboard.press("Enter");
  await expect(page.getByRole("alert")).toContainText(/R1, value: “4q”/);
  await expect(table.getByLabel("R1 value")).toHaveValue("4q");
  await table.getByLabel("R1 value").fill("270");
  await page.keyboard.press("Enter");
  await table.getByLabel("R1 value").evaluate((cell) => {
    const data = new DataTransfer();
    data.setData("text/plain", "330\t1\n1k5\t2%\n");
    cell.dispatchEvent(new ClipboardEvent("paste", { clipboardData: data, bubbles: true, cancelable: true }));
  });
  await expect(part(page, /^R1 330\sΩ/)).toBeAttached();
  await expect(part(page, /^R2 1.5\skΩ/)).toBeAttached();
  await expect(table.getByLabel("R2 tolerance")).toHaveValue("2%");
  await table.getByLabel("R2 tolerance").press("Control+Shift+d");
  await expect(table.getByLabel("R9 tolerance")).toHaveValue("2%");
  await page.getByRole("button", { name: "Value" }).click();
  await page.getByRole("button", { name: "Value" }).click();
  await page.getByLabel("Filter parts").fill("resistor");
  const first = table.getByRole("row").nth(1).getByRole("textbox").first();
  await expect(first).toHaveValue(/^R/);
  await expect(table.getByLabel("F1 value")).toHaveCount(0);
  await page.getByRole("tab", { name: "Trail" }).click();
  expect(await trailOf(page)).toContain("R1 330 1%");
});

test("circuits come in and go out in the open formats, seen before they replace anything", async ({ page, server }) => {
  await page.goto(await server.bench("vent", "circuit"));
  await expect(part(page, /^R9/)).toBeAttached();
  const before = await trailOf(page);
  const exported = async (item: string) => {
    await page.getByRole("button", { name: "Export" }).click();
    return download(page, () => page.getByRole("menuitem", { name: item }).click());
  };
  const trail = (await exported("Trail, as written")).contents.toString();
  expect(trail).toMatch(/^# Greenhouse vent drive.*: circuit version 1, \d+ \w{3} \d{4}, \d\d:\d\d\n/);
  expect(trail.slice(trail.indexOf("\n") + 1)).toBe(before);
  const parts = await exported("Parts table, CSV");
  expect(parts.file.suggestedFilename()).toMatch(/-parts\.csv$/);
  await page.getByRole("button", { name: "Import" }).click();
  const text = page.getByLabel("Text to import");
  await text.fill("designator,from,to,value,unit\nBT1,P,0,12,V\nR1,P,0,4q7,ohm");
  await expect(page.getByRole("dialog")).toContainText("parts table");
  await expect(page.getByRole("button", { name: "Take over" })).toBeDisabled();
  await text.fill(parts.contents.toString().replace(/220/, "390"));
  await expect(page.getByRole("region", { name: "What would change" })).toContainText("R1 390");
  await page.getByRole("button", { name: "Take over" }).click();
  await expect(part(page, /^R1 390\sΩ/)).toBeAttached();
  await page.getByRole("button", { name: "Undo" }).click();
  await expect(part(page, /^R1 220\sΩ/)).toBeAttached();
  const svg = (await (await picture(page, "SVG, for documents")).contents).toString();
  expect(svg).toMatch(/^<svg xmlns/);
  expect(svg).toContain("@font-face");
  expect(svg).toMatch(/R9 10\skΩ/);
  expect(svg).not.toMatch(/class=|var\(--/);
  expect((await picture(page, "PNG, for messages")).contents.subarray(1, 4).toString()).toBe("PNG");
});

async function picture(page: Page, kind: string) {
  await page.getByRole("button", { name: "Save as a picture" }).click();
  return download(page, () => page.getByRole("menuitem", { name: kind }).click());
}

test("a circuit is kept in the library, changed, compared and restored, and a job starts from it", async ({
  page,
  server,
}) => {
  await page.goto(await server.bench("lantern", "circuit"));
  await page.getByLabel("Trail of the circuit").click();
  await page.keyboard.press("Control+Home");
  await page.keyboard.press("Shift+End");
  await page.keyboard.type("title Balcony lantern");
  await expect(page.getByText("Saved", { exact: true })).toBeVisible();
  await page.getByRole("button", { name: "Export" }).click();
  await page.getByRole("menuitem", { name: "Keep in library" }).click();
  await expect(page.getByText(/“Balcony lantern” is in the library/)).toBeVisible();
  await page.goto(`${server.address}/library`);
  await page.getByLabel("Search the library").fill("balcony");
  await page.getByRole("link", { name: "Balcony lantern" }).click();
  await page.getByRole("button", { name: "Start a job from it" }).click();
  await page.getByLabel("What is on the bench?").fill("Second lantern");
  await page.keyboard.press("Enter");
  await expect(page.getByRole("heading", { name: "Second lantern" })).toBeVisible();
  await expect(board(page)).toBeVisible();
  await part(page, /^BT1/).click();
  await page.getByLabel("Value").fill("9V");
  await page.keyboard.press("Enter");
  await expect(page.getByText("Saved", { exact: true })).toBeVisible();
  await page.getByRole("button", { name: "Export" }).click();
  await page.getByRole("menuitem", { name: /Earlier versions/ }).click();
  await page.getByRole("button", { name: "Version 2" }).click();
  await expect(page.getByRole("dialog")).toContainText(/BT1 9V/);
  await page.getByRole("button", { name: "Restore" }).click();
  await expect(part(page, /^BT1 (?!9\sV)/)).toBeAttached();
  await page.goto(`${server.address}/library`);
  await page.getByRole("link", { name: "Balcony lantern" }).click();
  await expect(page.getByRole("region", { name: "Jobs" })).toContainText("Second lantern");
});

test("a value left unknown is estimated from the readings", async ({ page, server }) => {
  await page.goto(await server.bench("lantern", "circuit"));
  await page.getByLabel("Trail of the circuit").click();
  await page.keyboard.press("Control+a");
  await page.keyboard.type("BT1 12V: [P] R1 ? + [A] R2 1k 1%");
  const unknown = page.getByRole("region", { name: "Unknown values" });
  await expect(unknown).toContainText("R1 cannot be told from the readings yet");
  await expect(unknown).toContainText(/the (voltage at A|current through R[12])/);
  await page.keyboard.press("Alt+3");
  for (const reading of ["P 12.00", "A 8.000"]) {
    await page.getByLabel("Reading", { exact: true }).fill(reading);
    await page.keyboard.press("Enter");
  }
  await page.keyboard.press("Alt+1");
  await expect(unknown).toContainText(/R1 is about (49\d|50\d)\sΩ/);
  await expect(part(page, /^R1 \? ≈ (49\d|50\d) ±\d+\sΩ/)).toBeAttached();
  await page.keyboard.press("Alt+2");
  await unknown.getByText("How, on paper").click();
  await expect(unknown.getByRole("list", { name: "The sum on paper" }).getByRole("listitem").last()).toHaveText(
    /^R1 = V\(R1\) ÷ I\(R1\) = 4\.000\sV ÷ 8\.000\smA = 500\.0\sΩ$/,
  );
});

test("a circuit typed as a list in plain words is mended at one press, and undone at one", async ({ page, server }) => {
  await page.goto(await server.bench("lantern", "circuit"));
  await page.getByLabel("Trail of the circuit").click();
  await page.keyboard.press("Control+a");
  await page.keyboard.type("battery 12 V, left_lamp 12V 5W, switch, 5A fuse");
  await page.getByRole("button", { name: "Mend all" }).click();
  for (const name of [/^left_lamp 12\sV 5\sW/, /^switch closed/, /^fuse 5\sA/, /^battery 12\sV/])
    await expect(part(page, name)).toBeAttached();
  await expect(page.getByRole("list", { name: "Mistakes in the trail" })).toHaveCount(0);
  await page.getByLabel("Trail of the circuit").press("Control+z");
  await expect(page.getByLabel("Trail of the circuit")).toContainText("switch, 5A fuse");
});

test("conventions change the board for everybody", async ({ page, server }) => {
  await page.goto(`${server.address}/workshop`);
  await page.getByLabel("As zigzags (ANSI)").click();
  const kept = async () => (await (await fetch(`${server.address}/api/conventions`)).json()).symbols;
  await expect.poll(kept).toBe("ansi");
  await page.goto(await server.bench("vent", "circuit"));
  await expect(part(page, /^R1 /).locator("path[stroke-linejoin=round]")).toBeAttached();
});

test("the breadboard plan says where every lead goes, and what not to try", async ({ page, server }) => {
  await page.goto(await server.bench("vent", "circuit"));
  await page.getByRole("tab", { name: "Breadboard" }).click();
  await expect(page.getByRole("img", { name: "Breadboard with 7 parts and 10 jumpers" })).toBeVisible();
  const place = page.getByRole("region", { name: "Place" });
  await expect(place.getByRole("checkbox")).toHaveCount(17);
  await expect(place).toContainText("F1 first lead in e3, F1 second lead in f3");
  await place.getByRole("checkbox").first().check();
  await expect(page.getByRole("region", { name: "Trace back, with a finger" })).toContainText(
    "C: R3 second lead, R4 first lead, and nothing else",
  );
  await expect(page.getByRole("region", { name: "Where to probe" })).toContainText(/C: [a-j]\d+/);
  await expect(page.getByRole("region", { name: "To put a meter in" })).toContainText(
    "F1: second lead from f3 to f4, red at g4, black in f3",
  );
  const saved = await download(page, () => page.getByRole("button", { name: "Save as SVG" }).click());
  expect(saved.contents.toString()).toContain("breadboard");
  await page.getByRole("tab", { name: "Trail" }).click();
  await page.getByLabel("Trail of the circuit").click();
  await page.keyboard.press("Control+End");
  await page.keyboard.type("\n[A] R77 2 [0]");
  await page.getByRole("tab", { name: "Breadboard" }).click();
  await expect(page.getByText(/would flow: a breadboard.s contacts take about one ampere/)).toBeVisible();
});

const TEN = "BT1 12V: F1 2A+R1 220+[B](R2 1k|R3 470+R4 330)+R5 100+LA1 12V 5W+(R6 1k|R7 2k2)";

test("ten parts from nothing: in at most ninety keys by trail, and the same by board edits alone", async ({
  page,
  server,
}) => {
  await page.goto(server.address);
  await expect(page.getByRole("button", { name: "New job" })).toBeVisible();
  await page.keyboard.press("n");
  await page.keyboard.type("By trail");
  await page.keyboard.press("Enter");
  await expect(page.getByLabel("Trail of the circuit")).toBeFocused();
  expect(TEN.length).toBeLessThanOrEqual(90);
  await page.keyboard.type(TEN);
  await expect(board(page).getByRole("option", { name: /^(BT|F|R|LA)\d/ })).toHaveCount(10);
  const wanted = await partsShown(page);
  await page.goto(server.address);
  await expect(page.getByRole("button", { name: "New job" })).toBeVisible();
  await page.keyboard.press("n");
  await page.keyboard.type("By board");
  await page.keyboard.press("Enter");
  await expect(page.getByLabel("Trail of the circuit")).toBeFocused();
  // A board needs a supply and something across it to begin with.
  await page.keyboard.type("BT1 12V: F1 2A");
  const ask = async (target: RegExp, key: string, words: string) => {
    await part(page, target).click();
    await board(page).focus();
    await page.keyboard.press(key);
    const field = page.locator("#board-question");
    await expect(field).toBeFocused();
    await field.fill(words);
    await page.keyboard.press("Enter");
    await expect(field).toHaveCount(0);
  };
  await ask(/^F1 /, "a", "R1 220");
  await ask(/^R1 /, "a", "R2 1k");
  await ask(/^R2 /, "p", "R3 470");
  await ask(/^R3 /, "a", "R4 330");
  await ask(/^BT1 /, "b", "R6 1k");
  await ask(/^R6 /, "b", "R5 100");
  await ask(/^R5 /, "a", "LA1 12V 5W");
  await ask(/^R6 /, "p", "R7 2k2");
  // The same parts with the same values, and the same current through every one of them.
  await expect.poll(() => partsShown(page)).toEqual(wanted);
});

/** Every part with its value and the current expected through it, in no order. */
async function partsShown(page: Page): Promise<string[]> {
  const labels = await board(page)
    .getByRole("option", { name: /^(BT|F|R|LA)\d/ })
    .evaluateAll((list) =>
      list.map((e) => {
        const [label, , current] = (e.getAttribute("aria-label") ?? "").split(", ");
        return `${label}, ${current}`;
      }),
    );
  return labels.sort();
}
