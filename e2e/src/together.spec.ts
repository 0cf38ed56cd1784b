import { Job } from "@hound/core/record";
import type { Page } from "@playwright/test";
import { count } from "./deep.ts";
import { allInFull } from "./menu.ts";
import { patient } from "./patience.ts";
import { expect, test } from "./server.ts";

/** Changes by each of the two, and between which of them one is cut off. */
const EACH = count(100, 8);
const CUT = { from: 0.3 * EACH, to: 0.6 * EACH };

const list = (page: Page) => page.getByRole("list", { name: "Readings" });
const record = async (page: Page, text: string) => {
  const line = page.getByRole("textbox", { name: "Reading", exact: true });
  await line.fill(text);
  await page.keyboard.press("Enter");
  await expect(line).toHaveValue("");
};
const callMe = async (page: Page, address: string, name: string) => {
  await page.goto(`${address}/workshop`);
  await page.getByLabel("Another name").fill(name);
  await page.getByRole("button", { name: "That is me" }).click();
};

test("two at one job see each other's readings, with names", async ({ page, server, browser }) => {
  const other = await (await browser.newContext()).newPage();
  await callMe(page, server.address, "Ann");
  await callMe(other, server.address, "Bo");
  const address = await server.bench("vent", "readings");
  await page.goto(address);
  await other.goto(address);
  await expect(page.getByRole("note", { name: "Also here" })).toContainText("Bo");
  await expect(other.getByRole("note", { name: "Also here" })).toContainText("Ann");
  await record(page, "C 19.80");
  await expect(list(other).getByRole("listitem").filter({ hasText: "19.80 V" })).toContainText("Ann");
  await record(other, "C 19.81");
  await expect(list(page).getByRole("listitem").filter({ hasText: "19.81 V" })).toContainText("Bo");
  await other.close();
  await expect(page.getByRole("note", { name: "Also here" })).toHaveCount(0);
});

test(`${2 * EACH} changes of two browsers, one of them cut off for a while, end equal, nothing lost`, async ({
  page,
  server,
  browser,
}) => {
  test.setTimeout(patient(400_000));
  const cutOff = await browser.newContext();
  const other = await cutOff.newPage();
  const address = await server.bench("vent", "readings");
  await page.goto(address);
  await other.goto(address);
  for (const one of [page, other]) await allInFull(one);
  await expect(list(other).getByRole("listitem")).toHaveCount(3);
  const expected = new Set<string>();
  for (let n = 0; n < EACH; n += 1) {
    if (n === Math.floor(CUT.from)) await cutOff.setOffline(true);
    if (n === Math.floor(CUT.to)) await cutOff.setOffline(false);
    for (const [who, one] of [page, other].entries()) {
      // Each figure once: by it a reading is known again. Most are taken back, so that the list stays short.
      const value = `${10 + who}.${String(n).padStart(3, "0")}`;
      if (n % 8 === 7) await one.getByLabel("State of the job").selectOption((n + who) % 2 === 0 ? "new" : "open");
      else if (n % 2 === 1) await record(one, "-");
      else {
        await record(one, `${who === 0 ? "A" : "B"} ${value}`);
        if (n % 8 === 6) expected.add(value);
      }
    }
  }
  for (const one of [page, other])
    await expect(one.locator("[data-saved]")).toHaveText("Saved", { timeout: patient(60_000) });
  const { pathname } = new URL(address);
  const id = pathname.split("/")[2];
  const job = Job.parse(await (await fetch(`${server.address}/api/jobs/${id}`)).json());
  const stored = job.readings.map(({ reading }) =>
    reading.quantity === "observation" ? "" : reading.value.toFixed(3),
  );
  expect(stored.filter((v) => Number(v) < 12 && Number(v) >= 10).sort()).toEqual([...expected].sort());
  // Both show the same, in the same order, as does whoever comes anew.
  const shown = (one: Page) => list(one).getByRole("listitem").allInnerTexts();
  await expect.poll(async () => (await shown(other)).length).toBe(job.readings.length);
  await expect.poll(async () => JSON.stringify(await shown(page)) === JSON.stringify(await shown(other))).toBe(true);
  const state = await page.getByLabel("State of the job").inputValue();
  await expect(other.getByLabel("State of the job")).toHaveValue(state);
  expect(job.state).toBe(state);
});

test("a page that the browser put to sleep goes on where it was, with what others did meanwhile", async ({
  page,
  server,
  browser,
}) => {
  const address = await server.bench("vent", "readings");
  await page.goto(address);
  await allInFull(page);
  await expect(list(page).getByRole("listitem")).toHaveCount(3);
  await page.getByLabel("Reading", { exact: true }).fill("D 1.9");
  const client = await page.context().newCDPSession(page);
  await client.send("Page.setWebLifecycleState", { state: "frozen" });
  const elsewhere = await browser.newContext();
  const other = await elsewhere.newPage();
  await other.goto(address);
  for (const value of ["19.80", "19.81"]) {
    await record(other, `C ${value}`);
    await expect(
      list(other)
        .getByRole("listitem")
        .filter({ hasText: `${value} V` }),
    ).toBeVisible();
  }
  await client.send("Page.setWebLifecycleState", { state: "active" });
  await expect(list(page).getByRole("listitem")).toHaveCount(5);
  await page.getByLabel("Reading", { exact: true }).press("Enter");
  await expect(
    list(other).getByRole("listitem").filter({ hasText: "1.900 V" }).or(list(other).getByText("1.9 V")),
  ).toBeVisible();
  await client.detach();
});
