import { spawnSync } from "node:child_process";
import { readFileSync } from "node:fs";
import { join } from "node:path";
import { count } from "./deep.ts";
import { allInFull, fromMenu } from "./menu.ts";
import { patient } from "./patience.ts";
import { alone, expect, fresh, test } from "./server.ts";

alone("what is typed while the server is down is kept, and saved when it is back", async ({ page, server }) => {
  await page.goto(await server.bench("vent", "readings"));
  const line = page.getByLabel("Reading", { exact: true });
  const list = page.getByRole("list", { name: "Readings" });
  await expect(list.getByRole("listitem")).toHaveCount(3);
  await server.kill();
  await line.fill("C 1.93");
  await page.keyboard.press("Enter");
  await expect(page.getByText(/Not saved: the server does not answer/)).toBeVisible();
  await expect(list.getByRole("listitem").first()).toContainText("not saved yet");
  await server.start();
  await expect(page.getByText("Saved", { exact: true })).toBeVisible({ timeout: patient(15_000) });
  await page.reload();
  await expect(list.getByRole("listitem").first()).toContainText("1.93 V");
});

test("two tabs: what both wrote is made one, the same line is asked about, and the loser is among the versions", async ({
  page,
  server,
  context,
}) => {
  const address = await server.bench("vent", "circuit");
  await page.goto(address);
  const other = await context.newPage();
  // A connection that has gone dead: it does not hear of the change in time.
  await other.route("**/events*", (route) => route.abort());
  await other.goto(address);
  const typeAtEnd = async (tab: typeof page, text: string) => {
    await tab.getByLabel("Trail of the circuit").click();
    await tab.keyboard.press("Control+End");
    await tab.keyboard.type(text);
  };
  const isSaved = (tab: typeof page) => expect(tab.getByText("Saved", { exact: true })).toBeVisible();
  await typeAtEnd(page, "\n[A] R21 1k [D]");
  await isSaved(page);
  await typeAtEnd(other, "\n[A] R22 2k [D]");
  await expect(other.getByLabel("Trail of the circuit")).toContainText("R21 1k");
  await isSaved(other);
  for (const tab of [page, other])
    for (const line of ["R21 1k", "R22 2k"]) await expect(tab.getByLabel("Trail of the circuit")).toContainText(line);
  await typeAtEnd(page, " 5%");
  await isSaved(page);
  await typeAtEnd(other, " 2%");
  const choice = other.getByRole("alert", { name: "Two versions of the circuit" });
  await expect(choice).toContainText("R22 2k [D] 5%");
  await expect(other.getByText("Not saved: two versions, see below.")).toBeVisible();
  await choice.getByRole("button", { name: "Take what is stored" }).click();
  await isSaved(other);
  await expect(other.getByLabel("Trail of the circuit")).toContainText("R22 2k [D] 5%");
  await other.getByRole("button", { name: "Export" }).click();
  await other.getByRole("menuitem", { name: /Earlier versions/ }).click();
  const versions = other.getByRole("dialog", { name: "Versions of this circuit" });
  await expect(versions.getByText(/in force/)).toBeVisible();
  await versions
    .getByRole("button", { name: /^Version/ })
    .nth(1)
    .click();
  await versions.getByText("The trail", { exact: true }).click();
  await expect(versions).toContainText("R22 2k [D] 2%");
});

fresh(
  "a browser that lets nothing be stored works all the same, and says what it cannot keep",
  async ({ page, server }) => {
    await page.addInitScript(() => {
      const forbid = (name: string) =>
        Object.defineProperty(window, name, {
          get: () => {
            throw new DOMException("forbidden", "SecurityError");
          },
        });
      for (const name of ["localStorage", "sessionStorage", "indexedDB"]) forbid(name);
    });
    await page.goto(await server.bench("vent", "readings"));
    const rows = page.getByRole("list", { name: "Readings" }).getByRole("listitem");
    await expect(rows).toHaveCount(3);
    await fromMenu(page, "Use the dark look");
    await allInFull(page);
    const line = page.getByLabel("Reading", { exact: true });
    await line.fill("C 1.93");
    await line.press("Enter");
    await expect(rows).toHaveCount(4);
    await expect(page.getByRole("banner")).toContainText("Saved");
    await page.route("**/api/jobs/*/readings", (route) => route.abort());
    await line.fill("D 1.94");
    await line.press("Enter");
    await expect(page.getByRole("banner")).toContainText("This device keeps nothing: leave the page open.");
    await page.unrouteAll();
    await expect(page.getByRole("banner")).toContainText("Saved", { timeout: patient(40_000) });
    // Every other page as well.
    for (const [path, words] of [
      ["/jobs", "Greenhouse vent drive"],
      ["/library", "parts"],
      ["/workshop", "Conventions"],
      ["/sums", "Divider"],
      ["/failures", "What fails here"],
    ]) {
      await page.goto(server.address + path);
      await expect(page.getByText(words).first()).toBeVisible();
      await expect(page.getByText("what is not saved yet goes when the page goes").first()).toBeVisible();
    }
  },
);

test("a workshop that is brought in says how far it is, and is stopped by a button", async ({ page, server }) => {
  await page.goto(`${server.address}/workshop`);
  // Held on its way, as a large one is.
  await page.route("**/api/workshop?*", () => {});
  await page.route("**/api/work/*", (route) => route.fulfill({ json: { done: 3, of: 10 } }));
  const files = page.getByRole("region", { name: "Open files" });
  const zip = { name: "w.zip", mimeType: "application/zip", buffer: Buffer.from("PK") };
  await files.getByLabel("Folder of a workshop, packed").setInputFiles(zip);
  await expect(files.getByRole("progressbar")).toBeVisible();
  await files.getByRole("button", { name: "Stop" }).click();
  await expect(files.getByRole("alert")).toContainText("Stopped");
  await expect(files.getByRole("progressbar")).toHaveCount(0);
  // One that the browser loads: how far the server is, until it is done.
  await page.route("**/api/workshop.zip?*", (route) => route.fulfill({ status: 204 }));
  await files.getByRole("link", { name: "Save the workshop as a folder" }).click();
  await expect(files).toContainText("Packing: 3 of 10 jobs");
  await page.unrouteAll();
  await expect(files.getByRole("progressbar")).toHaveCount(0);
});

test("an address that leads nowhere, and a job that is gone, say so", async ({ page, server }) => {
  await page.goto(`${server.address}/nowhere`);
  await expect(page.getByRole("heading", { name: "There is nothing at this address" })).toBeVisible();
  await page.goto(`${server.address}/jobs/00000000-0000-4000-8000-000000000000/readings`);
  await expect(page.getByText("There is no such job")).toBeVisible();
});

test("a circuit that cannot be ranked explains itself", async ({ page, server }) => {
  await page.goto(await server.bench("lantern", "circuit"));
  await page.getByLabel("Trail of the circuit").click();
  await page.keyboard.press("Control+End");
  await page.keyboard.type("\n[A] BT8 5V ri=0 [C]\n[A] BT9 6V ri=0 [C]");
  await expect(page.getByRole("region", { name: "What is odd" })).toContainText(
    /BT8 and BT9 lie across the same two nodes and disagree by 1\sV/,
  );
  await page.keyboard.press("Alt+3");
  await expect(page.getByText(/cannot be solved/).first()).toBeVisible();
  // Nor is anything said to be on its way.
  await expect(page.getByText("What to read next cannot be worked out")).toBeVisible();
});

test("a file dropped on the bench is looked at before anything changes, mistakes and all", async ({ page, server }) => {
  await page.goto(await server.bench("vent", "circuit"));
  const board = page.getByRole("listbox", { name: /Board of/ });
  await expect(board.getByRole("option", { name: /^R9/ })).toBeAttached();
  await expect(page.getByRole("button", { name: "Import" })).toBeVisible();
  const drop = (name: string, text: string) =>
    page.evaluate(
      ([file, contents]) => {
        const data = new DataTransfer();
        data.items.add(new File([contents], file, { type: "text/plain" }));
        window.dispatchEvent(new DragEvent("drop", { dataTransfer: data, bubbles: true, cancelable: true }));
      },
      [name, text],
    );
  await drop("broken.trail", "BT1 9V: R1 4q7 + R2");
  const dialog = page.getByRole("dialog", { name: "Import" });
  await expect(dialog).toContainText(/Line 1, column 12.*4q7/);
  await expect(dialog.getByRole("button", { name: "Take over" })).toBeDisabled();
  await dialog.getByRole("button", { name: "Leave all as it is" }).click();
  await expect(board.getByRole("option", { name: /^R9/ })).toBeAttached();
  await drop("more.csv", "quantity,from,to,value,unit\nvoltage,B,,19.9,V\nvoltage,NOWHERE,,1,V\n");
  await expect(dialog).toContainText("readings table, 2 readings");
  await expect(dialog).toContainText("Set aside, for they fit no node or part: NOWHERE");
  await dialog.getByRole("button", { name: "Take over" }).click();
  await page.keyboard.press("Alt+3");
  await allInFull(page);
  await expect(page.getByRole("list", { name: "Readings" }).getByRole("listitem")).toHaveCount(4);
});

alone(
  "edits from the board wait for the trail to be sound, and conventions when they are not saved yet",
  async ({ page, server }) => {
    await page.goto(await server.bench("vent", "circuit"));
    const board = page.getByRole("listbox", { name: /Board of/ });
    await board.getByRole("option", { name: /^R1 / }).click();
    const bar = page.getByRole("region", { name: "Selected on the board" });
    await expect(bar.getByRole("button", { name: "Parallel" })).toBeVisible();
    await page.getByLabel("Trail of the circuit").click();
    await page.keyboard.press("Control+End");
    await page.keyboard.type("\n[A] R7 4q7 [D]");
    await expect(page.getByText("The picture is from before the mistakes")).toBeVisible();
    await expect(bar.getByRole("button", { name: "Parallel" })).toHaveCount(0);
    await page.getByRole("tab", { name: "Parts" }).click();
    await expect(page.getByText(/comes back when the mistakes in the trail are mended/)).toBeVisible();
    await page.getByRole("tab", { name: "Trail" }).click();
    await page.getByLabel("Trail of the circuit").press("Control+End");
    for (let i = 0; i < "[A] R7 4q7 [D]".length; i += 1) await page.keyboard.press("Backspace");
    await board.getByRole("option", { name: /^R1 / }).click();
    await expect(bar.getByRole("button", { name: "Parallel" })).toBeVisible();
    await page.goto(`${server.address}/workshop`);
    await expect(page.getByLabel("As rectangles (IEC)")).toBeChecked();
    await server.kill();
    await page.getByLabel("As zigzags (ANSI)").click();
    // What else the page asks for meanwhile may have its own word about that.
    const kept = page.getByRole("region", { name: "Not saved yet" }).getByRole("alert");
    await expect(kept).toContainText(/Resistors drawn.*the server does not answer\. Kept here/);
    await expect(page.getByLabel("As zigzags (ANSI)")).toBeChecked();
    await server.start();
    await expect(kept).toHaveCount(0, { timeout: patient(40_000) });
    await page.reload();
    await expect(page.getByLabel("As zigzags (ANSI)")).toBeChecked();
  },
);

test("what one device records appears on the other, and a node named by it raises no conflict", async ({
  page,
  browser,
  server,
}) => {
  const address = await server.bench("soil", "readings");
  const other = await (await browser.newContext()).newPage();
  await Promise.all([page.goto(address), other.goto(address)]);
  const readings = (of: typeof page) => of.getByRole("list", { name: "Readings" }).getByRole("listitem");
  for (const one of [page, other]) await allInFull(one);
  await expect(readings(page)).toHaveCount(6);
  await expect(readings(other)).toHaveCount(6);
  // A reading at a junction without a name writes the name into the trail.
  await other.getByLabel("Reading", { exact: true }).fill("n1 1.2");
  await other.keyboard.press("Enter");
  await expect(readings(page)).toHaveCount(7);
  await expect(readings(page).first()).toContainText("1.2 V");
  await page.getByLabel("Reading", { exact: true }).fill("N 7.1");
  await page.keyboard.press("Enter");
  await expect(readings(other)).toHaveCount(8);
  for (const one of [page, other]) {
    await expect(one.getByText("Saved", { exact: true })).toBeVisible();
    await expect(one.getByRole("alert")).toHaveCount(0);
  }
  await other.context().close();
});

alone(
  "what was typed for a job that is gone stays, and is shown; a closed tab's readings are taken over",
  async ({ page, server, context }) => {
    const address = await server.bench("vent", "readings");
    await page.goto(address);
    const line = page.getByLabel("Reading", { exact: true });
    await expect(page.getByText(/^Next: /)).toBeVisible();
    const other = await context.newPage();
    await other.goto(address);
    await expect(other.getByText(/^Next: /)).toBeVisible();
    await server.kill();
    for (const [tab, words] of [
      [page, "A 23.9"],
      [other, "C 1.94"],
      [other, "D 1.96"],
    ] as const) {
      await tab.getByLabel("Reading", { exact: true }).fill(words);
      await tab.keyboard.press("Enter");
    }
    await expect(other.getByText(/Kept here, trying again/)).toBeVisible();
    // The other tab is closed before the server is back: the next that opens the job has what it left.
    await other.close();
    await server.start();
    await page.goto(server.address);
    await page.goto(address);
    for (const value of ["23.9 V", "1.94 V", "1.96 V"])
      await expect(page.getByRole("listitem").filter({ hasText: value }).first()).toBeVisible();
    await expect(page.getByText("Saved", { exact: true })).toBeVisible();
    const id = new URL(address).pathname.split("/")[2];
    const { readings } = await (await page.request.get(`${server.address}/api/jobs/${id}`)).json();
    expect(
      readings.filter((r: { reading: { value: number } }) => [23.9, 1.94, 1.96].includes(r.reading.value)),
    ).toHaveLength(3);
    // Deleted elsewhere while something is typed here.
    await page.request.delete(`${server.address}/api/jobs/${id}`);
    await line.fill("B 19.8");
    await line.press("Enter");
    const tray = page.getByRole("alert", { name: "Not saved" });
    await expect(tray).toContainText(/B 19\.8.* This job is deleted/);
    await expect(page.getByText("Not all is saved: see below.")).toBeVisible();
    await page.reload();
    await expect(tray).toContainText("B 19.8");
    await page.getByRole("button", { name: "Restore the job" }).click();
    await expect(page.getByText("This job is deleted: nothing new")).toHaveCount(0);
    await tray.getByRole("button", { name: "Edit" }).click();
    await expect(tray).toHaveCount(0);
    await expect(line).toHaveValue("B 19.8");
    await line.fill("B 19.9");
    await line.press("Enter");
    await expect(page.getByRole("listitem").filter({ hasText: "19.9 V" }).first()).toBeVisible();
    await expect(page.getByText("Saved", { exact: true })).toBeVisible();
    await expect(tray).toHaveCount(0);
  },
);

fresh("what stands in a form is still there after the page was closed, until it is saved", async ({ page, server }) => {
  // An earlier version kept it in another place.
  await page.addInitScript(() => {
    if (sessionStorage.length === 0) localStorage.setItem("hound:form:finding x", '"R3 burnt"');
  });
  await page.goto(server.address);
  const left = page.getByRole("region", { name: "Not saved yet" });
  await expect(left).toContainText("R3 burnt");
  await left.getByRole("button", { name: "Let it go" }).click();
  await expect(left).toBeHidden();
  await page.reload();
  await expect(left).toBeHidden();
  await page.getByRole("button", { name: "New job" }).click();
  await page.getByLabel("What is on the bench?").fill("Heater panel, seedling house");
  await page.reload();
  await page.getByRole("button", { name: "New job" }).click();
  await expect(page.getByLabel("What is on the bench?")).toHaveValue("Heater panel, seedling house");
  await page.keyboard.press("Enter");
  await expect(page.getByRole("heading", { name: "Heater panel, seedling house" })).toBeVisible();
  await page.goto(await server.bench("vent", "repair"));
  const open = page.getByRole("button", { name: "Close the job …" });
  const finding = page.getByLabel("What it was");
  await open.click();
  await finding.fill("R4, its joint.");
  await page.getByRole("link", { name: "Readings" }).click();
  await page.getByRole("link", { name: "Repair", exact: true }).click();
  await open.click();
  await expect(finding).toHaveValue("R4, its joint.");
  await page.reload();
  await open.click();
  await expect(finding).toHaveValue("R4, its joint.");
  await page.getByRole("radio", { name: "Found", exact: true }).check();
  await finding.fill("R4, its joint.");
  await page.getByRole("button", { name: "Close it" }).click();
  await expect(page.getByRole("banner").getByText("Saved", { exact: true })).toBeVisible();
  await page.reload();
  await expect(page.getByRole("region", { name: "How it ended" })).toContainText("R4, its joint.");
});

alone("a backup is saved from the workshop, is the whole database, and is put back there", async ({ page, server }) => {
  await page.goto(`${server.address}/workshop`);
  const begun = page.waitForEvent("download");
  await page.getByRole("link", { name: "Save a backup" }).click();
  const saved = await begun;
  expect(saved.suggestedFilename()).toMatch(/^clever-hound-\d{4}-\d\d-\d\d\.sqlite$/);
  expect(
    readFileSync(await saved.path())
      .subarray(0, 15)
      .toString(),
  ).toBe("SQLite format 3");
  const jobs = async () => (await (await page.request.get(`${server.address}/api/jobs`)).json()).jobs;
  const before = await jobs();
  for (const { id } of before) await page.request.delete(`${server.address}/api/jobs/${id}`);
  await page.getByLabel("Backup file").setInputFiles(await saved.path());
  const dialog = page.getByRole("dialog", { name: "Put a backup back" });
  await dialog.getByRole("button", { name: "Put it back" }).click();
  await expect(dialog.getByRole("status")).toContainText(`Put back: ${before.length} jobs`);
  expect(await jobs()).toEqual(before);
  await dialog.getByRole("button", { name: "Close" }).click();
  // What was replaced is a copy that can be put back as well.
  await page.getByText(/Copies on the server/).click();
  await expect(page.getByRole("listitem").filter({ hasText: "replaced" })).toHaveCount(1);
  await page.getByLabel("Backup file").setInputFiles({
    name: "picture.png",
    mimeType: "image/png",
    buffer: Buffer.from("no database"),
  });
  await dialog.getByRole("button", { name: "Put it back" }).click();
  await expect(dialog.getByRole("alert")).toContainText("nothing was changed. picture.png is no database");
});

alone("backup and restore do what the README says, in its words", async ({ page, server }) => {
  const readme = readFileSync(join(import.meta.dirname, "../../README.md"), "utf8");
  const [backup, restore] = ["backup", "restore"].map((what) => {
    const [, command] = new RegExp(`^(npm run ${what} monday\\.sqlite)`, "m").exec(readme) ?? [];
    return command.replace("monday.sqlite", join(server.folder, "monday.sqlite"));
  });
  const run = (command: string) =>
    spawnSync(command, {
      shell: true,
      encoding: "utf8",
      cwd: join(import.meta.dirname, "../.."),
      env: { ...process.env, HOUND_DB: join(server.folder, "hound.sqlite") },
    });
  const titles = async () => (await (await page.request.get(`${server.address}/api/jobs`)).json()).jobs.length;
  const before = await titles();
  expect(run(backup).stdout).toMatch(/Saved \d+ jobs, \d+ readings, \d+ circuits to /);
  expect(run(backup).stderr).toMatch(/overwrites nothing/);
  await page.request.post(`${server.address}/api/jobs`, { data: { title: "Later" } });
  expect(run(restore).stderr).toMatch(/Another process/);
  await server.kill();
  expect(run(restore).stdout).toMatch(/What was there before is kept in /);
  await server.start();
  expect(await titles()).toBe(before);
});

alone(
  "a job's history brings back what stood there, and what a bad disk changed is set apart",
  async ({ page, server }) => {
    const address = await server.bench("vent", "readings");
    await page.goto(address);
    const readings = page.getByRole("list", { name: "Readings" }).getByRole("listitem");
    await expect(readings).toHaveCount(3);
    await readings
      .first()
      .getByRole("button", { name: /Delete/ })
      .click();
    await page.getByLabel("State of the job").selectOption("new");
    const header = page.getByRole("banner");
    await expect(header.getByText("Saved", { exact: true })).toBeVisible();
    await page.reload();
    await expect(readings).toHaveCount(2);
    const history = page.getByRole("dialog", { name: "Timeline of this job" });
    await fromMenu(page, "Timeline of this job");
    await history.getByRole("button", { name: "Restore" }).click();
    await expect(readings).toHaveCount(3);
    await fromMenu(page, "Timeline of this job");
    await history
      .getByRole("listitem")
      .filter({ hasText: "State: Under way → New" })
      .getByRole("button", { name: "Put back" })
      .click();
    await expect(page.getByLabel("State of the job")).toHaveValue("open");
    await expect(header.getByText("Saved", { exact: true })).toBeVisible();
    await server.damage("readings", "data", "19.82", "19.83");
    await page.reload();
    await expect(readings).toHaveCount(2);
    const damaged = page.getByRole("alert", { name: "Damaged on the disk" });
    await damaged.getByText("A reading is not what was stored").click();
    await expect(damaged).toContainText("19.83");
    await damaged.getByRole("button", { name: "Delete it" }).click();
    await expect(damaged).toHaveCount(0);
  },
);

test("weighing hundreds of parts shows how far it is, and ends when asked to; many hundreds open", async ({
  page,
  server,
}) => {
  const chain = (count: number) =>
    `BT1 24V ri=0.3: F1 1A${Array.from({ length: count - 2 }, (_, i) => ` + R${i + 1} ${100 + i} 5%`).join("\n")}`;
  const open = async (count: number) => {
    const { id } = await (
      await page.request.post(`${server.address}/api/jobs`, {
        data: { title: `Rail of ${count}`, trail: chain(count) },
      })
    ).json();
    await page.goto(`${server.address}/jobs/${id}/readings`);
  };
  test.setTimeout(patient(180_000));
  await open(count(300, 90));
  await page.getByLabel("Reading", { exact: true }).fill("n20 20.1");
  await page.keyboard.press("Enter");
  const stands = page.getByRole("region", { name: "Where the job stands" });
  await expect(stands).toContainText(/Still weighing two faults at once: .* looked at/, { timeout: patient(40_000) });
  await stands.getByRole("button", { name: "Stop" }).click();
  await expect(stands).toContainText(/Stopped: .* of two faults at once were weighed/);
  await stands.getByRole("button", { name: "Go on" }).click();
  await expect(stands).toContainText(/Still weighing/, { timeout: patient(40_000) });
  const many = count(1200, 610);
  await open(many);
  await expect(page.getByRole("option", { name: new RegExp(`^R${many - 2} `) })).toBeAttached({
    timeout: patient(40_000),
  });
  await page.keyboard.press("Alt+2");
  await expect(page.getByText("Too large for Expected")).toBeVisible({ timeout: patient(40_000) });
});
