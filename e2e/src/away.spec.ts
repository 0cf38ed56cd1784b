import { readFileSync, writeFileSync } from "node:fs";
import { join } from "node:path";
import { brotliCompressSync, gzipSync } from "node:zlib";
import type { Page } from "@playwright/test";
import { fromMenu } from "./menu.ts";
import { patient } from "./patience.ts";
import { expect, alone as test } from "./server.ts";

test.use({ serviceWorkers: "allow" });

/** Until the pages are on the device, and it is the device that gives them. */
const isKept = (page: Page) =>
  page.waitForFunction(async () => {
    await navigator.serviceWorker.ready;
    return navigator.serviceWorker.controller !== null;
  });
const header = (page: Page) => page.getByRole("banner");
const readings = (page: Page) => page.getByRole("list", { name: "Readings" }).getByRole("listitem");
async function record(page: Page, words: string) {
  await page.getByLabel("Reading", { exact: true }).fill(words);
  await page.keyboard.press("Enter");
}
async function valuesOf(page: Page, address: string) {
  const { origin, pathname } = new URL(address);
  const { readings: list } = await (await page.request.get(`${origin}/api/jobs/${pathname.split("/")[2]}`)).json();
  return list.map((r: { reading: { value?: number } }) => r.reading.value);
}

test("the pages load and work while the server is away, and all of it arrives when it is back", async ({
  page,
  server,
}) => {
  const address = await server.bench("vent", "readings");
  await page.goto(server.address);
  await isKept(page);
  await page.goto(address);
  await expect(readings(page)).toHaveCount(3);
  await page.goto(`${server.address}/library`);
  await expect(page.getByRole("main").getByRole("listitem").first()).toBeVisible();
  await server.kill();
  await page.goto(`${server.address}/jobs`);
  await expect(page.getByRole("alert")).toContainText("The server does not answer");
  await expect(page.getByRole("main").getByText("Vent drive", { exact: false }).first()).toBeVisible();
  await page.goto(`${server.address}/library`);
  await expect(page.getByRole("main").getByRole("listitem").first()).toBeVisible();
  await page.goto(address);
  await expect(readings(page)).toHaveCount(3);
  await expect(header(page)).toContainText("All is saved, but the server does not answer: shown as last seen here.");
  await record(page, "C 1.93");
  await expect(header(page)).toContainText("Not saved: the server does not answer. Kept here, trying again.");
  await page.reload();
  await expect(readings(page).first()).toContainText("1.93 V");
  // A job is begun, and written, before the server knows of it.
  await page.goto(`${server.address}/jobs`);
  await page.getByRole("button", { name: "New job" }).click();
  await page.getByLabel("What is on the bench?").fill("Soil heater, north bed");
  await page.keyboard.press("Enter");
  await expect(page.getByRole("heading", { name: "Soil heater, north bed" })).toBeVisible();
  await page.getByLabel("Trail of the circuit").click();
  await page.keyboard.type("BT1 12V: F1 1A + [A] R1 10");
  await expect(header(page)).toContainText("Kept here, trying again.");
  // A note and a picture of it wait as well, to be seen meanwhile.
  await fromMenu(page, "Timeline of this job");
  await page.getByRole("dialog").getByLabel("Note").fill("smells of glue");
  await page.keyboard.press("Enter");
  await expect(page.getByRole("dialog").getByLabel("Note")).toHaveValue("");
  await expect(page.getByRole("dialog").getByRole("listitem")).toContainText("smells of glue not saved yet");
  await page.keyboard.press("Escape");
  await page.getByRole("heading", { level: 1 }).getByRole("button").click();
  const png = await page.screenshot({ clip: { x: 0, y: 0, width: 300, height: 200 } });
  await page.getByLabel("Picture files").setInputFiles({ name: "glue.png", mimeType: "image/png", buffer: png });
  await expect(page.getByRole("dialog")).toContainText("1 picture");
  await page.reload();
  await expect(page.getByRole("button", { name: "Picture glue.png" })).toBeVisible();
  await page.goto(`${server.address}/jobs`);
  const waiting = page.getByRole("region", { name: "Not saved yet" });
  await expect(waiting).toContainText("Soil heater, north bed");
  await server.start();
  // Nobody opens the jobs: it goes out all the same.
  await expect(waiting).toBeHidden({ timeout: patient(45_000) });
  expect(await valuesOf(page, address)).toContain(1.93);
  const { jobs } = await (await page.request.get(`${server.address}/api/jobs?search=soil+heater`)).json();
  expect(jobs).toMatchObject([{ title: "Soil heater, north bed", partCount: 3 }]);
  const of = async (what: string) =>
    (await page.request.get(`${server.address}/api/jobs/${jobs[0].id}/${what}`)).json();
  // What is on its way just now is not shown as waiting.
  await expect
    .poll(async () => (await of("pictures")).pictures, { timeout: patient(45_000) })
    .toMatchObject([{ name: "glue.png" }]);
  await expect
    .poll(async () => JSON.stringify(await of("history?limit=20")), { timeout: patient(45_000) })
    .toContain("smells of glue");
});

test("another tab sends what a closed one left, also where nobody opens the job", async ({ page, server, context }) => {
  const address = await server.bench("vent", "readings");
  await page.goto(`${server.address}/jobs`);
  const other = await context.newPage();
  await other.goto(address);
  await expect(other.getByText(/^Next: /)).toBeVisible();
  await server.kill();
  for (const words of ["A 23.9", "C 1.94"]) await record(other, words);
  await other.close();
  await server.start();
  await expect
    .poll(() => valuesOf(page, address), { timeout: patient(45_000) })
    .toEqual(expect.arrayContaining([23.9, 1.94]));
  const values = await valuesOf(page, address);
  expect(values.filter((v: number) => v === 23.9)).toHaveLength(1);
});

test("what the browser says of the network hides no server on this machine", async ({ page, server }) => {
  await page.addInitScript(() => Object.defineProperty(navigator, "onLine", { get: () => false }));
  await page.goto(await server.bench("vent", "readings"));
  await page.evaluate(() => window.dispatchEvent(new Event("offline")));
  await expect(readings(page)).toHaveCount(3);
  await record(page, "C 1.93");
  await expect(header(page).getByText("Saved", { exact: true })).toBeVisible();
  await page.evaluate(() => window.dispatchEvent(new Event("online")));
  await page.goto(`${server.address}/jobs`);
  await expect(page.getByRole("main").getByRole("listitem").first()).toBeVisible();
});

test("a newer version is announced and taken when asked for; an open tab goes on with what it has", async ({
  page,
  server,
  context,
}) => {
  await server.moveOut();
  await page.goto(`${server.address}/jobs`);
  await isKept(page);
  const other = await context.newPage();
  await other.goto(`${server.address}/jobs`);
  const index = join(server.pages, "index.html");
  const write = (file: string, text: string) => {
    writeFileSync(file, text);
    writeFileSync(`${file}.br`, brotliCompressSync(text));
    writeFileSync(`${file}.gz`, gzipSync(text));
  };
  write(index, readFileSync(index, "utf8").replace("</head>", '<meta name="cleverer" /></head>'));
  const worker = join(server.pages, "sw.js");
  write(worker, readFileSync(worker, "utf8").replace(/(index\.html[`"'],"?revision"?:[`"'])\w/, "$1x"));
  // As a page that was away for a while does.
  await page.evaluate(async () => (await navigator.serviceWorker.ready).update());
  await page.getByText("A new version of these pages is there.").waitFor();
  await page.getByRole("button", { name: "Reload" }).click();
  await expect(page.locator("meta[name=cleverer]")).toBeAttached();
  await other.getByRole("link", { name: "Library" }).click();
  await expect(other.getByRole("main").getByRole("listitem").first()).toBeVisible();
});

test.describe("without a service worker", () => {
  test.use({ serviceWorkers: "block" });

  test("a part of the pages that is there no more after an upgrade loads the page anew, once", async ({
    page,
    server,
  }) => {
    await page.goto(`${server.address}/jobs`);
    let missing = 0;
    await page.route("**/assets/LibraryPage*", (route) => {
      missing += 1;
      return missing === 1 ? route.fulfill({ status: 404 }) : route.continue();
    });
    await page.getByRole("link", { name: "Library" }).click();
    await expect(page.getByRole("heading", { name: "Library" })).toBeVisible();
    await expect(page.getByRole("main").getByRole("listitem").first()).toBeVisible();
    expect(missing).toBe(2);
  });
});
