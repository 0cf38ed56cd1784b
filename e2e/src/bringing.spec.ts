import type { Page } from "@playwright/test";
import { allInFull } from "./menu.ts";
import { expect, test } from "./server.ts";

const readingsShown = (page: Page) => page.getByRole("list", { name: "Readings" }).getByRole("listitem");

async function startJob(page: Page, address: string, title: string) {
  await page.goto(`${address}/jobs`);
  await page.getByRole("button", { name: "New job" }).click();
  await page.getByLabel("What is on the bench?").fill(title);
  await page.keyboard.press("Enter");
  await page.getByLabel("First supply").waitFor();
}

/** What is typed at places of the page that have the focus, as a person would. */
async function paste(page: Page, selector: string, text: string) {
  await page
    .locator(selector)
    .first()
    .evaluate((element, data) => {
      const clipboardData = new DataTransfer();
      clipboardData.setData("text/plain", data);
      element.dispatchEvent(new ClipboardEvent("paste", { clipboardData, bubbles: true, cancelable: true }));
    }, text);
}

test("a circuit is built on the empty board by keys alone, forward, each new part the one to go on from", async ({
  page,
  server,
}) => {
  await startJob(page, server.address, "From nothing");
  await page.getByLabel("First supply").focus();
  await page.keyboard.type("BT1 9V");
  await page.keyboard.press("Enter");
  await page.keyboard.type("R1 100");
  await page.keyboard.press("Enter");
  const board = page.getByRole("listbox", { name: /Board of/ });
  await expect(board).toBeFocused();
  for (const words of ["220", "J1", "LA1 12V 5W"]) {
    await page.keyboard.press("a");
    await expect(page.locator("#board-question")).toBeFocused();
    await page.keyboard.type(words);
    await page.keyboard.press("Enter");
    await expect(board).toBeFocused();
  }
  await expect(page.locator(".cm-content")).toHaveText("BT1 9V: R1 100 + R2 220 + J1 + LA1 12V 5W");
  await expect(page.getByRole("option", { name: /^LA1 12\sV 5\sW, from n3 to 0/ })).toHaveAttribute(
    "aria-selected",
    "true",
  );
  // An insertion in the middle leaves every other node its number.
  await page.getByRole("option", { name: /^R1 / }).click();
  await page.getByRole("button", { name: "After", exact: true }).click();
  await page.keyboard.type("R9 5");
  await page.keyboard.press("Enter");
  await expect(page.getByRole("option", { name: /^J1, from n2 to n3/ })).toBeVisible();
  // What a node is called goes with it.
  await page.getByRole("option", { name: /^node n2/ }).click();
  await page.getByLabel("Known as").fill("TB2-4, blue wire");
  await page.keyboard.press("Enter");
  await expect(page.getByRole("option", { name: /^node n2, TB2-4, blue wire/ })).toBeVisible();
});

test("a parts table is filled in from empty, in place; rows go again, the focus to their neighbour", async ({
  page,
  server,
}) => {
  await startJob(page, server.address, "Table");
  await page.getByRole("tab", { name: "Parts" }).click();
  for (const row of [
    ["BT1", "P", "0", "12"],
    ["R1", "P", "A", "4k7"],
    ["R2", "A", "0", "1O0"],
  ]) {
    for (const [i, column] of ["designator", "from", "to", "value"].entries())
      await page.getByLabel(`New part ${column}`, { exact: true }).fill(row[i]);
    await page.keyboard.press("Enter");
    await expect(page.getByLabel(`${row[0]} value`)).toBeVisible();
    await expect(page.getByLabel("New part designator")).toBeFocused();
  }
  await expect(page.getByLabel("BT1 value")).toHaveValue("12V");
  await expect(page.getByLabel("R2 value")).toHaveValue("100");
  await page.getByLabel("R2 from").fill("P");
  await page.keyboard.press("Enter");
  await expect(page.getByRole("option", { name: /^R2 100\sΩ, from P to 0/ })).toBeVisible();
  await page.getByRole("button", { name: "Remove R1" }).click();
  await expect(page.getByLabel("R1 value")).toHaveCount(0);
  await expect(page.getByRole("button", { name: /^Remove / }).and(page.locator(":focus"))).toHaveCount(1);
  await page.getByRole("button", { name: "Undo" }).click();
  await expect(page.getByLabel("R1 value")).toBeVisible();
});

test("a table pasted into the trail is looked at first; what is doubtful is said with row and column", async ({
  page,
  server,
}) => {
  await startJob(page, server.address, "Pasted");
  await page.locator(".cm-content").waitFor();
  await paste(page, ".cm-content", "Value\tPart\tTo\tFrom\n24V\tBT1\tGND\tTB1-1\n4k7\tR1\tA\tTB1-1\n1O0\tR2\tGND\tA");
  const dialog = page.getByRole("dialog", { name: "Import" });
  await expect(dialog).toContainText("parts table, 3 parts");
  await expect(dialog).toContainText("Row 4, column 1");
  await expect(dialog).toContainText("“TB1-1” is written TB1_1 here");
  await dialog.getByRole("button", { name: "Take over" }).click();
  await expect(page.getByRole("option", { name: /^R2 100\sΩ, from A to GND/ })).toBeVisible();
  await expect(page.getByRole("option", { name: /^node TB1_1, TB1-1/ })).toBeVisible();
});

test("another job's case opens as a job of its own, or in part; one undo takes all of it back, strangers stay out", async ({
  page,
  server,
}) => {
  const pump = await server.bench("pump", "readings");
  const [, id] = /jobs\/([^/]+)/.exec(pump) as RegExpExecArray;
  const file = await (await fetch(`${server.address}/api/jobs/${id}/case`)).text();
  await page.goto(await server.bench("vent", "readings"));
  await expect(readingsShown(page)).toHaveCount(3);
  await page.getByRole("link", { name: "Circuit", exact: true }).click();
  const trail = () => page.locator(".cm-content").textContent();
  await page.locator(".cm-content").waitFor();
  const before = await trail();
  const open = async () => {
    await page.getByRole("button", { name: "Import" }).click();
    await page.getByLabel("Text to import").fill(file);
  };
  const dialog = page.getByRole("dialog", { name: "Import" });
  await open();
  await expect(dialog.getByRole("radio")).toHaveCount(4);
  await expect(dialog.getByRole("radio", { name: /new job/ })).toBeChecked();
  // Only what fits this circuit comes; the rest is named.
  await dialog.getByRole("radio", { name: "Readings only" }).check();
  await expect(dialog).toContainText("Set aside, for they fit no node or part: G ");
  await dialog.getByRole("radio", { name: "Replace circuit and readings" }).check();
  await expect(dialog).not.toContainText("Set aside");
  await dialog.getByRole("button", { name: "Take over" }).click();
  await expect(page.getByRole("option", { name: /^K1 / })).toBeVisible();
  await page.locator(".cm-content").focus();
  await page.keyboard.press("Control+z");
  await expect.poll(trail).toBe(before);
  await page.getByRole("link", { name: "Readings", exact: true }).click();
  await expect(readingsShown(page)).toHaveCount(3);
  await expect(page.getByText(/^Next: /)).toBeVisible();
  // Done again, and taken back by the notice.
  await page.getByRole("link", { name: "Circuit", exact: true }).click();
  await open();
  await dialog.getByRole("radio", { name: "Circuit only" }).check();
  await expect(dialog).toContainText("3 readings of this job stay as they are");
  await dialog.getByRole("button", { name: "Take over" }).click();
  await expect(page.getByRole("option", { name: /^K1 / })).toBeVisible();
  await page.getByRole("button", { name: "Undo" }).click();
  await expect.poll(trail).toBe(before);
  await open();
  await dialog.getByRole("button", { name: "Open the new job" }).click();
  await expect(page).not.toHaveURL(new RegExp(id));
  await expect(page.getByRole("heading", { level: 1 })).toContainText("Pump controller");
});

test("a file of the wrong kind is answered at once, and changes nothing", async ({ page, server }) => {
  await page.goto(await server.bench("vent", "circuit"));
  await page.getByRole("button", { name: "Import" }).click();
  const png = Buffer.from([0x89, 0x50, 0x4e, 0x47, 0x0d, 0x0a, 0x1a, 0x0a, 0, 0, 0, 0]);
  await page.getByLabel("File to import").setInputFiles({ name: "board.png", mimeType: "image/png", buffer: png });
  await expect(page.getByRole("alert")).toContainText("board.png is a picture (PNG)");
  await expect(page.getByRole("button", { name: "Take over" })).toBeDisabled();
  const wide = Buffer.from("\ufeffPart;From;To;Value\nR1;A;B;4,7k", "utf16le");
  await page.getByLabel("File to import").setInputFiles({ name: "parts.csv", mimeType: "text/csv", buffer: wide });
  await expect(page.getByRole("dialog")).toContainText("parts table, 1 part");
});

test("title, complaint, customer and device are changed where they are shown, notes keep their lines", async ({
  page,
  server,
}) => {
  await page.goto(await server.bench("vent", "readings"));
  await page.getByRole("heading", { level: 1 }).getByRole("button").click();
  const dialog = page.getByRole("dialog", { name: "About this job" });
  await dialog.getByLabel("What is on the bench").fill("Vent drive 3");
  await dialog.getByLabel("What is complained of").fill("first line\nsecond line\nthird line");
  await dialog.getByLabel("Customer").fill("Nursery at the mill");
  await dialog.getByLabel("Serial number").fill("VD-0042");
  await dialog.getByRole("button", { name: "Save" }).click();
  await expect(page.getByRole("heading", { level: 1 })).toContainText("Vent drive 3");
  await expect(page).toHaveTitle(/^Readings · Vent drive 3/);
  await expect(page.getByRole("heading", { level: 1 }).getByRole("button")).toBeFocused();
  const complaint = page.getByText("second line");
  expect(await complaint.evaluate((e) => e.getClientRects().length >= 1 && getComputedStyle(e).whiteSpace)).toMatch(
    /pre/,
  );
  // A note on a reading, typed behind #, is kept and shown with its number and time.
  const line = page.getByLabel("Reading", { exact: true });
  await line.fill("B 19.9 # S2 off, hot");
  await page.keyboard.press("Enter");
  const first = page.getByRole("list", { name: "Readings" }).getByRole("listitem").first();
  await expect(first).toContainText("S2 off, hot");
  await expect(first).toContainText("Reading 4");
  await allInFull(page);
  await expect(first.locator("time")).toHaveText(/^\d\d:\d\d$/);
  await page.goto(page.url().replace("readings", "sheets/job"));
  await expect(page.getByRole("main")).toContainText("Nursery at the mill");
  await expect(page.getByRole("main")).toContainText("VD-0042");
  await page.reload();
  await expect(page.getByRole("heading", { level: 1 })).toHaveText("Vent drive 3");
});
