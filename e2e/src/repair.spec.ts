import { readFileSync } from "node:fs";
import type { Page } from "@playwright/test";
import { fromMenu } from "./menu.ts";
import type { RunningServer } from "./runningServer.ts";
import { expect, test } from "./server.ts";

const line = (page: Page) => page.getByRole("textbox", { name: "Reading", exact: true });
const record = async (page: Page, text: string) => {
  await line(page).click();
  await page.keyboard.type(text);
  await page.keyboard.press("Enter");
};
const saved = (page: Page) => expect(page.locator("[data-saved]")).toHaveText("Saved");
const prove = (page: Page) => page.getByRole("region", { name: "Prove it" });

/** What the vent drive shows where it is healthy, to the node. */
const HEALTHY: Readonly<Record<string, string>> = { A: "23.99", B: "16.91", C: "8.86", D: "3.22" };

/** From the suspects to a repair that is under way: R4 is to be replaced. */
async function begun(page: Page, server: RunningServer) {
  await page.goto(await server.bench("vent", "readings"));
  await record(page, "C 19.82");
  await page.keyboard.press("Alt+6");
  await page.getByRole("button", { name: "Repair R4" }).click();
  await expect(page.getByRole("heading", { name: "Repair: R4" })).toBeVisible();
}

async function fitted(page: Page) {
  const steps = page.getByRole("region", { name: "Steps" });
  for (const words of [/Power off/, /Fit the new R4/, /power on/]) await steps.getByLabel(words).check();
}

/** Reads what the proof proposes, one bare number after another. */
async function readProof(page: Page, shown: (place: string) => string) {
  const waiting = prove(page)
    .getByRole("listitem")
    .filter({ has: page.getByRole("button", { name: "Read it" }) });
  await expect(prove(page).getByRole("listitem").first()).toBeVisible();
  for (let left = await waiting.count(); left > 0; left -= 1) {
    await expect(waiting).toHaveCount(left);
    const place = ((await waiting.first().locator("strong").first().textContent()) ?? "").trim();
    await record(page, `${place} ${shown(place)}`);
  }
  await expect(waiting).toHaveCount(0);
}

/** And with R3 open. */
const BROKEN = { A: "23.99", B: "19.82", C: "1.95", D: "1.95" };

/** Volts between two nodes as they would be, or at one. */
function voltsAt(place: string, nodes: Readonly<Record<string, string>>): string {
  const [a, b] = place.split("–");
  const value = Number(nodes[a]) - (b ? Number(nodes[b]) : 0);
  return `${value.toFixed(2)}V`;
}

test("a repair goes from the suspect to the proof, the closed job and a report", async ({ page, server }) => {
  await begun(page, server);
  const part = page.getByRole("article", { name: "New R4" });
  await expect(part.getByRole("heading")).toHaveText(/330\sΩ ±\s5\s%/);
  await part.getByLabel("What the new R4 shows").fill("470");
  await part.getByRole("button", { name: "Check" }).click();
  await expect(part.getByRole("status")).toContainText("do not fit it");
  await part.getByLabel("What the new R4 shows").fill("328");
  await part.getByRole("button", { name: "Check" }).click();
  await expect(part.getByRole("status")).toContainText("good");
  await fitted(page);
  await readProof(page, (place) => voltsAt(place, HEALTHY));
  await expect(prove(page).getByRole("status")).toHaveText(/Repaired: (\d) of \1 agree\./);
  await page.getByRole("button", { name: "Close the job …" }).click();
  const form = page.getByRole("form", { name: "Close the job" });
  await expect(form.getByRole("radio", { name: "Found", exact: true })).toBeChecked();
  await expect(form.getByLabel("What it was")).toHaveValue(/^R4 open/);
  await form.getByLabel("What it was").fill("R4 open: its joint had cracked.");
  await form.getByLabel("Minutes").fill("25");
  await form.getByRole("button", { name: "Close it" }).click();
  const end = page.getByRole("region", { name: "How it ended" });
  await expect(end).toContainText("25 minutes");
  await expect(end).toContainText(/What led was (right|R3)/);
  await saved(page);

  // The list shows it, and finds it by what was found.
  await page.goto(`${server.address}/jobs?search=cracked`);
  await expect(page.getByRole("listitem").filter({ hasText: "cracked" })).toHaveCount(1);
  await expect(page.getByRole("main")).toContainText("Found");
  await page.getByRole("link", { name: "What fails here" }).click();
  await expect(page.getByRole("region", { name: "By circuit" })).toContainText("R4 open");

  await page.goto(await server.bench("vent", "sheets/report"));
  await expect(page.getByRole("region", { name: "What was found" })).toContainText("its joint had cracked");
  await expect(page.getByRole("region", { name: "What was found" })).toContainText("C read 19.82");
  await expect(page.getByRole("main")).toContainText(/After it (\d) of \1 readings agree/);
  const [html] = await Promise.all([
    page.waitForEvent("download"),
    page.getByRole("button", { name: "One HTML file" }).click(),
  ]);
  const text = readFileSync((await html.path()) as string, "utf8");
  expect(text).toContain("its joint had cracked");
  expect(text).toMatch(/src="data:image\/svg\+xml;base64,/);
  expect(text).not.toMatch(/(?:src|href)="(?!data:)/);
  const [markdown] = await Promise.all([
    page.waitForEvent("download"),
    page.getByRole("button", { name: "Markdown" }).click(),
  ]);
  expect(readFileSync((await markdown.path()) as string, "utf8")).toMatch(/## Proof after the repair[\s\S]*\| C? ?/);
});

test("what the proof does not bear out goes back to the suspects, and everything can be taken back", async ({
  page,
  server,
}) => {
  await begun(page, server);
  await fitted(page);
  // As it was before: the new part did not cure it, R3 is open as well.
  await readProof(page, (place) => voltsAt(place, BROKEN));
  await expect(prove(page).getByRole("status")).toContainText("Not settled");
  await page.getByRole("link", { name: "Back to Suspects" }).click();
  await expect(page).toHaveURL(/suspects$/);
  await page.keyboard.press("Alt+6");
  await page.getByRole("button", { name: "Choose again" }).click();
  await expect(page.getByRole("heading", { name: "What to repair" })).toBeVisible();
  await page.getByRole("button", { name: "Undo" }).click();
  await expect(page.getByRole("heading", { name: "Repair: R4" })).toBeVisible();
  await saved(page);
  await page.reload();
  await expect(page.getByRole("heading", { name: "Repair: R4" })).toBeVisible();
});

test("to call a job solved asks how it ended; given up is an end as well", async ({ page, server }) => {
  await page.goto(await server.bench("lantern", "circuit"));
  await page.getByLabel("State of the job").selectOption("Given up");
  const form = page.getByRole("form", { name: "Close the job" });
  await expect(form.getByRole("radio", { name: "Given up" })).toBeChecked();
  await form.getByLabel("What it was").fill("Not worth it");
  await form.getByRole("button", { name: "Close it" }).click();
  await expect(page.getByLabel("State of the job")).toHaveValue("givenUp");
  await page.getByRole("button", { name: "Open it again" }).click();
  await expect(page.getByLabel("State of the job")).toHaveValue("open");
  await page.getByLabel("State of the job").selectOption("Solved");
  await page.getByRole("form", { name: "Close the job" }).getByRole("button", { name: "Not yet" }).click();
  await expect(page.getByLabel("State of the job")).toHaveValue("open");
});

test("the timeline shows what was done and by whom, and any moment is there again", async ({ page, server }) => {
  await page.goto(`${server.address}/workshop`);
  await page.getByLabel("Another name").fill("Ann");
  await page.getByRole("button", { name: "That is me" }).click();
  await page.goto(await server.bench("vent", "readings"));
  await record(page, "C 19.82");
  await saved(page);
  await fromMenu(page, "Timeline of this job");
  const dialog = page.getByRole("dialog", { name: "Timeline of this job" });
  await dialog.getByLabel("Note", { exact: true }).fill("smells of burnt varnish");
  await dialog.getByRole("button", { name: "Note it" }).click();
  const rows = dialog.getByRole("listitem");
  await expect(rows.first()).toContainText("smells of burnt varnish");
  await expect(rows.first()).toContainText("Ann");
  const read = rows.filter({ hasText: "Read C 19.82" });
  await expect(read).toContainText("Ann");
  await expect(read).toContainText(/then leads R4 .*%/);
  await rows
    .filter({ hasText: "Read D" })
    .getByRole("link", { name: /As it was/ })
    .click();
  await expect(page.getByRole("heading", { name: /as it was$/ })).toBeVisible();
  const taken = page.getByRole("table", { name: "Readings" }).locator("tbody").getByRole("row");
  await expect(taken).toHaveCount(3);
  for (let n = 0; n < 9 && (await taken.count()) < 4; n += 1) await page.getByRole("button", { name: "Later" }).click();
  await expect(taken).toHaveCount(4);
  await page.getByRole("link", { name: "Back to now" }).click();
  await expect(page).toHaveURL(/readings$/);
});

test("pictures are kept beside the board with a caption, turned, and stand on the report where that is wanted", async ({
  page,
  server,
}) => {
  await page.goto(await server.bench("vent", "readings"));
  await page.getByRole("heading", { level: 1 }).getByRole("button").click();
  const png = await page.screenshot({ clip: { x: 0, y: 0, width: 300, height: 200 } });
  await page.getByLabel("Picture files").setInputFiles({ name: "scorched.png", mimeType: "image/png", buffer: png });
  await expect(page.getByRole("dialog")).toContainText("1 picture");
  await page.getByRole("button", { name: "Close" }).click();
  await page.getByRole("button", { name: "Picture scorched.png" }).click();
  await expect(page.getByRole("img", { name: "scorched.png" })).toBeVisible();
  await page.getByRole("button", { name: "Delete" }).click();
  await expect(page.getByRole("region", { name: "Pictures" })).toHaveCount(0);
  await page.getByRole("button", { name: "Undo" }).click();
  await expect(page.getByRole("button", { name: "Picture scorched.png" })).toBeVisible();
  await page.getByRole("button", { name: "Picture scorched.png" }).click();
  await page.getByLabel("Caption").fill("Scorched at R3");
  await page.getByRole("button", { name: "Turn" }).click();
  const large = page.getByRole("dialog").getByRole("img");
  await expect(large).toHaveAttribute("src", /turns=1/);
  // As wide as it was high.
  await expect.poll(() => large.evaluate((i: HTMLImageElement) => i.naturalHeight > i.naturalWidth)).toBe(true);
  await page.getByRole("button", { name: "Close" }).click();
  await expect(page.getByRole("button", { name: "Picture Scorched at R3" })).toBeVisible();
  await page.goto(await server.bench("vent", "sheets/report"));
  await expect(page.getByRole("img", { name: "Scorched at R3" })).toBeVisible();
  await page.goto(await server.bench("vent", "readings"));
  await page.getByRole("button", { name: "Picture Scorched at R3" }).click();
  await page.getByLabel("on the report").uncheck();
  await page.getByRole("button", { name: "Close" }).click();
  await fromMenu(page, "Timeline of this job");
  await expect(page.getByRole("dialog")).toContainText("Picture added: Scorched at R3");
  await page.goto(await server.bench("vent", "sheets/report"));
  await expect(page.getByRole("heading", { name: "Complaint" })).toBeVisible();
  await expect(page.getByRole("img", { name: "Scorched at R3" })).toHaveCount(0);
});

test("what closed jobs taught about a circuit is said where it makes the difference, and can be switched off", async ({
  page,
  server,
}) => {
  const send = async (method: string, path: string, body: object) => {
    const headers = { "Content-Type": "application/json" };
    return (await fetch(`${server.address}/api${path}`, { method, headers, body: JSON.stringify(body) })).json();
  };
  const { jobs } = await (await fetch(`${server.address}/api/jobs?search=lantern`)).json();
  const { circuit } = await (await fetch(`${server.address}/api/jobs/${jobs[0].id}`)).json();
  for (let n = 0; n < 6; n += 1) {
    const { id, revision } = await send("POST", "/jobs", { title: `Lantern ${n}`, trail: circuit.trail });
    const closing = { outcome: "found", faults: [{ part: "LA3", mode: "open" }], at: new Date().toISOString() };
    await send("PATCH", `/jobs/${id}`, { revision, state: "solved", closing });
  }
  await page.goto(`${server.address}/jobs/${jobs[0].id}/suspects`);
  const note = page.getByRole("note").filter({ hasText: "Habits made a difference" });
  await expect(note).toContainText(/LA3 would have \d+\s% without them/);
  await expect(note).toContainText(/LA3 open.* 6 times, in 6 jobs/);
  await note.getByRole("link", { name: "Habits" }).click();
  const habits = page.getByRole("region", { name: "Habits", exact: true });
  await expect(habits).toContainText("LA3 open 6 times in 6");
  await habits.getByLabel("Let closed jobs teach the ranking").click();
  await expect(habits.getByLabel("Let closed jobs teach the ranking")).not.toBeChecked();
  await page.goto(`${server.address}/jobs/${jobs[0].id}/suspects`);
  await expect(page.getByRole("region", { name: "Suspects" }).getByRole("listitem").first()).toBeVisible();
  await expect(note).toHaveCount(0);
});
